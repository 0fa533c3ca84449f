package app.euthyna.server.order;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "cancellation")
class CancellationEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "order_id")
    Long orderId;

    @Column(name = "cancelled_on")
    LocalDate cancelledOn;

    String reason;

    @ElementCollection
    @CollectionTable(name = "cancellation_line", joinColumns = @JoinColumn(name = "cancellation_id"))
    List<Line> lines = new ArrayList<>();

    @Embeddable
    record Line(
            @Column(name = "root_order_id") Long rootOrderId,
            @Column(name = "order_line_no") int orderLineNo,
            BigDecimal quantity) {}
}
