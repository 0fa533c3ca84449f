package app.euthyna.server.order;

import app.euthyna.core.check.PoNumber;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.Records;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.OneToMany;
import jakarta.persistence.OrderBy;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;

@Entity
@Table(name = "sales_order")
class OrderEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Enumerated(EnumType.STRING)
    OrderKind kind;

    @Enumerated(EnumType.STRING)
    OrderState state;

    @Column(name = "customer_id")
    Long customerId;

    String po;

    @Column(name = "po_normal")
    String poNormal;

    @Column(name = "po_folded")
    String poFolded;

    @Column(name = "po_taken")
    Long poTaken;

    @Column(name = "site_id")
    Long siteId;

    @Column(name = "ordered_on")
    LocalDate orderedOn;

    @Column(name = "requested_on")
    LocalDate requestedOn;

    String remark;
    String author;

    /** See {@link Order#writers}; each on a line of its own. */
    String writers = "";

    @Column(name = "last_editor")
    String lastEditor;

    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    Long clearing;
    /** The quote, blanket or recurring order that it was made from. */
    @Column(name = "agreement_id")
    Long agreementId;
    /** The order that the first of its family was, where it was split off one. */
    @Column(name = "split_of")
    Long splitOf;
    /** {@link Details} as JSON; null for none. */
    String details;

    @Column(name = "external_reference")
    String externalReference = "";

    @Column(name = "import_reference")
    String importReference;

    @OneToMany(mappedBy = "order", cascade = CascadeType.ALL)
    @OrderBy("lineNo")
    List<OrderLineEntity> lines = new ArrayList<>();

    @Version
    Long version;

    Order toCore(String customer, String site, Currency currency) {
        return new Order(
                number,
                id,
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
                lines.stream()
                        .filter(line -> !line.removed)
                        .map(OrderLineEntity::toCore)
                        .toList());
    }

    /** Details as they are kept. */
    static Details details(String kept) {
        return Records.read(kept, Details.class, Details.NONE);
    }

    /** What was wanted on the day of the order is wanted at once: on the day on which it is submitted. */
    void wantAtOnce(LocalDate today) {
        lines.stream()
                .filter(line -> line.requestedOn.equals(orderedOn) && orderedOn.isBefore(today))
                .forEach(line -> line.requestedOn = today);
        if (requestedOn.equals(orderedOn) && orderedOn.isBefore(today)) {
            requestedOn = today;
        }
    }

    /** Takes over the content of an order; customer, store and state stay as they are. */
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
        var totals = order.totals();
        net = totals.net().amount();
        vat = totals.vat().amount();
        gross = totals.gross().amount();
        lines.forEach(line -> line.removed = !order.hasLine(line.lineNo));
        for (var line : order.lines()) {
            var stored = lines.stream()
                    .filter(l -> l.lineNo == line.no())
                    .findFirst()
                    .orElseGet(() -> {
                        var added = new OrderLineEntity();
                        added.order = this;
                        added.lineNo = line.no();
                        lines.add(added);
                        return added;
                    });
            stored.write(line);
        }
    }
}
