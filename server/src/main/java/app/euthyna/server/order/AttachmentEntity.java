package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "attachment")
public class AttachmentEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    Long orderId;
    String name;
    String mediaType;
    int sizeBytes;
    String attachedBy;
    Instant attachedAt;
    Long returnId;
    Long unexpectedId;
    Long paymentId;
}
