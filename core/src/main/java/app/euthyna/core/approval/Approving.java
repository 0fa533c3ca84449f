package app.euthyna.core.approval;

import app.euthyna.core.approval.ApprovalRule.Circumstances;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Content;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Which levels an order needs, and the decisions of those who carry them (section 6). Authority is checked before four
 * eyes.
 */
public final class Approving {

    private Approving() {}

    /** A level that a rule asks for, and why. */
    public record Ask(Level level, String reason) {}

    /** Somebody's approval of an order's content. */
    public record Approval(Level level, String by, LocalDate on, String reason, Content content) {}

    /** All that the rules and the limits of whoever wrote the order ask for: an order needs every level named. */
    public static List<Ask> asked(Order order, List<ApprovalRule> rules, Circumstances circumstances) {
        return Stream.concat(
                        rules.stream()
                                .flatMap(
                                        rule -> rule
                                                .asks(order, circumstances)
                                                .map(reason -> new Ask(rule.level(), reason))
                                                .stream()),
                        circumstances.forNothing().asks(order).stream())
                .toList();
    }

    /**
     * The levels that are asked for and whose approval does not cover the order as it is now, in the order of asking.
     */
    public static List<Level> pending(Order order, List<Ask> asked, List<Approval> approvals) {
        var now = Content.of(order);
        return asked.stream()
                .map(Ask::level)
                .distinct()
                .sorted()
                .filter(level -> approvals.stream()
                        .noneMatch(a -> a.level() == level && a.content().covers(now)))
                .toList();
    }

    /**
     * Approves the lowest level that is pending. Each level is someone else's: who approved one of the same content
     * does not decide on the next.
     */
    public static Decision<Approval> approve(
            Order order, List<Ask> asked, List<Approval> approvals, Person person, String reason, LocalDate on) {
        var pending = pending(order, asked, approvals);
        var level = pending.isEmpty() ? Level.CONTROLLER : pending.get(0);
        var refused = refusal(order, level.roles(), "approve an order for " + level.words(), person);
        if (refused.isPresent()) {
            return Decision.refused(refused.get());
        }
        if (pending.isEmpty()) {
            return Decision.refused(new ApprovalRefusal.NotAwaiting(order.number(), order.state()));
        }
        var content = Content.of(order);
        if (approvals.stream()
                .anyMatch(a -> a.by().equals(person.username()) && a.content().covers(content))) {
            return Decision.refused(new CommonRefusal.FourEyes("order " + order.number(), person.username()));
        }
        return Decision.of(new Approval(level, person.username(), on, reason.strip(), content));
    }

    private static Optional<Refusal> refusal(Order order, List<Role> allowed, String action, Person person) {
        if (!person.carries(allowed)) {
            return Optional.of(new CommonRefusal.NotAuthorised(action, person.role(), allowed));
        }
        if (order.state() != OrderState.AWAITING_APPROVAL) {
            return Optional.of(new ApprovalRefusal.NotAwaiting(order.number(), order.state()));
        }
        return order.wasWrittenBy(person.username())
                ? Optional.of(new CommonRefusal.FourEyes("order " + order.number(), person.username()))
                : Optional.empty();
    }

    /**
     * Sends a held order, or one that waits for approval, back for changes: it is a draft again, to be submitted anew.
     */
    public static Decision<Effect> sendBack(Order order, Person person, String reason) {
        if (!person.decides()) {
            return Decision.refused(
                    new CommonRefusal.NotAuthorised("send an order back", person.role(), Level.CONTROLLER.roles()));
        }
        if (order.state() != OrderState.AWAITING_APPROVAL && order.state() != OrderState.HELD) {
            return Decision.refused(new ApprovalRefusal.NotAwaiting(order.number(), order.state()));
        }
        if (order.wasWrittenBy(person.username())) {
            return Decision.refused(new CommonRefusal.FourEyes("order " + order.number(), person.username()));
        }
        return reason.isBlank()
                ? Decision.refused(CommonRefusal.Incomplete.of("reason", "what to change"))
                : Decision.of(new Effect.StateChanged(order.number(), order.state(), OrderState.DRAFT));
    }

    /** The author takes the request back: the order can be changed and submitted again. */
    public static Decision<Effect> recall(Order order, Person person, String reason) {
        if (!order.wasWrittenBy(person.username())) {
            return Decision.refused(
                    new ApprovalRefusal.NotTheAuthor(order.number(), order.author(), person.username()));
        }
        if (order.state() != OrderState.AWAITING_APPROVAL) {
            return Decision.refused(new ApprovalRefusal.NotAwaiting(order.number(), order.state()));
        }
        return reason.isBlank()
                ? Decision.refused(CommonRefusal.Incomplete.of("reason", "a reason for the recall"))
                : Decision.of(new Effect.StateChanged(order.number(), order.state(), OrderState.DRAFT));
    }
}
