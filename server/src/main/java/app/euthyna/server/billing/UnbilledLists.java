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
            and (src.ahead = false and inv.invoicedOn <= :asOf or src.ahead = true and src.quantity > 0)
            and (inv.reversedOn is null or inv.reversedOn > :asOf)""";

    private static final String BACK = """
            from ReturnPartEntity prt
            join ReturnLineEntity ret on ret.id = prt.returnLineId
            where ret.dispatchId = l.dispatchId and ret.dispatchLineNo = l.lineNo
            and prt.standing = 'UNBILLED' and prt.receivedOn <= :asOf""";

    private static final String SENT_BACK = """
            from ReturnOutcomeEntity dec
            join ReturnPartEntity rpt on rpt.id = dec.partId
            join ReturnLineEntity rln on rln.id = rpt.returnLineId
            where rln.dispatchId = l.dispatchId and rln.dispatchLineNo = l.lineNo
            and rpt.standing = 'UNBILLED' and dec.kind = 'SEND_BACK' and dec.decidedOn <= :asOf""";

    /** Of a dispatch line what is left of a figure of it when all that was billed, and came back, is taken off. */
    private static String unbilled(String figure) {
        return """
                l.%1$s - coalesce((select sum(src.%1$s) %2$s), 0) - coalesce((select sum(prt.%1$s) %3$s), 0)
                + coalesce((select sum(dec.%1$s) %4$s), 0)""".formatted(figure, BILLED, BACK, SENT_BACK);
    }

    /** Left by then and not taken back by then; what is given away is never billed. */
    private static final String HAD_LEFT = """
            d.departedOn <= :asOf and (d.reversedOn is null or d.reversedOn > :asOf)
            and not (o.kind in ('SAMPLE', 'REPLACEMENT') and (x.unitPrice = 0 or x.discountPercent = 100))
            and %s <> 0""".formatted(unbilled("quantity"));

    /** Orders of which something can be open now. */
    private static final String LIVE = "join OpenOrderEntity live on live.orderId = l.rootOrderId";

    /** And those of which something was open then: it was billed, came back or was taken back afterwards. */
    private static final String CHANGED_SINCE = """
            join (select live.orderId as id from OpenOrderEntity live
                union select lsr.rootOrderId from InvoiceLineSourceEntity lsr
                    join InvoiceLineEntity lbl on lbl.id = lsr.invoiceLineId
                    join InvoiceEntity lin on lin.id = lbl.invoiceId
                    where lin.invoicedOn > :asOf
                union select lrt.rootOrderId from ReturnLineEntity lrt
                    join ReturnPartEntity lpt on lpt.returnLineId = lrt.id
                    where lpt.receivedOn > :asOf
                union select ort.rootOrderId from ReturnLineEntity ort
                    join ReturnPartEntity opt on opt.returnLineId = ort.id
                    join ReturnOutcomeEntity oou on oou.partId = opt.id
                    where oou.decidedOn > :asOf
                union select ldl.rootOrderId from DispatchLineEntity ldl
                    join DispatchEntity ldp on ldp.id = ldl.dispatchId
                    where ldp.reversedOn > :asOf) cand on cand.id = l.rootOrderId""";

    @Bean
    static DeclaredList shippedNotBilledList() {
        return new DeclaredList(
                        "shipped-not-billed",
                        "Shipped, not billed",
                        "dispatch line",
                        "dispatch lines",
                        "DispatchLineEntity l left join DispatchEntity d on d.id = l.dispatchId"
                                + " left join OrderEntity o on o.id = d.orderId"
                                + " left join OrderLineEntity x on x.orderId = l.rootOrderId and x.lineNo = l.orderLineNo",
                        "l.id",
                        List.of(),
                        Reading.SELLING,
                        new Sorting(Optional.of("departedOn"), false),
                        List.of(
                                Column.number("number", "Dispatch", "d.number", "DISPATCH")
                                        .with(Trait.SHOWN),
                                Column.day("departedOn", "Left", "d.departedOn").with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.customer("o.customerId"),
                                Column.number("order", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.item("l.itemId"),
                                MasterColumns.site("d.siteId"),
                                Column.quantity("shipped", "Shipped", "l.quantity"),
                                Column.quantity("quantity", "Not billed", unbilled("quantity"))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount(
                                                "net",
                                                "Net at order price",
                                                "round((%s) * x.unitPrice * (100 - x.discountPercent) / 100, :decimals)"
                                                        .formatted(unbilled("quantity")))
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("cost", "Cost", unbilled("cost"))
                                        .readBy(ReadBy.Group.COSTS)
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.asOf()))
                .within(new Part(LIVE, HAD_LEFT), new Part(CHANGED_SINCE, HAD_LEFT))
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
                    and (src.quantity > 0 and dis.departedOn <= :asOf
                        or src.quantity < 0 and dis.reversedOn <= :asOf)), 0)
                - coalesce((select sum(case when crd.creditedOn <= :asOf
                        and (crd.reversedOn is null or crd.reversedOn > :asOf) then crl.%s else 0 end)
                    from CreditNoteLineEntity crl
                    join CreditNoteEntity crd on crd.id = crl.creditNoteId
                    where crd.invoiceId = b.invoiceId and crl.invoiceLineNo = b.lineNo), 0)""".formatted(of, left, credited);
    }

    /** Orders of which something can be billed ahead now. */
    private static final String AHEAD_NOW = "join OpenOrderEntity live on live.orderId = b.rootOrderId";

    /** And those of which something was then: it left, was credited, or was taken back afterwards. */
    private static final String AHEAD_THEN = """
            join (select live.orderId as id from OpenOrderEntity live
                union select ldl.rootOrderId from DispatchLineEntity ldl
                    join DispatchEntity ldp on ldp.id = ldl.dispatchId
                    where ldp.departedOn > :asOf
                union select rdl.rootOrderId from DispatchLineEntity rdl
                    join DispatchEntity rdp on rdp.id = rdl.dispatchId
                    where rdp.reversedOn > :asOf
                union select lcl.rootOrderId from CreditNoteLineEntity lcl
                    join CreditNoteEntity lcn on lcn.id = lcl.creditNoteId
                    where lcn.creditedOn > :asOf
                union select rcl.rootOrderId from CreditNoteLineEntity rcl
                    join CreditNoteEntity rcn on rcn.id = rcl.creditNoteId
                    where rcn.reversedOn > :asOf
                union select lbl.rootOrderId from InvoiceLineEntity lbl
                    join InvoiceEntity lin on lin.id = lbl.invoiceId
                    where lin.reversedOn > :asOf) cand on cand.id = b.rootOrderId""";

    @Bean
    static DeclaredList billedNotShippedList() {
        var deferred = ahead("b.deferred", "earned", "deferred");
        var were = """
                b.deferred > 0 and i.invoicedOn <= :asOf and (i.reversedOn is null or i.reversedOn > :asOf)
                and %s <> 0""".formatted(deferred);
        return new DeclaredList(
                        "billed-not-shipped",
                        "Billed, not shipped",
                        "invoice line",
                        "invoice lines",
                        "InvoiceLineEntity b left join InvoiceEntity i on i.id = b.invoiceId",
                        "b.id",
                        List.of(new Join("o", "left join OrderEntity o on o.id = b.rootOrderId")),
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
                .within(new Part(AHEAD_NOW, were), new Part(AHEAD_THEN, were))
                .proving(Register.BILLED_NOT_SHIPPED, "asOf")
                .shipping(Shipped.of(
                        "end-of-last-month",
                        "Not shipped at the end of last month",
                        "customer:net",
                        "asOf:at:last-month"));
    }
}
