package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.FindingDecisions;
import app.euthyna.core.check.Remedies;
import app.euthyna.core.check.Remedy;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.order.OrderDecisions;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Decisions on held and flagged orders, and the dry run of the checks. */
@Service
public class CheckService {

    private final OrderService orders;
    private final Cases cases;
    private final Checking checking;
    private final OrderDecisions decisions;

    CheckService(OrderService orders, Cases cases, Checking checking, OrderDecisions decisions) {
        this.decisions = decisions;
        this.checking = checking;
        this.orders = orders;
        this.cases = cases;
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void waive(CommandContext context, String number, long version, Set<Check> named) {
        decisions.lock(number);
        var chain = cases.chain(number);
        RefusedException.orThrow(FindingDecisions.waive(
                chain, cases.findings(number), named, context.person(), context.reason(), context.today()));
        decisions.requireVersion(number, version);
        // what is waived is what was seen and is true now
        var after = RefusedException.orThrow(FindingDecisions.waive(
                chain, checking.asSeen(context, number), named, context.person(), context.reason(), context.today()));
        settle(context, chain, after, named);
    }

    /** Keeps findings of which some were waived, and sets the state that follows. */
    void settle(CommandContext context, Chain chain, List<Finding> after, Set<Check> passed) {
        var number = chain.order().number();
        cases.keep(number, after);
        if (!passed.isEmpty()) {
            decisions.note(
                    context,
                    number,
                    "waived",
                    "waived: " + passed.stream().map(Check::title).sorted().collect(Collectors.joining(", ")) + ": "
                            + context.reason());
        }
        var to = Checks.stateOf(chain, after);
        if (to == OrderState.CLEARED) {
            to = checking.decide(context, chain, after, Checks.Occasion.WORLD_CHANGED);
        }
        if (to == chain.order().state()) {
            decisions.moveVersion(number);
            cases.bringUpToDate();
        } else {
            decisions.write(
                    context,
                    List.of(new Effect.StateChanged(number, chain.order().state(), to)));
        }
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void decline(CommandContext context, String number, long version) {
        decisions.lock(number);
        var effects = RefusedException.orThrow(
                FindingDecisions.decline(cases.chain(number), context.person(), context.reason()));
        decisions.requireVersion(number, version);
        decisions.write(context, effects);
    }

    /**
     * What would clear an order's open findings. A price that would is not offered to those who may not read floor
     * prices and costs: it tells them.
     */
    @Transactional(readOnly = true)
    public List<Remedy> remedies(CommandContext context, String number) {
        var chain = cases.chain(number);
        if (chain.order().state().isEnded()
                || chain.order().state() == OrderState.AWAITING_APPROVAL
                || chain.order().state() == OrderState.DRAFT) {
            return List.of();
        }
        return Remedies.of(
                        chain,
                        cases.context(chain.order(), context.today()),
                        cases.findings(number),
                        changed -> cases.context(changed, context.today()))
                .stream()
                .filter(remedy -> !remedy.tellsCosts()
                        || ReadBy.Group.COSTS.isRead(context.person().role()))
                .toList();
    }

    /** Changes an order as one of its remedies says. Money is for billing to record. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void remedy(CommandContext context, String number, long version, Check check, Remedy.Kind kind) {
        decisions.lock(number);
        decisions.requireVersion(number, version);
        var remedy = remedies(context, number).stream()
                .filter(r ->
                        r.check() == check && r.kind() == kind && r.changed().isPresent())
                .findFirst()
                .orElseThrow(() -> new RefusedException(
                        new CommonRefusal.NotFound("remedy", kind + " for " + check.code() + " on order " + number)));
        if (remedy.rest().isPresent()) {
            orders.split(
                    context,
                    number,
                    version,
                    remedy.changed().get(),
                    remedy.rest().get());
        } else {
            orders.change(context, number, version, remedy.changed().get());
        }
    }

    /** The checks of which a finding is open on an order. */
    @Transactional(readOnly = true)
    public Set<Check> openOf(String number) {
        return cases.findings(number).stream()
                .filter(Finding::isOpen)
                .map(Finding::check)
                .collect(Collectors.toSet());
    }

    /**
     * What would hold an order if it were submitted, or changed, as it is written now. Nothing is kept.
     *
     * @param number of the order that would be changed; empty for a new one
     */
    @Transactional(readOnly = true)
    DryRun dryRun(CommandContext context, Optional<String> number, OrderDraft draft) {
        if (number.isEmpty()) {
            var order = orders.simulate(context, draft);
            var checkContext = cases.context(order, context.today());
            return new DryRun(
                    Chain.of(order),
                    Checks.run(Chain.of(order), checkContext, List.of(), Checks.Occasion.SUBMITTED, Optional.empty()),
                    checkContext);
        }
        var was = cases.chain(number.get());
        var order = orders.simulateChange(context, number.get(), draft);
        var chain = was.after(new Effect.OrderChanged(was.order(), order, List.of()));
        var checkContext = cases.context(order, context.today());
        var occasion = order.state() == OrderState.DRAFT ? Checks.Occasion.SUBMITTED : Checks.Occasion.CHANGED;
        return new DryRun(
                chain,
                Checks.run(chain, checkContext, cases.findings(number.get()), occasion, Optional.of(was)),
                checkContext);
    }

    record DryRun(Chain chain, List<Finding> findings, CheckContext checkContext) {}
}
