package app.euthyna.core.billing;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Money that comes in, and customer credit that is used (section 7). */
public final class Receiving {

    private Receiving() {}

    /** Customer credit that is left, of an earlier payment, a deposit or a credit note. */
    public record Credit(DocumentRef source, Money left) {}

    /**
     * A payment, set against the invoices named; the rest stays on account.
     *
     * @param invoices those named, by number; one that is missing does not exist
     */
    public static Decision<Effect.PaymentReceived> receive(
            String number,
            String customer,
            Money amount,
            List<Settlement> settlements,
            Map<String, OpenInvoice> invoices) {
        if (!amount.isPositive()) {
            return Decision.refused(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
        }
        var refusals = refusals(customer, settlements, invoices);
        var together = sum(settlements, amount);
        if (together.compareTo(amount) > 0) {
            refusals.add(new BillingRefusal.MoreThanAvailable("The payment", together, amount));
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.PaymentReceived(number, customer, amount, settlements))
                : Decision.refused(refusals);
    }

    /** What of credit an invoice is to get: as much as it asks for and is there, where nothing is said. */
    public record Share(String invoice, Optional<Money> amount) {}

    /** Shares of credit in figures; those that say none take what the ones before them leave. */
    public static List<Settlement> settlements(
            List<Share> shares, Map<String, OpenInvoice> invoices, List<Credit> credits, Money zero) {
        var left = credits.stream().map(Credit::left).reduce(zero, Money::plus);
        var settlements = new ArrayList<Settlement>();
        for (var share : shares) {
            var invoice = invoices.get(share.invoice());
            var amount = share.amount().orElse(invoice == null ? left : left.min(invoice.open()));
            settlements.add(new Settlement(share.invoice(), amount));
            left = left.minus(amount).max(zero);
        }
        return settlements;
    }

    /**
     * Customer credit set against invoices, the oldest first.
     *
     * @param credits oldest first
     */
    public static Decision<List<Effect>> allocateCredit(
            String customer, List<Settlement> settlements, Map<String, OpenInvoice> invoices, List<Credit> credits) {
        if (settlements.isEmpty()) {
            return Decision.refused(CommonRefusal.Incomplete.of("settlements", "the invoices to allocate to"));
        }
        var refusals = refusals(customer, settlements, invoices);
        var zero = Money.zero(settlements.get(0).amount().currency());
        var available = credits.stream().map(Credit::left).reduce(zero, Money::plus);
        var together = sum(settlements, zero);
        if (together.compareTo(available) > 0) {
            refusals.add(new BillingRefusal.MoreThanAvailable("Customer " + customer, together, available));
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var effects = new ArrayList<Effect>();
        var wanted = new ArrayList<>(settlements);
        for (var credit : credits) {
            var left = credit.left();
            var settled = new ArrayList<Settlement>();
            while (left.isPositive() && !wanted.isEmpty()) {
                var next = wanted.remove(0);
                var taken = left.min(next.amount());
                settled.add(new Settlement(next.invoice(), taken));
                left = left.minus(taken);
                if (next.amount().compareTo(taken) > 0) {
                    wanted.add(0, new Settlement(next.invoice(), next.amount().minus(taken)));
                }
            }
            if (!settled.isEmpty()) {
                effects.add(new Effect.CreditAllocated(credit.source(), customer, settled));
            }
        }
        return Decision.of(effects);
    }

    /** Whose credit settled an invoice last. */
    public static Optional<DocumentRef> lastSource(List<Effect> allocated, String invoice) {
        return allocated.stream()
                .map(Effect.CreditAllocated.class::cast)
                .filter(one -> one.settlements().stream()
                        .anyMatch(settled -> settled.invoice().equals(invoice)))
                .map(Effect.CreditAllocated::source)
                .reduce((first, last) -> last);
    }

    private static List<Refusal> refusals(
            String customer, List<Settlement> settlements, Map<String, OpenInvoice> invoices) {
        var refusals = new ArrayList<Refusal>();
        var together = new HashMap<String, Money>();
        for (var settlement : settlements) {
            var invoice = invoices.get(settlement.invoice());
            if (invoice == null) {
                refusals.add(new CommonRefusal.NotFound("invoice", settlement.invoice()));
                continue;
            }
            if (!settlement.amount().isPositive()) {
                refusals.add(CommonRefusal.Incomplete.of(
                        "settlements[" + settlement.invoice() + "].amount", "an amount above zero"));
            }
            if (!invoice.customer().equals(customer)) {
                refusals.add(
                        new CommonRefusal.WrongCustomer("invoice " + invoice.number(), invoice.customer(), customer));
            }
            var asked = together.merge(settlement.invoice(), settlement.amount(), Money::plus);
            if (asked.compareTo(invoice.open()) > 0) {
                refusals.add(new BillingRefusal.MoreThanInvoiceOpen(invoice.number(), asked, invoice.open()));
            }
        }
        return refusals;
    }

    private static Money sum(List<Settlement> settlements, Money like) {
        return settlements.stream().map(Settlement::amount).reduce(Money.zero(like.currency()), Money::plus);
    }
}
