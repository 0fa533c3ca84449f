package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "cancellation")
public class CancellationEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long orderId;
    LocalDate cancelledOn;
    String reason;
}
