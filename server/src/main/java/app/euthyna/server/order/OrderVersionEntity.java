package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "order_version")
public class OrderVersionEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long orderId;
    int versionNo;
    LocalDate changedOn;
    String changedBy;
    String differences;
}
