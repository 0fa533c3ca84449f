package app.euthyna.core.check;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * What a controller may decide on a held or flagged order: waive findings, or decline it. Authority comes before four
 * eyes.
 */
public final class FindingDecisions {

    private FindingDecisions() {}

    /**
     * Lets open findings pass. Nobody waives the findings of an order that they wrote or last changed (section 6).
     *
     * @param findings all of the order's
     */
    public static Decision<List<Finding>> waive(
            Chain chain, List<Finding> findings, Set<Check> named, Person person, String reason, LocalDate on) {
        var order = chain.order();
        if (!person.decides()) {
            return Decision.refused(new CommonRefusal.NotAuthorised("waive a finding", person.role(), Person.DECIDING));
        }
        if (order.wasWrittenBy(person.username())) {
            return Decision.refused(new CommonRefusal.FourEyes("order " + order.number(), person.username()));
        }
        if (reason.isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "a reason for the waiver"));
        }
        if (named.isEmpty()) {
            return Decision.refused(CommonRefusal.Incomplete.of("findings", "the findings to waive"));
        }
        var refusals = new ArrayList<Refusal>();
        for (var check : named) {
            if (findings.stream().noneMatch(finding -> finding.check() == check && finding.isOpen())) {
                refusals.add(new CommonRefusal.NotFound("open finding", check.code() + " on order " + order.number()));
            }
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var waiver = new Finding.Waiver(person.username(), on, reason.strip());
        return Decision.of(findings.stream()
                .map(f -> f.isOpen() && named.contains(f.check()) ? f.waived(waiver) : f)
                .toList());
    }

    /** Decides against an order of which nothing is staged or has left. What was reserved for it is released. */
    public static Decision<List<Effect>> decline(Chain chain, Person person, String reason) {
        var order = chain.order();
        if (!person.decides()) {
            return Decision.refused(
                    new CommonRefusal.NotAuthorised("decline an order", person.role(), Person.DECIDING));
        }
        if (order.wasWrittenBy(person.username())) {
            return Decision.refused(new CommonRefusal.FourEyes("order " + order.number(), person.username()));
        }
        if (reason.isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "a reason for declining"));
        }
        if (order.state() != OrderState.HELD
                && order.state() != OrderState.CLEARED
                && order.state() != OrderState.AWAITING_APPROVAL) {
            return Decision.refused(new OrderRefusal.Ended(order.number(), order.state()));
        }
        if (chain.anyDeparted() || chain.anyBilled()) {
            return Decision.refused(new FindingDecisionRefusal.GoodsLeft(order.number()));
        }
        if (!chain.staged().isEmpty()) {
            return Decision.refused(new FindingDecisionRefusal.GoodsStaged(
                    order.number(), chain.staged().get(0).number()));
        }
        var effects = new ArrayList<Effect>(releaseAll(chain));
        effects.add(new Effect.StateChanged(order.number(), order.state(), OrderState.DECLINED));
        return Decision.of(effects);
    }

    private static List<Effect> releaseAll(Chain chain) {
        return chain.flows().stream()
                .filter(flow -> flow.reserved().isPositive())
                .<Effect>map(flow -> new Effect.ReservationReleased(
                        new LineRef(chain.order().number(), flow.line().no()),
                        chain.order().siteOf(flow.line()),
                        flow.line().item(),
                        flow.reserved()))
                .toList();
    }
}
