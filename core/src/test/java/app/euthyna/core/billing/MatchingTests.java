package app.euthyna.core.billing;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Matching.Beside;
import app.euthyna.core.billing.Matching.Candidate;
import app.euthyna.core.billing.Matching.Credit;
import app.euthyna.core.billing.Matching.Early;
import app.euthyna.core.billing.Matching.Proposal;
import app.euthyna.core.billing.Matching.Received;
import app.euthyna.core.billing.Matching.Sureness;
import app.euthyna.core.flow.Effect.Settlement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What settles invoices beside the money of a bank entry; that it is proposed is common practice, figures ours. */
class MatchingTests {

    private final List<Candidate> open = new ArrayList<>();
    private final List<Credit> credits = new ArrayList<>();
    private LocalDate booked = TODAY;

    private void invoice(String number, String customer, String amount, String discount) {
        open.add(new Candidate(
                new OpenInvoice(number, customer, eur(amount), eur(amount)),
                "Yard of " + customer,
                discount.isEmpty() ? Optional.empty() : Optional.of(new Early(eur(discount), TODAY.plusDays(3)))));
    }

    private Proposal best(String amount, String payer, String remittance) {
        return Matching.propose(
                        new Received(eur(amount), payer, "", remittance, booked),
                        open,
                        new Beside(credits, eur("1.00")))
                .get(0);
    }

    @Test
    void shortByJustTheDiscountWithinItsDaysIsCertainWhereItIsNamed() {
        invoice("2026-00001", "C", "100.00", "2.00");
        var named = best("98.00", "", "inv 2026-00001");
        assertThat(named.sureness()).isEqualTo(Sureness.CERTAIN);
        assertThat(named.parts().get(0).discounted()).containsExactly("2026-00001");
        assertThat(named.settlements()).containsExactly(new Settlement("2026-00001", eur("98.00")));
        assertThat(named.reason()).contains("early-payment discount of EUR 2.00");
        assertThat(best("98.00", "Yard of C", "").sureness()).isEqualTo(Sureness.LIKELY);
        booked = TODAY.plusDays(4);
        assertThat(best("98.00", "", "inv 2026-00001").parts().get(0).discounted())
                .as("too late")
                .isEmpty();
    }

    @Test
    void shortByCentsIsWrittenOffAndNeverByItself() {
        invoice("2026-00001", "C", "100.00", "");
        var cents = best("99.60", "", "2026-00001");
        assertThat(cents.sureness()).isEqualTo(Sureness.LIKELY);
        assertThat(cents.settlements()).containsExactly(new Settlement("2026-00001", eur("99.60")));
        assertThat(cents.parts().get(0).writtenOff()).contains(new Settlement("2026-00001", eur("0.40")));
        assertThat(best("98.99", "", "2026-00001").parts().get(0).writtenOff())
                .as("more than a small difference")
                .isEmpty();
    }

    @Test
    void twoInvoicesLessACreditNote() {
        invoice("2026-00001", "C", "100.00", "");
        invoice("2026-00002", "C", "50.00", "");
        invoice("2026-00003", "C", "70.00", "");
        credits.add(new Credit("C2026-00009", "C", eur("30.00")));
        var less = best("120.00", "Yard of C", "as agreed");
        assertThat(less.sureness()).isEqualTo(Sureness.LIKELY);
        assertThat(less.settlements())
                .containsExactly(
                        new Settlement("2026-00001", eur("100.00")), new Settlement("2026-00002", eur("20.00")));
        assertThat(less.parts().get(0).credits())
                .isEqualTo(Map.of("C2026-00009", List.of(new Settlement("2026-00002", eur("30.00")))));
        assertThat(best("120.00", "", "2026-00001, 2026-00002 less C2026-00009").sureness())
                .as("all of them named")
                .isEqualTo(Sureness.CERTAIN);
    }

    @Test
    void creditOfAnotherCustomerSettlesNothing() {
        invoice("2026-00001", "C", "100.00", "");
        credits.add(new Credit("C2026-00009", "D", eur("30.00")));
        assertThat(best("70.00", "", "2026-00001").parts().get(0).credits()).isEmpty();
    }

    @Test
    void oneSumOverTheReferencesOfSeveralCustomers() {
        invoice("2026-00001", "C", "100.00", "");
        invoice("2026-00002", "D", "50.00", "");
        var together = best("150.00", "an agent", "2026-00001 and 2026-00002");
        assertThat(together.sureness()).isEqualTo(Sureness.CERTAIN);
        assertThat(together.parts()).extracting(Matching.Part::customer).containsExactly("C", "D");
        assertThat(together.reason()).contains("2026-00001, 2026-00002");
        assertThat(best("140.00", "an agent", "2026-00001 and 2026-00002").parts())
                .as("where the sum is another, only the first customer's")
                .hasSize(1);
    }

    @Test
    void everyProposalSaysWhy() {
        invoice("2026-00001", "C", "100.00", "2.00");
        invoice("2026-00002", "C", "50.00", "");
        credits.add(new Credit("C2026-00009", "C", eur("30.00")));
        for (var amount : List.of("98.00", "99.50", "150.00", "120.00", "50.00", "20.00", "33.00")) {
            assertThat(Matching.propose(
                            new Received(eur(amount), "Yard of C", "", "", booked),
                            open,
                            new Beside(credits, eur("1.00"))))
                    .isNotEmpty()
                    .allSatisfy(proposal -> assertThat(proposal.reason()).isNotBlank())
                    .extracting(proposal -> Set.copyOf(proposal.settlements()))
                    .doesNotHaveDuplicates();
        }
    }
}
