package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.check.CustomerPosition.Term;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

/**
 * Several orders cleared at once: what was seen of an order by itself may pass, what others add may not (section 4).
 */
class ClearingTests {

    private static Finding over(String excess) {
        var nothing = Term.nothing(EUR);
        return Finding.open(
                Severity.STOP,
                new Evidence.OverLimit(
                        new CustomerPosition(nothing, nothing, nothing, nothing),
                        eur("1.00"),
                        eur("1.00"),
                        eur("1.00"),
                        eur(excess)),
                TODAY);
    }

    private static Finding noPo() {
        return Finding.open(Severity.STOP, new PoEvidence.PoMissing("C1"), TODAY);
    }

    private static Finding waived(Finding finding) {
        return new Finding(
                finding.severity(),
                Finding.State.WAIVED,
                finding.evidence(),
                TODAY,
                Optional.of(new Finding.Waiver("controller", TODAY, "known")));
    }

    @Test
    void theOutlookIsTheWorstThatWouldHappen() {
        var care = Finding.open(Severity.CAUTION, new PoEvidence.PoMissing("C1"), TODAY);
        assertThat(Outlook.of(false, List.of(noPo()), true)).isEqualTo(Outlook.NOT_READY);
        assertThat(Outlook.of(true, List.of(care, noPo()), true)).isEqualTo(Outlook.HELD);
        assertThat(Outlook.of(true, List.of(care, waived(noPo())), true)).isEqualTo(Outlook.AWAITING_APPROVAL);
        assertThat(Outlook.of(true, List.of(care), false)).isEqualTo(Outlook.FLAGGED);
        assertThat(Outlook.of(true, List.of(waived(noPo())), false)).isEqualTo(Outlook.CLEARED);
        assertThat(Outlook.of(true, List.of(), false)).isEqualTo(Outlook.CLEARED);
    }

    @Test
    void whatWasOpenByItselfPasses() {
        assertThat(Clearing.passing(List.of(over("5.00"), noPo()), List.of(over("5.00"), noPo()), Set.of()))
                .containsExactlyInAnyOrder(Check.CREDIT_LIMIT, Check.MISSING_PO);
        assertThat(Clearing.grown(List.of(over("5.00")), List.of(over("5.00")))).isEmpty();
    }

    @Test
    void whatGrewByOthersPassesOnlyWhereThatWasAccepted() {
        var alone = List.of(over("5.00"), noPo());
        var now = List.of(over("5.01"), noPo());
        assertThat(Clearing.grown(alone, now)).containsExactly(Check.CREDIT_LIMIT);
        assertThat(Clearing.passing(alone, now, Set.of())).containsExactly(Check.MISSING_PO);
        assertThat(Clearing.passing(alone, now, Set.of(Check.CREDIT_LIMIT)))
                .containsExactlyInAnyOrder(Check.CREDIT_LIMIT, Check.MISSING_PO);
    }

    @Test
    void whatOpenedBecauseOfOthersHolds() {
        assertThat(Clearing.passing(List.of(), List.of(over("0.01")), Set.of())).isEmpty();
    }

    @Test
    void whatIsWaivedAlreadyIsNotWaivedAgain() {
        assertThat(Clearing.passing(List.of(waived(noPo())), List.of(waived(noPo())), Set.of()))
                .isEmpty();
    }
}
