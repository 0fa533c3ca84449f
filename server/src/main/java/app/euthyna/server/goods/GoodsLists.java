package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.ledger.Register;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.lists.Registers;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of dispatches, of stock and what moved it, and the register of what left. */
@Configuration(proxyBeanMethods = false)
class GoodsLists {

    /** Of the lines of dispatch {@code d}. */
    private static final String DISPATCHED = "(select %s from DispatchLineEntity dln where dln.dispatchId = d.id)";

    /** Of the lines of order {@code x} what is reserved, or waits. */
    private static String claimed(String figure) {
        return "coalesce((select sum(clm.%s) from StockClaimEntity clm where clm.orderId = x.orderId), 0)"
                .formatted(figure);
    }

    @Bean
    static DeclaredList toStageList() {
        return new DeclaredList(
                        "to-stage",
                        "Orders to stage",
                        "order to stage",
                        "orders to stage",
                        "OpenOrderEntity x",
                        "x.orderId",
                        List.of(new Join("o", "OrderEntity", "o.id = x.orderId")),
                        Reading.BUSINESS,
                        new Sorting(Optional.of("requestedOn"), false),
                        List.of(
                                Column.number("number", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("x.customerId"),
                                MasterColumns.po("o").readBy(ReadBy.Group.SELLING),
                                Column.day("requestedOn", "Requested", "x.requestedOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.site("o.siteId"),
                                Column.count("lines", "Lines", """
                                        (select count(clm.id) from StockClaimEntity clm
                                            where clm.orderId = x.orderId and clm.reserved > 0)""").with(Trait.SHOWN),
                                Column.quantity("reserved", "Reserved", claimed("reserved"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("waiting", "Waiting for stock", claimed("waiting"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("openGross", "Open gross", "x.openGross")
                                        .readBy(ReadBy.Group.SELLING)
                                        .with(Trait.SUMMED)))
                .marked("stageable")
                .versioned("o.version")
                .shipping(
                        Shipped.of("late", "To stage, late", "", "requestedOn:in:before-today"),
                        Shipped.of("by-customer", "To stage by customer", "customer:reserved"));
    }

    private static final Shipped STAGED = new Shipped(
            "staged",
            "Staged, still here",
            List.of("state:any:STAGED"),
            "stagedOn",
            List.of(
                    "number",
                    "order",
                    "orderState",
                    "customer",
                    "site",
                    "stagedOn",
                    "requestedOn",
                    "carrierReference",
                    "lines",
                    "quantity"),
            "");

    @Bean
    static DeclaredList dispatchesList() {
        return new DeclaredList(
                        "dispatches",
                        "Dispatches",
                        "dispatch",
                        "dispatches",
                        "DispatchEntity d",
                        "d.id",
                        List.of(new Join("o", "OrderEntity", "o.id = d.orderId")),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Dispatch", "d.number", "DISPATCH")
                                        .with(Trait.SHOWN),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("o.customerId"),
                                Column.choice("state", "State", "d.state", Dispatch.State.class)
                                        .with(Trait.SHOWN),
                                MasterColumns.site("d.siteId").with(Trait.SHOWN),
                                Column.day("stagedOn", "Staged", "d.stagedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.day("departedOn", "Left", "d.departedOn").with(Trait.SHOWN),
                                Column.day("reversedOn", "Reversed", "d.reversedOn"),
                                Column.day("requestedOn", "Requested", "o.requestedOn"),
                                Column.choice("orderState", "State of the order", "o.state", OrderState.class),
                                Column.count("lines", "Lines", DISPATCHED.formatted("count(dln.id)")),
                                Column.quantity(
                                        "quantity",
                                        "Quantity",
                                        "coalesce(%s, 0)".formatted(DISPATCHED.formatted("sum(dln.quantity)"))),
                                Column.text("carrier", "Carrier", "d.carrier"),
                                Column.text("carrierReference", "Carrier reference", "d.carrierReference"),
                                Column.text("carrierFailure", "Carrier failed", "d.carrierFailure")))
                .versioned("d.version")
                .shipping(
                        STAGED,
                        Shipped.of("staged-by-store", "Staged by store", "site:count", "state:any:STAGED"),
                        Shipped.of("departed", "Departed", "", "state:any:DEPARTED"),
                        Shipped.of(
                                "by-day",
                                "Left this month by day",
                                "departedOn.day:count",
                                "departedOn:in:this-month"));
    }

    /** Of line {@code l} of a dispatch what came back, and was not sent to the customer again. */
    private static String returned(String what) {
        return """
                coalesce((select sum(prt.%1$s) from ReturnPartEntity prt
                    join ReturnLineEntity ret on ret.id = prt.returnLineId
                    where ret.dispatchId = l.dispatchId and ret.dispatchLineNo = l.lineNo), 0)
                - coalesce((select sum(dec.%1$s) from ReturnOutcomeEntity dec
                    join ReturnPartEntity rpt on rpt.id = dec.partId
                    join ReturnLineEntity rln on rln.id = rpt.returnLineId
                    where rln.dispatchId = l.dispatchId and rln.dispatchLineNo = l.lineNo
                    and dec.kind = 'SEND_BACK'), 0)""".formatted(what);
    }

    @Bean
    static DeclaredList dispatchLinesList() {
        return new DeclaredList(
                        "dispatch-lines",
                        "Dispatch lines",
                        "line",
                        "lines",
                        "DispatchLineEntity l",
                        "l.id",
                        List.of(
                                new Join("d", "DispatchEntity", "d.id = l.dispatchId"),
                                new Join("o", "OrderEntity", "o.id = l.rootOrderId")),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Dispatch", "d.number", "DISPATCH")
                                        .with(Trait.SHOWN),
                                Column.choice("state", "State", "d.state", Dispatch.State.class),
                                Column.day("departedOn", "Left", "l.departedOn").with(Trait.SHOWN),
                                MasterColumns.customer("o.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.item("l.itemId"),
                                MasterColumns.site("d.siteId"),
                                Column.quantity("quantity", "Quantity", "l.quantity")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("returned", "Came back", returned("quantity"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.rate("returnRate", "Return rate %", returned("cost"), "l.cost")
                                        .with(Trait.SHOWN),
                                Column.amount("returnedCost", "Came back, at cost", returned("cost"))
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SUMMED),
                                Column.amount("cost", "Cost", "l.cost")
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SUMMED)))
                .shipping(
                        Shipped.of(
                                "return-rate-item",
                                "Return rate this year by item",
                                "item:returnRate",
                                "departedOn:in:this-year",
                                "state:any:DEPARTED"),
                        Shipped.of(
                                "return-rate-customer",
                                "Return rate this year by customer",
                                "customer:returnRate",
                                "departedOn:in:this-year",
                                "state:any:DEPARTED"),
                        Shipped.of(
                                "return-rate-month",
                                "Return rate this year by month",
                                "departedOn.month:returnRate",
                                "departedOn:in:this-year",
                                "state:any:DEPARTED"));
    }

    @Bean
    static DeclaredList stockList() {
        return new DeclaredList(
                        "stock",
                        "Stock by item and store",
                        "shelf",
                        "shelves",
                        "ShelfEntity f",
                        "f.id",
                        List.of(),
                        Reading.BUSINESS,
                        new Sorting(Optional.of("item"), false),
                        List.of(
                                Column.number("code", "Code", "m.code", "ITEM").with(Trait.SHOWN),
                                MasterColumns.item("f.itemId").with(Trait.SORTED),
                                MasterColumns.site("f.siteId").with(Trait.SHOWN, Trait.SORTED),
                                Column.quantity("onHand", "On hand", "f.onHand").with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("reserved", "Reserved", "f.reserved")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.quantity("free", "Free", "f.onHand - f.reserved")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("value", "Stock value", "f.stockValue")
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("isShort", "Below its minimum", "f.onHand < m.minStock")))
                .shipping(
                        Shipped.of("short", "Below their minimum", "", "isShort:any:YES"),
                        Shipped.of("value", "Stock value by item", "item:value"));
    }

    @Bean
    static DeclaredList stockMovementsList() {
        return new DeclaredList(
                        "stock-movements",
                        "Stock movements",
                        "movement",
                        "movements",
                        "StockMovementEntity v",
                        "v.id",
                        List.of(),
                        Reading.BUSINESS,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Document", "v.documentNumber", "STOCK_RECEIPT")
                                        .with(Trait.SHOWN),
                                Column.words(
                                                "kind",
                                                "Kind",
                                                "v.documentKind",
                                                "DISPATCH",
                                                "RETURN",
                                                "STOCK_RECEIPT",
                                                "STOCK_COUNT",
                                                "UNEXPECTED_GOODS")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Date", "v.movedOn").with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.item("v.itemId"),
                                MasterColumns.site("v.siteId").with(Trait.SHOWN),
                                Column.quantity("quantity", "Quantity", "v.quantity")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("value", "Stock value", "v.stockValue")
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED)))
                .opening("v.documentKind");
    }

    @Bean
    static DeclaredList dispatchRegisterList() {
        return Registers.of(
                        Register.DISPATCHES,
                        Reading.BUSINESS,
                        "dispatch-register",
                        "Register of dispatches",
                        "line or reversal",
                        "lines and reversals",
                        "DispatchRegisterEntity",
                        List.of(
                                new Join("d", "DispatchEntity", "d.id = r.dispatchId"),
                                new Join("o", "OrderEntity", "o.id = r.orderId")),
                        Column.number("number", "Dispatch", "d.number", "DISPATCH"),
                        MasterColumns.customerIfAny("o.customerId"),
                        Column.number("order", "Order", "o.number", "ORDER").with(Trait.SHOWN),
                        MasterColumns.item("r.itemId"),
                        MasterColumns.site("d.siteId").with(Trait.SHOWN),
                        Column.quantity("quantity", "Quantity", "r.quantity").with(Trait.SHOWN, Trait.SUMMED),
                        Registers.amount("cost", "Cost").readBy(ReadBy.Group.COSTS))
                .shipping(
                        Shipped.of("by-item", "Shipped this month by item", "item:quantity", "enteredOn:in:this-month"),
                        Shipped.of(
                                "by-month",
                                "Shipped this year by month",
                                "enteredOn.month:count",
                                "enteredOn:in:this-year"));
    }
}
