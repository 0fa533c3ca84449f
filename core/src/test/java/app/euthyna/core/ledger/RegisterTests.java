package app.euthyna.core.ledger;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.ledger.Register.Moved;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import java.math.BigDecimal;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class RegisterTests {

    private static Moved moved(AccountRole role, String account, String amount) {
        return new Moved(role, account, "name of " + account, new BigDecimal(amount));
    }

    private static Entry entry(DocumentKind kind, String event) {
        return new Entry(
                "J-1",
                TODAY,
                event,
                new DocumentRef(kind, "X-1"),
                "C",
                List.of(
                        new EntryLine(AccountRole.RECEIVABLES, "1200", eur("1.00")),
                        new EntryLine(AccountRole.REVENUE, "4000", eur("-1.00"))));
    }

    @Test
    void aFigureIsHeldAgainstAllAccountsOfItsRoles() {
        var net = Register.SALES.tie("net").orElseThrow();
        var tied = net.with(
                new BigDecimal("120.00"),
                List.of(
                        moved(AccountRole.REVENUE, "4000", "-70.00"),
                        moved(AccountRole.REVENUE, "4100", "-20.00"),
                        moved(AccountRole.DEFERRED_REVENUE, "2300", "-30.00"),
                        moved(AccountRole.OUTPUT_VAT, "2400", "-25.20")));
        assertThat(tied.accounts())
                .extracting(Moved::amount)
                .containsExactly(new BigDecimal("70.00"), new BigDecimal("20.00"), new BigDecimal("30.00"));
        assertThat(tied.ledger()).isEqualByComparingTo("120.00");
        assertThat(tied.agrees()).isTrue();
    }

    @Test
    void aCentThatTheLedgerHasNotIsADifference() {
        var tied = Register.RECEIPTS
                .tie("amount")
                .orElseThrow()
                .with(new BigDecimal("10.00"), List.of(moved(AccountRole.BANK, "1000", "9.99")));
        assertThat(tied.difference()).isEqualByComparingTo("0.01");
        assertThat(tied.agrees()).isFalse();
        assertThat(Register.RECEIPTS
                        .tie("amount")
                        .orElseThrow()
                        .with(BigDecimal.ZERO, List.of())
                        .agrees())
                .as("nothing came in, nothing was moved")
                .isTrue();
        assertThat(Register.RECEIPTS.tie("net")).isEmpty();
    }

    @Test
    void aDiscountStandsWithItsInvoiceButIsNotBilled() {
        assertThat(Register.SALES.accountsFor(entry(DocumentKind.INVOICE, "invoice of services")))
                .isTrue();
        var discount = entry(DocumentKind.INVOICE, "early-payment discount");
        assertThat(Register.SALES.accountsFor(discount)).isFalse();
        assertThat(Register.SALES.accountsFor(discount.mirror("J-2", TODAY))).isFalse();
        assertThat(Register.SALES.accountsFor(entry(DocumentKind.CREDIT_NOTE, "credit note")))
                .isFalse();
    }

    /** Two registers that accounted for the same entry would count it twice. */
    @ParameterizedTest
    @EnumSource
    void noDocumentStandsInTwoRegisters(Register register) {
        if (register.isBalance()) {
            assertThat(register.accountsFor(entry(DocumentKind.REFUND, "refund")))
                    .as("all documents move it")
                    .isTrue();
            return;
        }
        assertThat(Stream.of(Register.values())
                        .filter(other -> other != register)
                        .flatMap(other -> other.documents().stream()))
                .doesNotContainAnyElementsOf(register.documents());
    }
}
