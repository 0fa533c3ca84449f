package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of orders. */
@Configuration(proxyBeanMethods = false)
class OrderLists {

    /** Where the goods go: as the order says, else to the customer. */
    private static final String SHIP_TO = """
            case when o.shipTo <> '' then o.shipTo
                when c.street <> '' then concat(c.street, ', ', trim(concat(c.postcode, ' ', c.town)))
                else c.town end""";

    @Bean
    static DeclaredList ordersList() {
        return new DeclaredList(
                        "orders",
                        "Orders",
                        "order",
                        "orders",
                        "OrderEntity o",
                        "o.id",
                        List.of(new DeclaredList.Join("w", "OpenOrderEntity", "w.orderId = o.id")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        columns())
                .shipping(
                        Shipped.of(
                                "late",
                                "Late orders",
                                "customer:openGross",
                                "requestedOn:in:before-today",
                                "toShip:any:YES"),
                        Shipped.of("part-shipped", "Part shipped", "", "partShipped:any:YES"),
                        Shipped.of("held", "Held orders", "customer:gross", "state:any:HELD"),
                        Shipped.of("to-ship", "Open orders by customer", "customer:openGross", "toShip:any:YES"),
                        new Shipped(
                                "remainders",
                                "Remainders to cancel",
                                List.of("remainder:any:YES"),
                                "requestedOn",
                                List.of(
                                        "number",
                                        "customer",
                                        "po",
                                        "state",
                                        "orderedOn",
                                        "requestedOn",
                                        "partShipped",
                                        "openGross"),
                                ""),
                        Shipped.of(
                                "ordered",
                                "Ordered this month",
                                "orderedOn.day:gross",
                                "orderedOn:in:this-month",
                                "state:none:CANCELLED,DECLINED,DRAFT"));
    }

    private static String sum(String of, String from, String where) {
        return "coalesce((select sum(%s) from %s where %s), 0)".formatted(of, from, where);
    }

    /** What is told of the lines that hold stock or wait for it. */
    private static Column claimed(String name, String label, String condition) {
        return Column.flag(name, label, condition.formatted("q"))
                .through(
                        "join StockClaimEntity y on y.orderId = l.orderId and y.lineNo = l.lineNo",
                        condition.formatted("y"));
    }

    @Bean
    static DeclaredList orderLinesList() {
        var shipped = sum(
                "dsl.quantity",
                "DispatchLineEntity dsl join DispatchEntity dsp on dsp.id = dsl.dispatchId",
                "dsl.rootOrderId = l.orderId and dsl.orderLineNo = l.lineNo and dsp.state = 'DEPARTED'");
        var billed = sum(
                "bil.quantity",
                "InvoiceLineEntity bil join InvoiceEntity inv on inv.id = bil.invoiceId",
                "bil.rootOrderId = l.orderId and bil.orderLineNo = l.lineNo and inv.reversedOn is null");
        var cancelled = sum(
                "can.quantity",
                "CancellationLineEntity can",
                "can.rootOrderId = l.orderId and can.orderLineNo = l.lineNo");
        return new DeclaredList(
                        "order-lines",
                        "Order lines",
                        "order line",
                        "order lines",
                        "OrderLineEntity l",
                        "l.id",
                        List.of(
                                new DeclaredList.Join("o", "OrderEntity", "o.id = l.orderId"),
                                new DeclaredList.Join(
                                        "q", "StockClaimEntity", "q.orderId = l.orderId and q.lineNo = l.lineNo")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("o.customerId"),
                                Column.choice("state", "State", "o.state", OrderState.class)
                                        .with(Trait.SHOWN),
                                Column.day("requestedOn", "Requested", "l.requestedOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.item("l.itemId"),
                                Column.text("description", "Description", "l.description"),
                                Column.quantity("quantity", "Ordered", "l.quantity")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("cancelled", "Cancelled", cancelled)
                                        .with(Trait.SUMMED),
                                Column.quantity("reserved", "Reserved", "coalesce(q.reserved, 0)")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("waiting", "Waiting for stock", "coalesce(q.waiting, 0)")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("shipped", "Shipped", shipped).with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("billed", "Billed", billed).with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("price", "Unit price", "l.unitPrice"),
                                claimed("isOpen", "Reserved or waiting", "(%s.reserved > 0 or %1$s.waits = true)"),
                                claimed("waits", "Waiting for stock at all", "%s.waits = true")))
                .within("l.removed = false and o.state <> 'DRAFT'")
                .shipping(
                        Shipped.of("open-by-item", "Open order lines by item", "item:reserved", "isOpen:any:YES"),
                        Shipped.of(
                                "open-by-customer", "Open order lines by customer", "customer:count", "isOpen:any:YES"),
                        Shipped.of("backorders", "Backorders by item", "item:waiting", "waits:any:YES"));
    }

    @Bean
    static DeclaredList agreementsList() {
        return new DeclaredList(
                        "agreements",
                        "Quotes, blanket and recurring orders",
                        "agreement",
                        "agreements",
                        "SalesAgreementEntity g",
                        "g.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Agreement", "g.number", "QUOTE")
                                        .with(Trait.SHOWN),
                                Column.words("kind", "Kind", "g.kind", "QUOTE", "BLANKET_ORDER", "RECURRING_ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("g.customerId"),
                                Column.text("po", "Customer PO", "g.po").with(Trait.SHOWN),
                                Column.words("state", "State", "g.state", "OPEN", "ORDERED", "LOST", "ENDED")
                                        .with(Trait.SHOWN),
                                Column.day("writtenOn", "Written", "g.writtenOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                Column.day("validUntil", "Valid until", "g.validUntil")
                                        .with(Trait.SHOWN),
                                Column.day("nextDue", "Next order due", "g.nextDue"),
                                Column.flag("isDue", "An order is due", "g.state = 'OPEN' and g.nextDue <= :today"),
                                Column.flag(
                                        "expired",
                                        "Expired",
                                        "g.kind = 'QUOTE' and g.state = 'OPEN' and g.validUntil < :today"),
                                Column.amount("net", "Net", "g.net").with(Trait.SHOWN, Trait.SUMMED),
                                Column.count("made", "Orders made", "g.made").with(Trait.SHOWN),
                                Column.text("author", "Written by", "g.author")))
                .opening("g.kind")
                .shipping(
                        Shipped.of("quotes", "Quotes", "", "kind:any:QUOTE"),
                        agreed("blanket-orders", "Blanket orders", "kind:any:BLANKET_ORDER"),
                        agreed("recurring-orders", "Recurring orders", "kind:any:RECURRING_ORDER"),
                        agreed("due", "Orders due", "isDue:any:YES"),
                        Shipped.of("quotes-by-customer", "Quotes by customer", "customer:net", "kind:any:QUOTE"));
    }

    /** With the day on which the next order is due. */
    private static Shipped agreed(String key, String name, String filter) {
        return new Shipped(
                key,
                name,
                List.of(filter),
                "",
                List.of("number", "kind", "customer", "po", "state", "validUntil", "nextDue", "net", "made"),
                "");
    }

    /** What is told of the orders that still live. */
    private static Column live(String name, String label, String condition) {
        return Column.flag(
                        name,
                        label,
                        "exists (select 1 from OpenOrderEntity x where x.orderId = o.id and %s)"
                                .formatted(condition.formatted("x")))
                .through("join OpenOrderEntity y on y.orderId = o.id", condition.formatted("y"));
    }

    private static List<Column> columns() {
        return List.of(
                Column.number("number", "Order", "o.number", "ORDER").with(Trait.SHOWN),
                MasterColumns.customer("o.customerId"),
                MasterColumns.po("o"),
                Column.choice("state", "State", "o.state", OrderState.class).with(Trait.SHOWN),
                Column.day("orderedOn", "Ordered", "o.orderedOn").with(Trait.SHOWN, Trait.SORTED),
                Column.day("requestedOn", "Requested", "o.requestedOn").with(Trait.SHOWN, Trait.SORTED),
                Column.amount("net", "Net", "o.net").with(Trait.SUMMED),
                Column.amount("vat", "VAT", "o.vat").with(Trait.SUMMED),
                Column.amount("gross", "Gross", "o.gross").with(Trait.SHOWN, Trait.SORTED, Trait.SUMMED),
                Column.amount("openGross", "Open gross", "w.openGross").with(Trait.SUMMED),
                Column.flag("sentBack", "Sent back", """
                                o.state = 'DRAFT' and exists (select 1 from ApprovalRequestEntity r
                                where r.orderId = o.id and r.state = 'SENT_BACK')"""),
                live("toShip", "To ship", "%s.cleared = true and %1$s.toShip = true"),
                live("remainder", "Remainder", "%s.toShip = true and %1$s.openGross > 0"),
                live("partShipped", "Part shipped", "%s.partShipped = true"),
                Column.text("shipTo", "Ship to", SHIP_TO),
                Column.choice("kind", "Kind", "o.kind", OrderKind.class),
                MasterColumns.site("o.siteId"),
                Column.text("author", "Entered by", "o.author"),
                Column.text("reference", "External reference", "o.externalReference"));
    }
}
