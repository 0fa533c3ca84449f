package app.euthyna.server.billing;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Part;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * What had left and was not billed, and what was billed and had not left, at the end of a day: from the documents and
 * the days on which they were posted and taken back. Lines lead to their documents (left joins), never the other way
 * round: nearly all documents had been posted by then.
 */
@Configuration(proxyBeanMethods = false)
class UnbilledLists {

    /** A billing of line {@code l} of a dispatch that stood: by then, or ahead of a departure that has been by then. */
    private static final String BILLED = """
            from InvoiceLineSourceEntity src
            join InvoiceLineEntity bil on bil.id = src.invoiceLineId
            join InvoiceEntity inv on inv.id = bil.invoiceId
            where src.dispatchId = l.dispatchId and src.dispatchLineNo = l.lineNo
            and (src.ahead = false and inv.invoicedOn <= :day or src.ahead = true and src.quantity > 0)
            and (inv.reversedOn is null or inv.reversedOn > :day)""";

    private static final String BACK = """
            from ReturnPartEntity prt
            join ReturnLineEntity ret on ret.id = prt.returnLineId
            where ret.dispatchId = l.dispatchId and ret.dispatchLineNo = l.lineNo
            and prt.standing = 'UNBILLED' and prt.receivedOn <= :day""";

    private static final String SENT_BACK = """
            from ReturnOutcomeEntity dec
            join ReturnPartEntity rpt on rpt.id = dec.partId
            join ReturnLineEntity rln on rln.id = rpt.returnLineId
            where rln.dispatchId = l.dispatchId and rln.dispatchLineNo = l.lineNo
            and rpt.standing = 'UNBILLED' and dec.kind = 'SEND_BACK' and dec.decidedOn <= :day""";

    private static final String UNBILLED = unbilled("quantity", "unbilled");

    /**
     * Of a dispatch line what is left of a figure of it when all that was billed, and came back, is taken off: of today
     * what it carries, and all before anything of it was.
     */
    private static String unbilled(String figure, String kept) {
        return """
                case when cast(:day as LocalDate) = cast(:today as LocalDate) then l.%5$s
                when l.reversedOn <= :day then 0
                when l.takenOn is null or l.takenOn > :day then l.%1$s
                else l.%1$s - coalesce((select sum(src.%1$s) %2$s), 0) - coalesce((select sum(prt.%1$s) %3$s), 0)
                + coalesce((select sum(dec.%1$s) %4$s), 0) end""".formatted(figure, BILLED, BACK, SENT_BACK, kept);
    }

    /** Whether something of the order can be open now. Few lines were ever billed ahead: an index leads to them. */
    private static final String LIVE = "left join OpenOrderEntity live on live.orderId = b.rootOrderId";

    @Bean
    static DeclaredList shippedNotBilledList() {
        return new DeclaredList(
                        "shipped-not-billed",
                        "Shipped, not billed",
                        "dispatch line",
                        "dispatch lines",
                        "DispatchLineEntity l",
                        "l.id",
                        List.of(
                                new Join("d", "DispatchEntity", "d.id = l.dispatchId"),
                                new Join("o", "OrderEntity", "o.id = d.orderId"),
                                new Join(
                                        "x",
                                        "OrderLineEntity",
                                        "x.orderId = l.rootOrderId and x.lineNo = l.orderLineNo")),
                        Reading.SELLING,
                        new Sorting(Optional.of("departedOn"), false),
                        List.of(
                                Column.number("number", "Dispatch", "d.number", "DISPATCH")
                                        .with(Trait.SHOWN),
                                Column.day("departedOn", "Left", "l.departedOn").with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.customer("o.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.item("l.itemId"),
                                MasterColumns.site("d.siteId"),
                                Column.quantity("shipped", "Shipped", "l.quantity"),
                                Column.quantity("quantity", "Not billed", UNBILLED)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount(
                                                "net",
                                                "Net at order price",
                                                "round((%s) * x.unitPrice * (100 - x.discountPercent) / 100, :decimals)"
                                                        .formatted(UNBILLED))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("cost", "Cost", unbilled("cost", "unbilledCost"))
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .openBetween("departedOn", "unbilledUntil", UNBILLED)
                .proving(Register.SHIPPED_NOT_BILLED, "asOf")
                .shipping(
                        Shipped.of("by-customer", "Not billed by customer", "customer:net"),
                        Shipped.of(
                                "end-of-last-month",
                                "Not billed at the end of last month",
                                "customer:net",
                                "asOf:at:last-month"));
    }

    /** Of an invoice line what is left of a figure of it when all that has left, and was credited, is taken off. */
    private static String ahead(String of, String left, String credited) {
        return """
                %s - coalesce((select sum(src.%s)
                    from InvoiceLineSourceEntity src
                    join DispatchEntity dis on dis.id = src.dispatchId
                    where src.invoiceLineId = b.id
                    and (src.quantity > 0 and dis.departedOn <= :day
                        or src.quantity < 0 and dis.reversedOn <= :day)), 0)
                - coalesce((select sum(case when crd.creditedOn <= :day
                        and (crd.reversedOn is null or crd.reversedOn > :day) then crl.%s else 0 end)
                    from CreditNoteLineEntity crl
                    join CreditNoteEntity crd on crd.id = crl.creditNoteId
                    where crd.invoiceId = b.invoiceId and crl.invoiceLineNo = b.lineNo), 0)""".formatted(of, left, credited);
    }

    @Bean
    static DeclaredList billedNotShippedList() {
        var deferred = ahead("b.deferred", "earned", "deferred");
        var were = """
                b.deferred >= 0.0001bd and i.invoicedOn <= :day and (i.reversedOn is null or i.reversedOn > :day)
                and %s <> 0""";
        return new DeclaredList(
                        "billed-not-shipped",
                        "Billed, not shipped",
                        "invoice line",
                        "invoice lines",
                        "InvoiceLineEntity b",
                        "b.id",
                        List.of(
                                new Join("i", "InvoiceEntity", "i.id = b.invoiceId"),
                                new Join("o", "OrderEntity", "o.id = b.rootOrderId")),
                        Reading.SELLING,
                        new Sorting(Optional.of("invoicedOn"), false),
                        List.of(
                                Column.number("number", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.day("invoicedOn", "Billed", "i.invoicedOn")
                                        .with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.customer("i.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                Column.text("item", "Item", "b.itemCode").with(Trait.SHOWN),
                                Column.quantity("billed", "Billed quantity", "b.quantity"),
                                Column.quantity("quantity", "Not shipped", ahead("b.quantity", "quantity", "ahead"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("net", "Net", deferred).with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .within(
                        new Part(
                                LIVE,
                                were.formatted(
                                        "case when live.orderId is null then 0 else %s end".formatted(deferred))),
                        new Part("", were.formatted("(%s)".formatted(deferred))))
                .proving(Register.BILLED_NOT_SHIPPED, "asOf")
                .shipping(Shipped.of(
                        "end-of-last-month",
                        "Not shipped at the end of last month",
                        "customer:net",
                        "asOf:at:last-month"));
    }
}
