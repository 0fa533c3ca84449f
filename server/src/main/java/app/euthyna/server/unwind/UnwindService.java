package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Plan;
import app.euthyna.core.unwind.Planner;
import app.euthyna.core.unwind.UnwindRefusal;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.LedgerSink;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.RefusedException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Plans over stored chains. What is carried out is what was previewed: the plan is bound to the chain's fingerprint. */
@Service
public class UnwindService {

    private static final String NUMBER_TO_COME = "(new)";

    private final ChainReader chains;
    private final LedgerSink ledger;
    private final Numbers numbers;
    private final Locks locks;
    private final EffectWriter writer;

    UnwindService(ChainReader chains, LedgerSink ledger, Numbers numbers, Locks locks, EffectWriter writer) {
        this.chains = chains;
        this.ledger = ledger;
        this.numbers = numbers;
        this.locks = locks;
        this.writer = writer;
    }

    /** A plan with the chain before and after it, and the entries of each step. */
    record Preview(Plan plan, Chain before, Chain after, List<List<EntryLine>> entries, String fingerprint) {
    }

    @Transactional(readOnly = true)
    Preview preview(CommandContext context, String order, Intent intent) {
        var before = chains.chain(order);
        var plan = RefusedException.unless(Planner.plan(before, intent, context.person(), context.reason(), context.date(), NUMBER_TO_COME));
        return preview(before, plan);
    }

    private Preview preview(Chain before, Plan plan) {
        var entries = plan.steps().stream().map(step -> step.effects().stream().flatMap(effect -> ledger.lines(effect).stream()).toList())
                .toList();
        return new Preview(plan, before, before.after(plan.effects()), entries, fingerprint(before));
    }

    /** What a plan over an order as it stands now would be bound to. */
    @Transactional(readOnly = true)
    public String fingerprintOf(String order) {
        return fingerprint(chains.chain(order));
    }

    private static String fingerprint(Chain chain) {
        return Hashes.sha256(chain.toString().getBytes(StandardCharsets.UTF_8));
    }

    /**
     * Carries a plan out, if the chain still is what it was made for.
     *
     * @param fingerprint of the preview
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public Plan carryOut(CommandContext context, String order, Intent intent, String fingerprint) {
        locks.customerAndOrder(order);
        var chain = chains.chain(order);
        var number = numbers.next(DocumentKind.CANCELLATION);
        var plan = RefusedException.unless(Planner.plan(chain, intent, context.person(), context.reason(), context.date(), number));
        if (!fingerprint(chain).equals(fingerprint)) {
            throw new RefusedException(new UnwindRefusal.PlanChanged(order));
        }
        writer.write(context, plan.effects());
        return plan;
    }
}
