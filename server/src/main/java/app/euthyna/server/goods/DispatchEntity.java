package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "dispatch")
class DispatchEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "order_id")
    Long orderId;

    @Column(name = "site_id")
    Long siteId;

    @Enumerated(EnumType.STRING)
    Dispatch.State state;

    @Column(name = "staged_on")
    LocalDate stagedOn;

    @Column(name = "departed_on")
    LocalDate departedOn;

    @Column(name = "reversed_on")
    LocalDate reversedOn;

    @Column(name = "reversed_moment")
    Long reversedMoment;

    @ElementCollection
    @CollectionTable(name = "dispatch_line", joinColumns = @JoinColumn(name = "dispatch_id"))
    List<Line> lines = new ArrayList<>();

    @Version
    Long version;

    @Embeddable
    record Line(
            @Column(name = "root_order_id") Long rootOrderId,
            @Column(name = "order_line_no") int orderLineNo,
            @Column(name = "line_no") int lineNo,
            @Column(name = "item_id") Long itemId,
            BigDecimal quantity,
            BigDecimal cost) {}
}
