package app.euthyna.server.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.unwind.Placeholders;
import app.euthyna.core.unwind.Plan;
import app.euthyna.core.unwind.Planner;
import app.euthyna.server.check.Checking;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What a plan would come to, with how things stand before and after it. */
@Component
class UnwindPreviews {

    private final UnwindService service;
    private final UnwindContexts unwindContexts;
    private final Standing standing;
    private final LedgerReader ledger;
    private final EffectWriter writer;
    private final Checking checking;

    UnwindPreviews(
            UnwindService service,
            UnwindContexts unwindContexts,
            Standing standing,
            LedgerReader ledger,
            EffectWriter writer,
            Checking checking) {
        this.service = service;
        this.unwindContexts = unwindContexts;
        this.standing = standing;
        this.ledger = ledger;
        this.writer = writer;
        this.checking = checking;
    }

    /** An entry that a step posts, or would. */
    record StepEntry(String number, String event, LocalDate on, String document, List<EntryLine> lines) {}

    /**
     * A plan with how things stand before and after it.
     *
     * @param entries of each step
     * @param now after the steps that are possible now
     * @param done after all steps, if what waits comes as planned; the same where nothing waits
     * @param besides what else would happen, to other orders
     */
    record Preview(
            Plan plan,
            List<List<StepEntry>> entries,
            Standing.Picture before,
            Standing.Picture now,
            Standing.Picture done,
            List<String> besides,
            String fingerprint) {}

    /** Carries the plan out and looks at everything, in a transaction that is taken back. */
    @Transactional(propagation = Propagation.MANDATORY)
    Preview preview(CommandContext context, AskedUnwind asked, String reasonCode) {
        var intent = asked.toIntent();
        var orders = service.locked(intent);
        var unwindContext = unwindContexts.of(intent, orders);
        var unwindRequest = service.unwindRequest(context, asked, reasonCode, new Placeholders());
        var plan = RefusedException.orThrow(Planner.plan(unwindContext, unwindRequest));
        var customer = unwindContexts.customer(intent.subject(), orders);
        var before = standing.of(orders, customer, intent.subject());
        var now = before;
        var entries = new ArrayList<List<StepEntry>>();
        var all = new ArrayList<Effect>();
        var waits = false;
        for (var step : plan.steps()) {
            if (!waits && step.timing() != Plan.Timing.NOW) {
                waits = true;
                now = standing.of(orders, customer, intent.subject());
            }
            var last = ledger.lastNumber();
            var written = writer.write(context, step.effects());
            if (!waits) {
                all.addAll(written);
            }
            entries.add(ledger.entriesAfter(last).stream()
                    .map(e -> new StepEntry(
                            e.number(), e.event(), e.date(), e.document().toString(), e.lines()))
                    .toList());
        }
        var done = standing.of(orders, customer, intent.subject());
        all.addAll(checking.around(context, all));
        return new Preview(
                plan,
                entries,
                before,
                waits ? now : done,
                done,
                besides(all, orders),
                UnwindService.fingerprint(unwindContext, unwindRequest));
    }

    /** What the plan brings about for orders that it is not about. */
    private static List<String> besides(List<Effect> all, List<String> own) {
        var told = new LinkedHashSet<String>();
        for (var effect : all) {
            if (effect instanceof Effect.StockReserved reserved
                    && !own.contains(reserved.orderLine().number())) {
                told.add("Order %s, which waits for item %s, gets %s"
                        .formatted(reserved.orderLine().number(), reserved.item(), reserved.quantity()));
            } else if (effect instanceof Effect.StateChanged changed && !own.contains(changed.order())) {
                told.add("Order %s becomes %s"
                        .formatted(changed.order(), changed.to().words().toLowerCase(Locale.ROOT)));
            }
        }
        return List.copyOf(told);
    }
}
