package app.euthyna.server.order;

import app.euthyna.core.check.PoNumber;
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
    static DeclaredList orders() {
        return new DeclaredList(
                        "orders",
                        "Orders",
                        "order",
                        "orders",
                        "OrderEntity o",
                        "o.id",
                        List.of(new DeclaredList.Join("w", "left join OpenOrderEntity w on w.orderId = o.id")),
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
                        Shipped.of(
                                "ordered",
                                "Ordered this month",
                                "orderedOn.day:gross",
                                "orderedOn:in:this-month",
                                "state:none:CANCELLED,DECLINED,DRAFT"));
    }

    private static List<Column> columns() {
        return List.of(
                Column.number("number", "Order", "o.number", "ORDER").with(Trait.SHOWN),
                MasterColumns.customer("o.customerId"),
                Column.text("po", "Customer PO", "o.po")
                        .folded("o.poNormal", asked -> PoNumber.of(asked).normal())
                        .with(Trait.SHOWN),
                Column.choice("state", "State", "o.state", OrderState.class).with(Trait.SHOWN),
                Column.day("orderedOn", "Ordered", "o.orderedOn").with(Trait.SHOWN, Trait.SORTED),
                Column.day("requestedOn", "Requested", "o.requestedOn").with(Trait.SHOWN, Trait.SORTED),
                Column.amount("net", "Net", "o.net").with(Trait.SORTED, Trait.SUMMED),
                Column.amount("vat", "VAT", "o.vat").with(Trait.SUMMED),
                Column.amount("gross", "Gross", "o.gross").with(Trait.SHOWN, Trait.SORTED, Trait.SUMMED),
                Column.amount("openGross", "Open gross", "w.openGross").with(Trait.SUMMED),
                Column.flag("sentBack", "Sent back", """
                                o.state = 'DRAFT' and exists (select 1 from ApprovalRequestEntity r
                                where r.orderId = o.id and r.state = 'SENT_BACK')"""),
                Column.flag("toShip", "To ship", """
                                o.id in (select x.orderId from OpenOrderEntity x
                                where x.cleared = true and x.toShip = true)"""),
                Column.flag(
                        "partShipped",
                        "Part shipped",
                        "o.id in (select x.orderId from OpenOrderEntity x where x.partShipped = true)"),
                Column.text("shipTo", "Ship to", SHIP_TO),
                Column.choice("kind", "Kind", "o.kind", OrderKind.class),
                MasterColumns.site("o.siteId"),
                Column.text("author", "Entered by", "o.author"),
                Column.text("reference", "External reference", "o.externalReference"));
    }
}
