package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.ledger.Register;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists and registers of what was billed, and of the money that came in for it. */
@Configuration(proxyBeanMethods = false)
class BillingLists {

    @Bean
    static DeclaredList salesRegister() {
        return new DeclaredList(
                        "sales-register",
                        "Sales register",
                        "invoice or reversal",
                        "invoices and reversals",
                        "SalesRegisterEntity r",
                        "r.id",
                        List.of(new DeclaredList.Join("i", "left join InvoiceEntity i on i.id = r.invoiceId")),
                        Reading.SELLING,
                        Sorting.by("enteredOn"),
                        List.of(
                                Column.number("number", "Invoice", "r.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.day("enteredOn", "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.code("customer", "Customer", "r.customerId", "CustomerEntity", "c", "CUSTOMER")
                                        .with(Trait.SHOWN),
                                Column.choice("side", "Issued or reversed", "r.side", Register.Side.class)
                                        .with(Trait.SHOWN),
                                Column.amount("net", "Net", "r.net").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("vat", "VAT", "r.vat").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("gross", "Gross", "r.gross").with(Trait.SHOWN, Trait.SUMMED),
                                Column.day("dueOn", "Due", "i.dueOn"),
                                Column.amount("open", "Open", "i.openAmount")))
                .proving(Register.SALES, "enteredOn")
                .shipping(
                        Shipped.of("this-month", "Billed this month", "enteredOn.day:net", "enteredOn:in:this-month"),
                        Shipped.of("last-month", "Billed last month", "enteredOn.day:net", "enteredOn:in:last-month"),
                        Shipped.of(
                                "by-month",
                                "Billed this year by month",
                                "enteredOn.month:net",
                                "enteredOn:in:this-year"),
                        Shipped.of(
                                "by-customer",
                                "Billed this year by customer",
                                "customer:net",
                                "enteredOn:in:this-year"));
    }

    @Bean
    static DeclaredList receiptsRegister() {
        return new DeclaredList(
                        "receipts-register",
                        "Receipts register",
                        "receipt, refund or reversal",
                        "receipts, refunds and reversals",
                        "ReceiptsRegisterEntity r",
                        "r.id",
                        List.of(),
                        Reading.SELLING,
                        Sorting.by("enteredOn"),
                        List.of(
                                Column.number("number", "Document", "r.number", "PAYMENT")
                                        .with(Trait.SHOWN),
                                Column.day("enteredOn", "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.code("customer", "Customer", "r.customerId", "CustomerEntity", "c", "CUSTOMER")
                                        .with(Trait.SHOWN),
                                Column.choice("kind", "Kind", "r.kind", DocumentKind.class)
                                        .with(Trait.SHOWN),
                                Column.choice("side", "Issued or reversed", "r.side", Register.Side.class)
                                        .with(Trait.SHOWN),
                                Column.amount("amount", "Amount", "r.amount").with(Trait.SHOWN, Trait.SUMMED)))
                .proving(Register.RECEIPTS, "enteredOn")
                .shipping(
                        Shipped.of("by-day", "Received this month", "enteredOn.day:amount", "enteredOn:in:this-month"),
                        Shipped.of(
                                "by-month",
                                "Received this year by month",
                                "enteredOn.month:amount",
                                "enteredOn:in:this-year"))
                .opening("r.kind");
    }

    @Bean
    static DeclaredList writeOffRegister() {
        return new DeclaredList(
                        "write-off-register",
                        "Register of write-offs",
                        "write-off or reversal",
                        "write-offs and reversals",
                        "WriteOffRegisterEntity r",
                        "r.id",
                        List.of(new DeclaredList.Join("i", "left join InvoiceEntity i on i.id = r.invoiceId")),
                        Reading.SELLING,
                        Sorting.by("enteredOn"),
                        List.of(
                                Column.number("number", "Write-off", "r.number", "WRITE_OFF")
                                        .with(Trait.SHOWN),
                                Column.day("enteredOn", "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.code("customer", "Customer", "r.customerId", "CustomerEntity", "c", "CUSTOMER")
                                        .with(Trait.SHOWN),
                                Column.number("invoice", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.choice("kind", "Kind", "r.kind", Reduction.Kind.class)
                                        .with(Trait.SHOWN),
                                Column.choice("side", "Issued or reversed", "r.side", Register.Side.class),
                                Column.text("reason", "Reason", "r.reason").with(Trait.SHOWN),
                                Column.amount("amount", "Amount", "r.amount").with(Trait.SHOWN, Trait.SUMMED)))
                .proving(Register.WRITE_OFFS, "enteredOn");
    }
}
