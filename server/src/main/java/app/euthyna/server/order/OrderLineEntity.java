package app.euthyna.server.order;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.FetchType;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "sales_order_line")
class OrderLineEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @ManyToOne(fetch = FetchType.LAZY)
    @JoinColumn(name = "order_id")
    OrderEntity order;

    @Column(name = "line_no")
    int lineNo;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    @Column(name = "item_code")
    String itemCode;

    String description;
    BigDecimal quantity;

    @Column(name = "unit_price")
    BigDecimal unitPrice;

    @Column(name = "discount_percent")
    BigDecimal discountPercent;

    @Enumerated(EnumType.STRING)
    @Column(name = "vat_category")
    Vat.Category vatCategory;

    @Column(name = "vat_rate")
    BigDecimal vatRate;

    @Column(name = "requested_on")
    LocalDate requestedOn;
    /** The store it ships from, where that is not the order's. */
    @Column(name = "site_code")
    String siteCode = "";

    @Enumerated(EnumType.STRING)
    Shortage shortage = Shortage.WAIT;

    boolean removed;
    /** Where the line was taken from, when its order was started from an earlier document. */
    @Column(name = "source_kind")
    String sourceKind;

    @Column(name = "source_number")
    String sourceNumber;

    @Column(name = "source_line")
    Integer sourceLine;

    void write(OrderLine line) {
        kind = line.kind();
        itemCode = line.item();
        description = line.description();
        quantity = line.quantity().value();
        unitPrice = line.price().unit();
        discountPercent = line.price().discountPercent();
        vatCategory = line.vat().category();
        vatRate = line.vat().ratePercent();
        requestedOn = line.requestedOn();
        siteCode = line.site();
        shortage = line.shortage();
        removed = false;
    }

    OrderLine toCore() {
        return new OrderLine(
                lineNo,
                kind,
                itemCode,
                description,
                new Quantity(quantity),
                new Price(unitPrice, discountPercent),
                new Vat(vatCategory, vatRate),
                requestedOn,
                siteCode,
                shortage);
    }
}
