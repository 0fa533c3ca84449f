package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.ledger.Register;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.Registers;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The registers of what was billed, and of the money that came in for it. */
@Configuration(proxyBeanMethods = false)
class BillingLists {

    /** The invoice that a row is about, or comes from. */
    private static final List<Join> INVOICE = List.of(new Join("i", "InvoiceEntity", "i.id = r.invoiceId"));

    @Bean
    static DeclaredList salesRegisterList() {
        return Registers.of(
                        Register.SALES,
                        Reading.SELLING,
                        "sales-register",
                        "Sales register",
                        "invoice or reversal",
                        "invoices and reversals",
                        "SalesRegisterEntity",
                        INVOICE,
                        Column.number("number", "Invoice", "r.number", "INVOICE"),
                        MasterColumns.customerIfAny("r.customerId"),
                        Registers.amount("net", "Net"),
                        Registers.amount("vat", "VAT"),
                        Registers.amount("gross", "Gross"),
                        Column.day("dueOn", "Due", "i.dueOn"),
                        Column.amount("open", "Open", "i.openAmount"))
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
    static DeclaredList receiptsRegisterList() {
        return Registers.of(
                        Register.RECEIPTS,
                        Reading.SELLING,
                        "receipts-register",
                        "Receipts register",
                        "receipt, refund or reversal",
                        "receipts, refunds and reversals",
                        "ReceiptsRegisterEntity",
                        List.of(),
                        Column.number("number", "Document", "r.number", "PAYMENT"),
                        MasterColumns.customerIfAny("r.customerId"),
                        Column.choice("kind", "Kind", "r.kind", DocumentKind.class)
                                .with(Trait.SHOWN),
                        Registers.amount("amount", "Amount"))
                .opening("r.kind")
                .shipping(
                        Shipped.of("by-day", "Received this month", "enteredOn.day:amount", "enteredOn:in:this-month"),
                        Shipped.of(
                                "by-month",
                                "Received this year by month",
                                "enteredOn.month:amount",
                                "enteredOn:in:this-year"));
    }

    @Bean
    static DeclaredList writeOffRegisterList() {
        return Registers.of(
                Register.WRITE_OFFS,
                Reading.SELLING,
                "write-off-register",
                "Register of write-offs",
                "write-off or reversal",
                "write-offs and reversals",
                "WriteOffRegisterEntity",
                INVOICE,
                Column.number("number", "Write-off", "r.number", "WRITE_OFF"),
                Column.number("invoice", "Invoice", "i.number", "INVOICE").with(Trait.SHOWN),
                Column.choice("kind", "Kind", "r.kind", Reduction.Kind.class).with(Trait.SHOWN),
                Column.text("reason", "Reason", "r.reason").with(Trait.SHOWN),
                Registers.amount("amount", "Amount"));
    }
}
