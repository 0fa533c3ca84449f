package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Finding;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Person;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Clears several orders in a sequence, each held against the world as those before it leave it (section 4). The preview
 * carries out the same and takes it back, so that it can't show anything else than what happens.
 */
@Service
class ClearingService {

    /** The reason in a preview, which is taken back. */
    private static final String UNSAID = "preview";

    private final ClearingSteps steps;
    private final Cases cases;
    private final Checking checking;
    private final Locks locks;
    private final Commands commands;
    private final Batches batches;

    ClearingService(
            ClearingSteps steps, Cases cases, Checking checking, Locks locks, Commands commands, Batches batches) {
        this.checking = checking;
        this.steps = steps;
        this.cases = cases;
        this.locks = locks;
        this.commands = commands;
        this.batches = batches;
    }

    /**
     * An order to be cleared.
     *
     * @param version that was seen; none is needed to ask what would happen
     * @param accepted what may pass although it grew by clearing those before it
     */
    record Asked(String number, Optional<Long> version, Set<Check> accepted) {}

    /** What becomes, or became, of an order. */
    enum Outcome {
        CLEARED,
        AWAITING_APPROVAL,
        HELD,
        REFUSED
    }

    /** A finding that is waived, or that holds the order. */
    record PassedView(String check, String brief, String sentence, boolean grew, boolean passes) {}

    /** Free stock of an item before the order and behind it. */
    record StockUse(String item, BigDecimal freeBefore, BigDecimal freeAfter) {}

    /** Use of a quota before the order and behind it. */
    record QuotaUse(
            String item, String scope, String key, BigDecimal usedBefore, BigDecimal usedAfter, BigDecimal granted) {}

    /** An order's place in the sequence. */
    record Step(
            String number,
            long version,
            String customer,
            String customerName,
            BigDecimal openGross,
            Outcome outcome,
            @Nullable String code,
            String sentence,
            BigDecimal exposureBefore,
            BigDecimal exposureAfter,
            @Nullable BigDecimal limit,
            List<PassedView> findings,
            List<StockUse> stock,
            List<QuotaUse> quotas) {}

    /**
     * All of a sequence; the fingerprint says what was shown.
     *
     * @param log the batch under which what was done is kept; null in a preview
     */
    record Sequence(
            List<Step> steps, String fingerprint, @Nullable Long log) {}

    Sequence preview(CommandContext context, List<Asked> asked) {
        return commands.simulated(() -> run(context.because(UNSAID), asked));
    }

    /** Clears the orders as it was shown; refuses when something changed since. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Sequence clear(CommandContext context, List<Asked> asked, String fingerprint) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for clearing these orders"));
        }
        if (asked.stream().anyMatch(one -> one.version().isEmpty())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("version", "the version of each order"));
        }
        var done = run(context, asked);
        if (!done.fingerprint().equals(fingerprint)) {
            throw new RefusedException(new PlatformRefusal.PreviewChanged());
        }
        var entries = done.steps().stream()
                .map(step -> new Batches.Entry(
                        done.steps().indexOf(step) + 1,
                        DocumentKind.ORDER,
                        step.number(),
                        goesOn(step) ? Batches.State.DONE : Batches.State.REFUSED,
                        goesOn(step) ? "" : Objects.requireNonNullElse(step.code(), "not-cleared"),
                        step.sentence(),
                        null,
                        null))
                .toList();
        return new Sequence(done.steps(), done.fingerprint(), batches.keep(context, Batches.Kind.CLEARING, entries));
    }

    private static boolean goesOn(Step step) {
        return step.outcome() == Outcome.CLEARED || step.outcome() == Outcome.AWAITING_APPROVAL;
    }

    private Sequence run(CommandContext context, List<Asked> asked) {
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "clear orders", context.person().role(), Person.DECIDING));
        }
        var numbers = asked.stream().map(Asked::number).toList();
        if (Set.copyOf(numbers).size() != numbers.size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("orders", "each order once"));
        }
        locks.customersAndOrders(numbers);
        checking.together(numbers);
        Map<String, List<Finding>> alone = new HashMap<>();
        numbers.forEach(number -> alone.put(number, cases.again(cases.chain(number), context.today())));
        var done = asked.stream()
                .map(one -> steps.step(context, one, alone.get(one.number())))
                .toList();
        return new Sequence(done, Hashes.sha256(Records.write(done).getBytes(StandardCharsets.UTF_8)), null);
    }
}
