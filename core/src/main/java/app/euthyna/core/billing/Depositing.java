package app.euthyna.core.billing;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;

/** Money deposited for an order: asked for, received, set against its invoices, moved on, refunded (section 7). */
public final class Depositing {

    private Depositing() {}

    /** What a per cent of an order's gross comes to, rounded to the minor unit. */
    public static Money share(Chain chain, BigDecimal percent) {
        var gross = chain.order().totals().gross();
        return Money.rounded(gross.amount().multiply(percent).movePointLeft(2), gross.currency());
    }

    /** Takes in a deposit; an order that waits for nothing but a decision may have one, one that has ended may not. */
    public static Decision<Effect.DepositReceived> receive(Chain chain, String number, Money amount, LocalDate on) {
        var order = chain.order();
        if (!amount.isPositive()) {
            return Decision.refused(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
        }
        return takes(chain)
                .<Decision<Effect.DepositReceived>>map(Decision::refused)
                .orElseGet(() ->
                        Decision.of(new Effect.DepositReceived(number, order.customer(), order.number(), on, amount)));
    }

    private static Optional<Refusal> takes(Chain chain) {
        var order = chain.order();
        if (order.state() == OrderState.DRAFT) {
            return Optional.of(new OrderRefusal.NotCleared(order.number(), order.state()));
        }
        return (order.state().isEnded() && chain.inForce().findAny().isEmpty())
                        || order.state() == OrderState.CANCELLED
                        || order.state() == OrderState.DECLINED
                ? Optional.of(new OrderRefusal.Ended(order.number(), order.state()))
                : Optional.empty();
    }

    /**
     * Sets what is unapplied of an order's deposits against its open invoices: the oldest deposit first, and the oldest
     * invoice first.
     *
     * @param invoices of the order, oldest first, with what they have open
     */
    public static List<Effect.DepositApplied> apply(Chain chain, Collection<OpenInvoice> invoices) {
        var applied = new ArrayList<Effect.DepositApplied>();
        var open = new HashMap<String, Money>();
        invoices.forEach(invoice -> open.put(invoice.number(), invoice.open()));
        for (var deposit : chain.deposits()) {
            var left = deposit.unapplied();
            var settlements = new ArrayList<Settlement>();
            for (var invoice : invoices) {
                var taken = left.min(open.get(invoice.number()));
                if (taken.isPositive()) {
                    settlements.add(new Settlement(invoice.number(), taken));
                    open.merge(invoice.number(), taken, Money::minus);
                    left = left.minus(taken);
                }
            }
            if (!settlements.isEmpty()) {
                applied.add(new Effect.DepositApplied(
                        deposit.number(),
                        chain.order().customer(),
                        chain.order().number(),
                        settlements));
            }
        }
        return applied;
    }

    /** Sets a deposit against an invoice of the same customer manually. */
    public static Decision<Effect.DepositApplied> applyByHand(
            Chain chain, String number, Money amount, OpenInvoice invoice) {
        var refused = unapplied(chain, number, amount);
        if (refused.isPresent()) {
            return Decision.refused(refused.get());
        }
        var order = chain.order();
        if (!invoice.customer().equals(order.customer())) {
            return Decision.refused(new CommonRefusal.WrongCustomer(
                    "invoice " + invoice.number(), invoice.customer(), order.customer()));
        }
        return amount.compareTo(invoice.open()) > 0
                ? Decision.refused(new BillingRefusal.MoreThanInvoiceOpen(invoice.number(), amount, invoice.open()))
                : Decision.of(new Effect.DepositApplied(
                        number, order.customer(), order.number(), List.of(new Settlement(invoice.number(), amount))));
    }

    /** Moves what is unapplied of a deposit, or a part of it, to another order of the customer. */
    public static Decision<Effect.DepositMoved> move(
            Chain from, String number, Chain to, String toNumber, Money amount, LocalDate on) {
        var refusals = new ArrayList<Refusal>();
        unapplied(from, number, amount).ifPresent(refusals::add);
        takes(to).ifPresent(refusals::add);
        var order = from.order();
        if (!to.order().customer().equals(order.customer())) {
            refusals.add(new CommonRefusal.WrongCustomer(
                    "order " + to.order().number(), to.order().customer(), order.customer()));
        }
        if (to.order().number().equals(order.number())) {
            refusals.add(CommonRefusal.Incomplete.of("order", "another order than its own"));
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.DepositMoved(
                        number, order.number(), toNumber, to.order().number(), order.customer(), on, amount))
                : Decision.refused(refusals);
    }

    /** Turns what is unapplied of a deposit, or a part of it, into customer credit. */
    public static Decision<Effect.DepositCredited> credit(Chain chain, String number, Money amount) {
        return unapplied(chain, number, amount)
                .<Decision<Effect.DepositCredited>>map(Decision::refused)
                .orElseGet(() -> Decision.of(new Effect.DepositCredited(
                        number, chain.order().number(), chain.order().customer(), amount)));
    }

    /** Why an amount can't be taken from a deposit's unapplied rest. */
    static Optional<Refusal> unapplied(Chain chain, String number, Money amount) {
        if (!amount.isPositive()) {
            return Optional.of(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
        }
        var left = chain.deposits().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .map(Deposit::unapplied)
                .orElseThrow(() -> new IllegalArgumentException("deposit " + number + " does not belong to order "
                        + chain.order().number()));
        return amount.compareTo(left) > 0
                ? Optional.of(new BillingRefusal.MoreThanAvailable("Deposit " + number, amount, left))
                : Optional.empty();
    }
}
