package app.euthyna.server.order;

import app.euthyna.core.check.PoNumber;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.Records;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Currency;
import java.util.List;

@Entity
@Table(name = "sales_order")
public class OrderEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;

    @Enumerated(EnumType.STRING)
    OrderKind kind;

    @Enumerated(EnumType.STRING)
    OrderState state;

    long customerId;
    String po;
    String poNormal;
    String poFolded;
    Long poTaken;
    long siteId;
    LocalDate orderedOn;
    LocalDate requestedOn;
    String remark;
    String author;
    String lastEditor;
    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    Long clearing;
    String importReference;

    @Version
    Long version;

    /** The order that the first of its family was, where it was split off one. */
    Long splitOf;

    /** {@link Details} as JSON; null for none. */
    String details;

    String externalReference = "";

    /** Where its goods go, on one line; empty where they go to the customer. */
    String shipTo = "";

    /** The quote, blanket or recurring order that it was made from. */
    Long agreementId;

    /** See {@link Order#writers}; each on a line of its own. */
    String writers = "";

    Order toCore(String customer, String site, Currency currency, List<OrderLine> lines) {
        return new Order(
                number,
                id == null ? 0 : id,
                kind,
                state,
                customer,
                po,
                site,
                orderedOn,
                requestedOn,
                remark,
                author,
                lastEditor,
                Records.lines(writers),
                currency,
                details(details),
                lines);
    }

    /** Details as they are kept. */
    static Details details(String kept) {
        return Records.read(kept, Details.class, Details.NONE);
    }

    /** Takes over the header and the totals of an order; customer, store and state stay as they are. */
    void write(Order order) {
        var number = PoNumber.of(order.po());
        po = order.po();
        poNormal = number.normal();
        poFolded = number.folded();
        requestedOn = order.requestedOn();
        remark = order.remark();
        lastEditor = order.lastEditor();
        writers = Records.lines(order.writers());
        details = order.details().equals(Details.NONE) ? null : Records.write(order.details());
        externalReference = order.details().externalReference();
        shipTo = order.details().shipTo().words();
        var totals = order.totals();
        net = totals.net().amount();
        vat = totals.vat().amount();
        gross = totals.gross().amount();
    }
}
