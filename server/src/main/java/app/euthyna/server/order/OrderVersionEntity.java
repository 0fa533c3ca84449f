package app.euthyna.server.order;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "order_version")
class OrderVersionEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @Column(name = "order_id")
    Long orderId;

    @Column(name = "version_no")
    int versionNo;

    @Column(name = "changed_on")
    LocalDate changedOn;

    @Column(name = "changed_by")
    String changedBy;

    String differences;
}
