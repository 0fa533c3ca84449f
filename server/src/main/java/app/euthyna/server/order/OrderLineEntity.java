package app.euthyna.server.order;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "sales_order_line")
public class OrderLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long orderId;
    int lineNo;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    Long itemId;
    String itemCode;
    String description;
    BigDecimal quantity;
    BigDecimal unitPrice;
    BigDecimal discountPercent;

    @Enumerated(EnumType.STRING)
    Vat.Category vatCategory;

    BigDecimal vatRate;
    LocalDate requestedOn;
    boolean removed;

    /** Where the line was taken from, when its order was started from an earlier document. */
    String sourceKind;

    String sourceNumber;
    Integer sourceLine;

    /** The store it ships from, where that is not the order's. */
    String siteCode = "";

    @Enumerated(EnumType.STRING)
    Shortage shortage = Shortage.WAIT;

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
