package app.euthyna.server.returns;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists and registers of what was credited. */
@Configuration(proxyBeanMethods = false)
class CreditLists {

    @Bean
    static DeclaredList creditNoteRegister() {
        return new DeclaredList(
                        "credit-note-register",
                        "Register of credit notes",
                        "credit note or reversal",
                        "credit notes and reversals",
                        "CreditNoteRegisterEntity r",
                        "r.id",
                        List.of(new DeclaredList.Join("i", "left join InvoiceEntity i on i.id = r.invoiceId")),
                        Reading.SELLING,
                        Sorting.by("enteredOn"),
                        List.of(
                                Column.number("number", "Credit note", "r.number", "CREDIT_NOTE")
                                        .with(Trait.SHOWN),
                                Column.day("enteredOn", "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                                Column.code("customer", "Customer", "r.customerId", "CustomerEntity", "c", "CUSTOMER")
                                        .with(Trait.SHOWN),
                                Column.number("invoice", "Invoice", "i.number", "INVOICE")
                                        .with(Trait.SHOWN),
                                Column.choice("side", "Issued or reversed", "r.side", Register.Side.class)
                                        .with(Trait.SHOWN),
                                Column.text("reason", "Reason", "r.reason"),
                                Column.amount("net", "Net", "r.net").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("vat", "VAT", "r.vat").with(Trait.SHOWN, Trait.SUMMED),
                                Column.amount("gross", "Gross", "r.gross").with(Trait.SHOWN, Trait.SUMMED)))
                .proving(Register.CREDIT_NOTES, "enteredOn");
    }
}
