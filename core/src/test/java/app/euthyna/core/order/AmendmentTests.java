package app.euthyna.core.order;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.oneOf;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class AmendmentTests {

    private static final Order BEFORE =
            order("SO-1", OrderState.HELD, stock(1, "A", "5", "2.50", "21"), stock(2, "B", "3", "10", "21"));

    private static Decision<Amendment.Change> changed(Order before, Order after, Map<Integer, Committed> committed) {
        return Amendment.decide(before, after, committed, false, EntryRules.NONE);
    }

    private static List<String> sentences(Decision<Amendment.Change> decision) {
        return decision.refusals().stream().map(Refusal::sentence).toList();
    }

    @Test
    void saysWhatChangedLineByLine() {
        var after = BEFORE.withLines(List.of(stock(1, "A", "7", "2.25", "21"), stock(3, "C", "1", "4", "21")));
        assertThat(changed(BEFORE, after, Map.of()).get().differences())
                .containsExactly(
                        "line 1 quantity from 5 to 7",
                        "line 1 price from 2.5000 to 2.2500",
                        "line 2: 3 Item B removed",
                        "line 3: 1 Item C added");
    }

    @Test
    void ofNothingIsNoDifference() {
        assertThat(changed(BEFORE, BEFORE, Map.of()).get().differences()).isEmpty();
    }

    @Test
    void leavesWhatIsStagedShippedOrBilled() {
        var after = BEFORE.withLines(List.of(stock(1, "A", "2", "2.50", "21")));
        var committed = Map.of(
                1, new Committed(q(3), Committed.Reason.DEPARTED), 2, new Committed(q(1), Committed.Reason.BILLED));
        var decision = changed(BEFORE, after, committed);
        assertThat(decision.refusals()).extracting(Refusal::code).containsExactly("departed-goods", "already-billed");
        assertThat(sentences(decision))
                .containsExactly(
                        "Line 1 of order SO-1 cannot go below 2: 3 are shipped or cancelled.",
                        "Line 2 of order SO-1 cannot go below 0: 1 are billed or cancelled.");
    }

    @Test
    void keepsTheItemOfALineThatIsBound() {
        var after = BEFORE.withLines(List.of(stock(1, "Z", "5", "2.50", "21"), BEFORE.line(2)));
        assertThat(sentences(changed(BEFORE, after, Map.of(1, new Committed(q(1), Committed.Reason.STAGED)))))
                .containsExactly(
                        "lines[1].item: the item cannot change once the line is staged, shipped, billed or cancelled.");
        assertThat(changed(BEFORE, after, Map.of()).get().differences()).containsExactly("line 1 item from A to Z");
    }

    @Test
    void isNotPossibleWhileApprovalIsAskedForOrWhenTheOrderHasEnded() {
        assertThat(sentences(changed(BEFORE.withState(OrderState.AWAITING_APPROVAL), BEFORE, Map.of())))
                .containsExactly("Order SO-1 awaits approval and cannot be changed.");
        assertThat(sentences(changed(BEFORE.withState(OrderState.CANCELLED), BEFORE, Map.of())))
                .containsExactly("Order SO-1 is CANCELLED and cannot be changed.");
    }

    @Test
    void ofADraftMayLeaveItIncomplete() {
        var empty = BEFORE.withLines(List.of());
        assertThat(changed(BEFORE.withState(OrderState.DRAFT), empty, Map.of()).isRefused())
                .isFalse();
        assertThat(sentences(changed(BEFORE, empty, Map.of())))
                .containsExactly("lines: at least one line with an item.");
    }

    /** Whatever the quantities: it is refused just where one falls below what is bound. */
    @Test
    void isRefusedJustWhereALineFallsBelowWhatIsBound() {
        var seed = System.nanoTime();
        System.out.println("seed of amendments: " + seed);
        var random = new Random(seed);
        for (int round = 0; round < Rounds.of(2_000); round++) {
            var lines = new ArrayList<OrderLine>();
            var bound = random.nextInt(8);
            var asked = random.nextInt(8);
            lines.add(stock(1, "A", String.valueOf(asked), "2.50", "21"));
            lines.add(BEFORE.line(2));
            Collections.shuffle(lines, random);
            var reason = oneOf(random, Committed.Reason.values());
            var decision = changed(BEFORE, BEFORE.withLines(lines), Map.of(1, new Committed(q(bound), reason)));
            assertThat(decision.refusals().stream().anyMatch(OrderRefusal.BelowCommitted.class::isInstance))
                    .as("seed %d: %d of which %d are bound", seed, asked, bound)
                    .isEqualTo(asked < bound);
        }
    }

    @Test
    void tellsOfAnotherDayToo() {
        var line = BEFORE.line(1);
        var later = new OrderLine(
                1,
                line.kind(),
                line.item(),
                line.description(),
                line.quantity(),
                line.price(),
                line.vat(),
                TODAY.plusDays(3),
                line.site(),
                line.shortage());
        assertThat(changed(BEFORE, BEFORE.withLines(List.of(later, BEFORE.line(2))), Map.of())
                        .get()
                        .differences())
                .containsExactly("line 1 requested from 2026-03-02 to 2026-03-05");
    }
}
