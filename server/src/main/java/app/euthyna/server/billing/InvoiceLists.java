package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.Unended;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of invoices, of their lines with what was earned by them, and of disputes about them. */
@Configuration(proxyBeanMethods = false)
class InvoiceLists {

    /** See {@link app.euthyna.core.billing.OpenInvoice#state}. */
    private static final String STATE = """
            case when i.reversedOn is not null then 'REVERSED'
                when i.openAmount = 0 then 'PAID'
                when i.openAmount = i.gross then 'OPEN'
                else 'PART_PAID' end""";

    private static final String OPEN = "i.openUntil = " + Unended.HQL;

    @Bean
    static DeclaredList invoicesList() {
        return new DeclaredList(
                        "invoices",
                        "Invoices",
                        "invoice",
                        "invoices",
                        "InvoiceEntity i",
                        "i.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("i.customerId"),
                                Column.day("date", "Date", "i.invoicedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.day("dueOn", "Due", "i.dueOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.words("state", "State", STATE, "OPEN", "PART_PAID", "PAID", "REVERSED")
                                        .with(Trait.SHOWN),
                                Column.amount("net", "Net", "i.net").with(Trait.SUMMED),
                                Column.amount("vat", "VAT", "i.vat").with(Trait.SUMMED),
                                Column.amount("gross", "Gross", "i.gross").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("open", "Open", "i.openAmount")
                                        .with(Trait.SHOWN, Trait.SORTED, Trait.SUMMED),
                                Column.flag("isOpen", "Something is open", OPEN),
                                Column.flag("pastDue", "Past due", OPEN + " and i.dueOn < :today"),
                                Column.flag("disputed", "Disputed", "i.disputed = true")
                                        .with(Trait.SHOWN),
                                Column.day("reversedOn", "Reversed", "i.reversedOn")))
                .shipping(
                        Shipped.of("open", "Open invoices", "", "isOpen:any:YES"),
                        new Shipped(
                                "past-due",
                                "Past due",
                                List.of("pastDue:any:YES"),
                                "dueOn",
                                List.of(),
                                "customer:open"),
                        Shipped.of(
                                "due",
                                "Due in the next 7 days",
                                "dueOn.day:open",
                                "isOpen:any:YES",
                                "dueOn:in:next-7-days"),
                        Shipped.of("disputed", "Disputed", "customer:open", "disputed:any:YES"));
    }

    /** What the goods of line {@code b} had cost; of what has not left yet nothing. */
    private static final String COST =
            "coalesce((select sum(src.cost) from InvoiceLineSourceEntity src where src.invoiceLineId = b.id), 0)";

    @Bean
    static DeclaredList invoiceLinesList() {
        return new DeclaredList(
                        "invoice-lines",
                        "Invoice lines",
                        "line",
                        "lines",
                        "InvoiceLineEntity b",
                        "b.id",
                        List.of(
                                new Join("i", "InvoiceEntity", "i.id = b.invoiceId"),
                                new Join("o", "OrderEntity", "o.id = b.rootOrderId"),
                                new Join("n", "ItemEntity", "n.code = b.itemCode")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Date", "i.invoicedOn").with(Trait.SHOWN),
                                MasterColumns.customer("i.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER"),
                                MasterColumns.item("n.id"),
                                Column.text("description", "Description", "b.description"),
                                Column.quantity("quantity", "Quantity", "b.quantity")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("price", "Unit price", "b.unitPrice"),
                                Column.amount("net", "Net", "b.net").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("cost", "Cost", COST)
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("margin", "Gross margin", "b.net - b.deferred - " + COST)
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.rate(
                                                "marginPercent",
                                                "Margin %",
                                                "b.net - b.deferred - " + COST,
                                                "b.net - b.deferred")
                                        .readBy(ReadBy.Group.COSTS),
                                Column.flag("reversed", "Reversed", "i.reversedOn is not null")))
                .shipping(
                        Shipped.of(
                                "by-item",
                                "Sales this year by item",
                                "item:net",
                                "date:in:this-year",
                                "reversed:any:NO"),
                        Shipped.of(
                                "margin-customer",
                                "Margin this year by customer",
                                "customer:margin",
                                "date:in:this-year",
                                "reversed:any:NO"),
                        Shipped.of(
                                "margin-month",
                                "Margin this year by month",
                                "date.month:margin",
                                "date:in:this-year",
                                "reversed:any:NO"));
    }

    /** Of invoice {@code i} the day on which the first of its orders came. */
    private static final String ORDERED = """
            (select min(ord.orderedOn) from InvoiceLineEntity iln
                join OrderEntity ord on ord.id = iln.rootOrderId where iln.invoiceId = i.id)""";

    /** The day on which the last of its goods left; none where it bills no goods, or none have left. */
    private static final String DEPARTED = """
            (select max(dsp.departedOn) from InvoiceLineEntity jln
                join InvoiceLineSourceEntity src on src.invoiceLineId = jln.id
                join DispatchEntity dsp on dsp.id = src.dispatchId where jln.invoiceId = i.id)""";

    /** The day on which the last of it was settled. */
    private static final String PAID = """
            case when i.openAmount = 0 then greatest(
                coalesce((select max(alc.allocatedOn) from AllocationEntity alc where alc.invoiceId = i.id), i.invoicedOn),
                coalesce((select max(dus.usedOn) from DepositUseEntity dus where dus.invoiceId = i.id), i.invoicedOn))
                end""";

    private static Column days(String name, String label, String from, String to) {
        return Column.count(name, label, "timestampdiff(day, %s, %s)".formatted(from, to))
                .with(Trait.SHOWN, Trait.MEDIAN);
    }

    @Bean
    static DeclaredList orderToCashList() {
        return new DeclaredList(
                        "order-to-cash",
                        "From order to cash",
                        "invoice",
                        "invoices",
                        "InvoiceEntity i",
                        "i.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("i.customerId"),
                                Column.day("orderedOn", "Ordered", ORDERED).with(Trait.SHOWN),
                                Column.day("departedOn", "Left", DEPARTED).with(Trait.SHOWN),
                                Column.day("date", "Billed", "i.invoicedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.day("paidOn", "Paid", PAID).with(Trait.SHOWN),
                                days("toLeave", "Days to leave", ORDERED, DEPARTED),
                                days("toBill", "Days to bill", DEPARTED, "i.invoicedOn"),
                                days("toPay", "Days to pay", "i.invoicedOn", PAID),
                                days("days", "Days from order to cash", ORDERED, PAID),
                                Column.amount("gross", "Gross", "i.gross").with(Trait.SUMMED),
                                Column.flag("isPaid", "Paid in full", "i.openAmount = 0")))
                .within("i.reversedOn is null")
                .shipping(
                        Shipped.of(
                                "by-month",
                                "Days from order to cash by month",
                                "date.month:days",
                                "isPaid:any:YES",
                                "date:in:this-year"),
                        Shipped.of(
                                "by-customer",
                                "Days to pay by customer",
                                "customer:toPay",
                                "isPaid:any:YES",
                                "date:in:this-year"));
    }

    /** Never more than is open of the invoice, and nothing where it has ended. */
    private static final String DISPUTED = """
            case when d.state = 'OPEN' then least(coalesce(d.amount, i.openAmount), i.openAmount) else 0 end""";

    @Bean
    static DeclaredList disputesList() {
        return new DeclaredList(
                        "disputes",
                        "Disputes",
                        "dispute",
                        "disputes",
                        "DisputeEntity d",
                        "d.id",
                        List.of(new DeclaredList.Join("i", "InvoiceEntity", "i.id = d.invoiceId")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("i.customerId"),
                                Column.choice("state", "State", "d.state", Disputing.State.class)
                                        .with(Trait.SHOWN),
                                Column.text("owner", "Owner", "d.owner").with(Trait.SHOWN),
                                Column.day("openedOn", "Since", "d.openedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.day("lookOn", "Look again on", "d.lookOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("open", "Open", "i.openAmount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("disputed", "Disputed", DISPUTED).with(Trait.SHOWN, Trait.SUMMED),
                                Column.text("reason", "Reason", "d.reason").with(Trait.SHOWN),
                                Column.day("endedOn", "Ended", "d.endedOn"),
                                Column.text("endedBy", "Ended by", "d.endedBy")))
                .shipping(
                        Shipped.of("open", "Open disputes", "customer:disputed", "state:any:OPEN"),
                        Shipped.of("to-look-at", "To look at", "", "state:any:OPEN", "lookOn:in:last-3660-days"));
    }
}
