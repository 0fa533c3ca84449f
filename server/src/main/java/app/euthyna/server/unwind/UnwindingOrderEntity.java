package app.euthyna.server.unwind;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(UnwindingOrderEntity.Key.class)
@Table(name = "unwinding_order")
public class UnwindingOrderEntity {
    @Id
    long unwindingId;

    @Id
    long orderId;

    public record Key(long unwindingId, long orderId) {}
}
