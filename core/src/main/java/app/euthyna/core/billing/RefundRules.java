package app.euthyna.core.billing;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.RoleLimits;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Money that goes back, or that never really came: refunds, payments taken off invoices, payments that bounced
 * (sections 7 to 9).
 */
public final class RefundRules {

    private RefundRules() {}

    /**
     * A payment, or another source of customer credit, with all that was set against invoices from it.
     *
     * @param left customer credit from it that is not used
     * @param settled by invoice, net of what was taken off again
     * @param discounts that were taken with it
     */
    public record Source(
            DocumentRef document,
            String customer,
            Money amount,
            Money left,
            Money refunded,
            boolean reversed,
            Map<String, Money> settled,
            List<Discount> discounts) {
        public Source {
            settled = new LinkedHashMap<>(settled);
            discounts = List.copyOf(discounts);
        }

        /** Money with which no discount was taken. */
        public Source(
                DocumentRef document,
                String customer,
                Money amount,
                Money left,
                Money refunded,
                boolean reversed,
                Map<String, Money> settled) {
            this(document, customer, amount, left, refunded, reversed, settled, List.of());
        }

        /** What it settles now, by invoice. */
        public List<Settlement> settlements() {
            return settled.entrySet().stream()
                    .filter(e -> e.getValue().isPositive())
                    .map(e -> new Settlement(e.getKey(), e.getValue()))
                    .toList();
        }
    }

    /**
     * A discount that was taken with money.
     *
     * @param credits credit notes that are less for it
     */
    public record Discount(Reduction reduction, List<String> credits) {
        public Discount {
            credits = List.copyOf(credits);
        }
    }

    /**
     * The discounts that fall with what money settles of invoices; refused where credit notes are less for one: they
     * were right only with it.
     */
    public static Decision<List<Effect.ReductionReversed>> without(Source source, Collection<Settlement> settlements) {
        var of = settlements.stream().map(Settlement::invoice).collect(Collectors.toSet());
        var discounts = source.discounts().stream()
                .filter(one -> of.contains(one.reduction().invoice()))
                .toList();
        var credited = discounts.stream()
                .filter(one -> !one.credits().isEmpty())
                .map(one -> (Refusal) new DiscountCredited(one.reduction().invoice(), one.credits()))
                .toList();
        return credited.isEmpty()
                ? Decision.of(discounts.stream()
                        .map(one -> new Effect.ReductionReversed(one.reduction()))
                        .toList())
                : Decision.refused(credited);
    }

    /** The invoice was credited less the share of a discount that was taken on it. */
    @Code("already-credited")
    record DiscountCredited(String invoice, List<String> credits) implements Refusal.WrongState {}

    /** Days in which what was refunded counts together (section 15). */
    public static final int DAYS_TOGETHER = 30;

    /**
     * What bounds refunds to a customer, whoever gives them.
     *
     * @param byPerson what each person refunded to the customer of late
     * @param ofDocument what anybody refunded of a document of late
     * @param recordedBy who recorded the payments and deposits that the money of a document began as
     */
    public record Bounds(
            RoleLimits limits,
            Map<String, Money> byPerson,
            Map<DocumentRef, Money> ofDocument,
            Map<DocumentRef, Set<String>> recordedBy) {

        /** Nothing was refunded or recorded, and there is no limit. */
        public static final Bounds NONE = new Bounds(RoleLimits.NONE, Map.of(), Map.of(), Map.of());

        public Bounds {
            // sorted, so that a plan's context reads the same in every process
            byPerson = Collections.unmodifiableMap(new TreeMap<>(byPerson));
            ofDocument = sorted(ofDocument, amount -> amount);
            recordedBy = sorted(recordedBy, names -> Collections.unmodifiableSet(new TreeSet<>(names)));
        }

        private static <T> Map<DocumentRef, T> sorted(Map<DocumentRef, T> of, UnaryOperator<T> copy) {
            var sorted = new TreeMap<DocumentRef, T>(Comparator.comparing(DocumentRef::toString));
            of.forEach((document, value) -> sorted.put(document, copy.apply(value)));
            return Collections.unmodifiableMap(sorted);
        }

        /**
         * Who recorded what the money of a document began as. A document that is yet to be made, such as the credit
         * note of a plan, sets free money of any that the plan is about.
         */
        private Set<String> recordersOf(DocumentRef document) {
            return recordedBy.containsKey(document)
                    ? recordedBy.get(document)
                    : recordedBy.values().stream().flatMap(Set::stream).collect(Collectors.toSet());
        }
    }

    /** Limits add up: what one person may refund is not passed in parts. */
    @Code("limit-of-person")
    public record LimitOfPerson(Money amount, Money before, Money limit) implements Refusal.NotAuthorised {
        int daysTogether() {
            return DAYS_TOGETHER;
        }
    }

    /** Money of a document that is to be refunded. */
    public record Wanted(DocumentRef document, Money amount) {}

    /**
     * Why a person may not refund money to a customer, if so. Whoever recorded the money does not refund it; that is
     * told before amounts.
     *
     * @param wanted all that is to be refunded at once; it counts together
     */
    public static Optional<Refusal> refusal(Person person, List<Wanted> wanted, Bounds bounds) {
        var own = wanted.stream()
                .map(Wanted::document)
                .filter(document -> bounds.recordersOf(document).contains(person.username()))
                .findFirst();
        if (own.isPresent()) {
            return Optional.of(new RecordedByThem(own.get(), person.username()));
        }
        var total = wanted.stream().map(Wanted::amount).reduce(Money::plus).orElseThrow();
        var none = Money.zero(total.currency());
        var ofDocuments = wanted.stream()
                .map(Wanted::document)
                .distinct()
                .map(document -> bounds.ofDocument().getOrDefault(document, none))
                .reduce(none, Money::plus);
        var before = bounds.byPerson().getOrDefault(person.username(), none).max(ofDocuments);
        return bounds.limits()
                .of(person)
                .filter(limit -> total.plus(before).compareTo(limit) > 0)
                .map(limit -> new LimitOfPerson(total, before, limit));
    }

    /** Whoever recorded money that came in does not give it back. */
    @Code("four-eyes")
    public record RecordedByThem(DocumentRef document, String username) implements Refusal.NotAuthorised {}

    /** Gives customer credit back. */
    public static Decision<Effect.RefundGiven> refundCredit(String number, Source source, Money amount) {
        if (!amount.isPositive()) {
            return Decision.refused(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
        }
        return amount.compareTo(source.left()) > 0
                ? Decision.refused(
                        new BillingRefusal.MoreThanAvailable(source.document().capital(), amount, source.left()))
                : Decision.of(new Effect.RefundGiven(number, source.customer(), source.document(), "", amount));
    }

    /** Money that was refunded. */
    public record Refund(
            String number, String customer, DocumentRef source, String order, Money amount, boolean reversed) {}

    /** What was refunded did not reach the customer. */
    public static Decision<Effect.RefundReversed> reverse(Refund refund) {
        return refund.reversed()
                ? Decision.refused(new BillingRefusal.AlreadyReversed("Refund " + refund.number()))
                : Decision.of(new Effect.RefundReversed(
                        refund.number(), refund.customer(), refund.source(), refund.order(), refund.amount()));
    }

    /** Refunds what is unapplied of a deposit. */
    public static Decision<Effect.RefundGiven> refundDeposit(String number, Chain chain, String deposit, Money amount) {
        return Depositing.unapplied(chain, deposit, amount)
                .<Decision<Effect.RefundGiven>>map(Decision::refused)
                .orElseGet(() -> Decision.of(new Effect.RefundGiven(
                        number,
                        chain.order().customer(),
                        new DocumentRef(DocumentKind.DEPOSIT, deposit),
                        chain.order().number(),
                        amount)));
    }

    /**
     * A payment bounced: its entries are mirrored and what it settled is open again. What was refunded of it did leave
     * the company.
     */
    public static Decision<List<Effect>> reverse(Source payment) {
        if (payment.reversed()) {
            return Decision.refused(
                    new BillingRefusal.AlreadyReversed(payment.document().capital()));
        }
        if (payment.refunded().isPositive()) {
            return Decision.refused(
                    new BillingRefusal.AlreadyRefunded(payment.document().toString(), payment.refunded()));
        }
        return withDiscounts(
                payment,
                payment.settlements(),
                new Effect.PaymentReversed(
                        payment.document().number(), payment.customer(), payment.amount(), payment.settlements()));
    }

    /** Takes what a payment settled off an invoice; it stays as customer credit. */
    public static Decision<List<Effect>> takeOff(Source payment, List<Settlement> asked) {
        var refusals = new ArrayList<Refusal>();
        if (asked.isEmpty()) {
            refusals.add(CommonRefusal.Incomplete.of("settlements", "the invoices to unallocate from"));
        }
        var together = new LinkedHashMap<String, Money>();
        asked.forEach(one -> together.merge(one.invoice(), one.amount(), Money::plus));
        together.forEach((invoice, amount) -> {
            var settled = Optional.ofNullable(payment.settled().get(invoice)).orElse(Money.zero(amount.currency()));
            if (!amount.isPositive()) {
                refusals.add(
                        CommonRefusal.Incomplete.of("settlements[" + invoice + "].amount", "an amount above zero"));
            } else if (amount.compareTo(settled) > 0) {
                refusals.add(new BillingRefusal.MoreThanAvailable(
                        "On invoice " + invoice + ", " + payment.document(), amount, settled));
            }
        });
        return refusals.isEmpty() ? freed(payment, asked) : Decision.refused(refusals);
    }

    /** What of money settles invoices is customer credit again; discounts that were taken with it fall. */
    public static Decision<List<Effect>> freed(Source source, List<Settlement> settlements) {
        return withDiscounts(
                source, settlements, new Effect.AllocationTakenOff(source.document(), source.customer(), settlements));
    }

    private static Decision<List<Effect>> withDiscounts(Source source, List<Settlement> settlements, Effect effect) {
        var without = without(source, settlements);
        return without.isRefused()
                ? Decision.refused(without.refusals())
                : Decision.of(
                        Stream.concat(without.get().stream(), Stream.of(effect)).toList());
    }
}
