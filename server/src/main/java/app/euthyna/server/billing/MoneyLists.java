package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of money that came in, of what it was set against, of what was refunded and of what was written off. */
@Configuration(proxyBeanMethods = false)
class MoneyLists {

    @Bean
    static DeclaredList paymentsList() {
        return new DeclaredList(
                        "payments",
                        "Payments and credits",
                        "payment or credit",
                        "payments and credits",
                        "PaymentEntity p",
                        "p.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Document", "p.number", "PAYMENT")
                                        .with(Trait.SHOWN),
                                Column.choice("kind", "Kind", "p.kind", DocumentKind.class)
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("p.customerId"),
                                Column.day("date", "Received", "p.receivedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.text("reference", "Reference", "p.reference")
                                        .with(Trait.SHOWN),
                                Column.amount("amount", "Amount", "p.amount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("left", "On account", "p.leftAmount")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("refunded", "Refunded", "p.refunded")
                                        .with(Trait.SUMMED),
                                Column.flag("reversed", "Reversed", "p.reversed = true"),
                                Column.day("reversedOn", "Reversed on", "p.reversedOn")))
                .within("p.kind <> 'WRITE_OFF'")
                .opening("p.kind")
                .shipping(
                        Shipped.of("on-account", "On account", "customer:left", "left:between:0.01.."),
                        Shipped.of(
                                "this-month",
                                "Received this month",
                                "date.day:amount",
                                "kind:any:PAYMENT",
                                "date:in:this-month",
                                "reversed:any:NO"));
    }

    @Bean
    static DeclaredList allocationsList() {
        return new DeclaredList(
                        "allocations",
                        "Allocations",
                        "allocation",
                        "allocations",
                        "AllocationEntity a",
                        "a.id",
                        List.of(
                                new Join("p", "PaymentEntity", "p.id = a.paymentId"),
                                new Join("i", "InvoiceEntity", "i.id = a.invoiceId")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Document", "p.number", "PAYMENT")
                                        .with(Trait.SHOWN),
                                Column.choice("kind", "Kind", "p.kind", DocumentKind.class)
                                        .with(Trait.SHOWN),
                                Column.number("invoice", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("i.customerId"),
                                Column.day("date", "Date", "a.allocatedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("amount", "Amount", "a.amount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("discount", "Early-payment discount", "a.discount = true"),
                                Column.count(
                                                "days",
                                                "Days after the invoice",
                                                "timestampdiff(day, i.invoicedOn, a.allocatedOn)")
                                        .with(Trait.SHOWN)))
                .opening("p.kind");
    }

    @Bean
    static DeclaredList depositsList() {
        return new DeclaredList(
                        "deposits",
                        "Deposits",
                        "deposit",
                        "deposits",
                        "DepositEntity d",
                        "d.id",
                        List.of(new Join("o", "OrderEntity", "o.id = d.orderId")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Deposit", "d.number", "DEPOSIT")
                                        .with(Trait.SHOWN),
                                Column.number("order", "For order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("d.customerId"),
                                Column.day("date", "Received", "d.receivedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.amount("amount", "Amount", "d.amount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("left", "Unapplied", "d.leftAmount")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("unapplied", "Something is unapplied", "d.leftAmount >= 0.0001bd"),
                                Column.day("reversedOn", "Reversed on", "d.reversedOn")))
                .shipping(Shipped.of("unapplied", "Unapplied deposits", "", "unapplied:any:YES"));
    }

    @Bean
    static DeclaredList refundsList() {
        return new DeclaredList(
                "refunds",
                "Refunds",
                "refund",
                "refunds",
                "RefundEntity r",
                "r.id",
                List.of(new Join("o", "PayoutEntity", "o.refundId = r.id")),
                Reading.SELLING,
                Sorting.NEWEST_FIRST,
                List.of(
                        Column.number("number", "Refund", "r.number", "REFUND").with(Trait.SHOWN),
                        MasterColumns.customer("r.customerId"),
                        Column.choice("of", "Of", "r.sourceKind", DocumentKind.class)
                                .with(Trait.SHOWN),
                        Column.text("source", "Document", "r.sourceNumber").with(Trait.SHOWN),
                        Column.day("date", "Date", "r.refundedOn").with(Trait.SHOWN, Trait.SORTED),
                        Column.amount("amount", "Amount", "r.amount").with(Trait.SHOWN, Trait.SUMMED),
                        Column.text("reason", "Reason", "r.reason").with(Trait.SHOWN),
                        Column.words(
                                        "payout",
                                        "Paid out",
                                        "o.state",
                                        "WAITING",
                                        "SENDING",
                                        "PAID",
                                        "DECLINED",
                                        "UNANSWERED")
                                .with(Trait.SHOWN),
                        Column.day("reversedOn", "Did not arrive", "r.reversedOn")
                                .with(Trait.SHOWN)));
    }

    @Bean
    static DeclaredList writeOffsList() {
        return new DeclaredList(
                        "write-offs",
                        "Write-offs",
                        "write-off",
                        "write-offs",
                        "ReductionEntity r",
                        "r.id",
                        List.of(
                                new Join("p", "PaymentEntity", "p.id = r.paymentId"),
                                new Join("i", "InvoiceEntity", "i.id = r.invoiceId"),
                                new Join("h", "HistoryEntity", "h.moment = r.moment")),
                        Reading.SELLING,
                        Sorting.NEWEST_FIRST,
                        List.of(
                                Column.number("number", "Write-off", "p.number", "WRITE_OFF")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("r.customerId"),
                                Column.number("invoice", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.day("date", "Date", "r.reducedOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.choice("kind", "As", "r.kind", Reduction.Kind.class)
                                        .with(Trait.SHOWN),
                                Column.text("reason", "Reason", "r.reason").with(Trait.SHOWN),
                                Column.text("by", "By", "h.byUser").with(Trait.SHOWN),
                                Column.amount("amount", "Amount", "r.amount").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount(
                                                "vat",
                                                "of it VAT",
                                                "coalesce((select sum(v.tax) from ReductionVatEntity v where v.reductionId = r.id), 0)")
                                        .with(Trait.SHOWN, Trait.SUMMED),
                                Column.flag("reversed", "Taken back", "r.reversedOn is not null"),
                                Column.day("reversedOn", "Taken back on", "r.reversedOn")))
                .within("r.kind <> 'DISCOUNT'")
                .shipping(
                        Shipped.of(
                                "this-month",
                                "Written off this month",
                                "customer:amount",
                                "date:in:this-month",
                                "reversed:any:NO"),
                        Shipped.of(
                                "bad-debt",
                                "Bad debt by month",
                                "date.month:amount",
                                "kind:any:BAD_DEBT",
                                "reversed:any:NO"));
    }
}
