package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.DuplicatePo;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.FindingDecisionRefusal;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/**
 * Runs the checks over one order and sets the state that follows: the one road on which an order is held or cleared.
 */
@Component
public class Checking {

    private final Cases cases;
    private final Clearance clearance;
    private final ObjectProvider<Rechecks> rechecks;
    private final Locks locks;
    private final TransactionCache<Boolean, Boolean> looking = TransactionCache.toTheEnd();
    private final Ids ids;

    Checking(Cases cases, Clearance clearance, ObjectProvider<Rechecks> rechecks, Locks locks, Ids ids) {
        this.locks = locks;
        this.rechecks = rechecks;
        this.ids = ids;
        this.cases = cases;
        this.clearance = clearance;
    }

    /**
     * What a check run came to.
     *
     * @param change of the order's state, where there is one
     * @param worse somebody who saw the order before has seen better figures
     */
    record Outcome(Optional<Effect> change, boolean worse) {}

    /**
     * The findings of an order as they are now, for somebody who decides on what they have seen: refused where it
     * stands worse. Nothing is kept.
     */
    public List<Finding> asSeen(CommandContext context, String order) {
        together(List.of(order));
        var chain = cases.chain(order);
        var seen = cases.findings(order);
        var now = Checks.again(chain, cases.context(chain.order(), context.today()), seen);
        var worse = Checks.worse(seen, now);
        if (!worse.isEmpty()) {
            rechecks.getObject().soon(ids.customer(chain.order().customer()));
            throw new RefusedException(
                    FindingDecisionRefusal.StandsWorse.of(chain.order().number(), worse));
        }
        return now;
    }

    /**
     * Locks what the checks of several orders count, before the first of them takes anything else; reads them at once.
     */
    void together(List<String> orders) {
        locks.quotas(items(cases.chains(orders).values().stream()));
        cases.chains(orders);
    }

    private static Set<String> items(Stream<Chain> chains) {
        return chains.flatMap(chain -> chain.order().lines().stream())
                .map(OrderLine::item)
                .filter(item -> !item.isEmpty())
                .collect(Collectors.toSet());
    }

    /** Checks an order and keeps what is found. */
    Outcome check(CommandContext context, String order, Occasion occasion, Optional<Chain> was) {
        var before = cases.findings(order);
        var asked = Checks.asked(cases.chain(order), before, occasion, was);
        // whoever only looks how it would be has taken other locks by then, and passes no quota
        if (asked.contains(Check.QUOTA) && !looksOnly()) {
            locks.quotas(items(Stream.concat(Stream.of(cases.chain(order)), was.stream())));
        }
        var chain = cases.chain(order);
        var checkContext = cases.context(chain.order(), context.today(), asked);
        var after = Checks.run(chain, checkContext, before, occasion, was);
        if (occasion == Occasion.SUBMITTED || occasion == Occasion.CHANGED) {
            RefusedException.where(
                    DuplicatePo.refusal(after, checkContext.customer().po(), context.person()));
        }
        if (!after.equals(before)) {
            cases.keep(order, after);
        }
        return new Outcome(
                state(context, chain, after, occasion),
                !Checks.worse(before, after).isEmpty());
    }

    /** What would become of others, within a transaction that is taken back. */
    public List<Effect> around(CommandContext context, List<Effect> all) {
        looking.put(true, true);
        return rechecks.getObject()
                .simulated(
                        context,
                        all.stream()
                                .flatMap(effect -> effect.orders().stream())
                                .map(order ->
                                        ids.customer(cases.chain(order).order().customer()))
                                .distinct()
                                .toList());
    }

    private boolean looksOnly() {
        return looking.known(true).isPresent();
    }

    /** The documents may have brought the order to its end. */
    Optional<Effect> settle(CommandContext context, String order) {
        return state(context, cases.chain(order), cases.findings(order), Occasion.WORLD_CHANGED);
    }

    /** Where an order goes that no finding holds. */
    OrderState decide(CommandContext context, Chain chain, List<Finding> found, Occasion occasion) {
        return clearance.decide(context, chain, found, occasion);
    }

    private Optional<Effect> state(CommandContext context, Chain chain, List<Finding> found, Occasion occasion) {
        var from = chain.order().state();
        var to = Checks.stateOf(chain, found);
        if (to == OrderState.CLEARED) {
            to = clearance.decide(context, chain, found, occasion);
        }
        return from == to
                ? Optional.empty()
                : Optional.of(new Effect.StateChanged(chain.order().number(), from, to));
    }
}
