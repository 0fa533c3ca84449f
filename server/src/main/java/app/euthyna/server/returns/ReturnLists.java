package app.euthyna.server.returns;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.billing.Registers;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The register of what was credited. */
@Configuration(proxyBeanMethods = false)
class CreditLists {

    @Bean
    static DeclaredList creditNoteRegister() {
        return Registers.of(
                Register.CREDIT_NOTES,
                "credit-note-register",
                "Register of credit notes",
                "credit note or reversal",
                "credit notes and reversals",
                "CreditNoteRegisterEntity",
                Column.number("number", "Credit note", "r.number", "CREDIT_NOTE"),
                Column.number("invoice", "Invoice", "i.number", "INVOICE").with(Trait.SHOWN),
                Column.text("reason", "Reason", "r.reason"),
                Registers.amount("net", "Net"),
                Registers.amount("vat", "VAT"),
                Registers.amount("gross", "Gross"));
    }
}
