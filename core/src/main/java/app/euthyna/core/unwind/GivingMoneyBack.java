package app.euthyna.core.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Plans that refund money which is not used: unapplied deposits and customer credit (section 9, 6). */
final class GivingMoneyBack {

    private static final Plan.Question MONEY = new Plan.Question(
            "money",
            "Destination",
            List.of(
                    new Plan.Answer("refund", "Refund to the customer"),
                    new Plan.Answer("customer-credit", "Move it to customer credit")));

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;

    GivingMoneyBack(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    Decision<Plan> plan(Intent.GiveMoneyBack intent) {
        var subject = intent.subject();
        var all = subject.kind() == DocumentKind.ORDER;
        var deposits = unwindContext.chains().stream()
                .flatMap(c -> c.deposits().stream())
                .filter(d -> all
                        || (subject.kind() == DocumentKind.DEPOSIT && d.number().equals(subject.number())))
                .filter(d -> d.unapplied().isPositive())
                .toList();
        // a deposit that became customer credit goes by its own number too
        var sources = unwindContext.sources().stream()
                .filter(s ->
                        s.left().isPositive() && (all || s.document().number().equals(subject.number())))
                .toList();
        var unapplied = sum(deposits.stream().map(Deposit::unapplied).toList());
        var credit = sum(sources.stream().map(RefundRules.Source::left).toList());
        var toCredit = unwindRequest
                .choices()
                .money()
                .filter(to -> to == Choices.MoneyTo.CUSTOMER_CREDIT)
                .isPresent();
        if (deposits.isEmpty() && (sources.isEmpty() || toCredit)) {
            return Decision.refused(nothing(subject, credit));
        }
        var questions = deposits.isEmpty() ? List.<Plan.Question>of() : List.of(MONEY);
        if (toCredit) {
            return Decision.of(new Plan(
                    "move the deposit of %s to customer credit".formatted(subject),
                    unapplied,
                    List.of(Planner.now(
                            Plan.Kind.MOVE_TO_CUSTOMER_CREDIT,
                            "the deposit of %s becomes customer credit".formatted(unapplied),
                            deposits.stream()
                                    .map(d -> new Effect.DepositCredited(
                                            d.number(), d.order(), customer(d), d.unapplied()))
                                    .toList())),
                    questions));
        }
        var refunds = new ArrayList<Effect.RefundGiven>();
        deposits.forEach(d -> refunds.add(new Effect.RefundGiven(
                number(), customer(d), new DocumentRef(DocumentKind.DEPOSIT, d.number()), d.order(), d.unapplied())));
        sources.forEach(s -> refunds.add(new Effect.RefundGiven(number(), s.customer(), s.document(), "", s.left())));
        var step = Refunding.step(refunds, unwindContext, unwindRequest);
        return Decision.of(new Plan(
                unwindRequest.intent().words(),
                sum(refunds.stream().map(Effect.RefundGiven::amount).toList()),
                List.of(step),
                questions));
    }

    /** Money of customer credit that is to go back; what was used meanwhile stays where it is. */
    Decision<Plan> agreed(List<Effect.RefundGiven> agreed) {
        var refunds = new ArrayList<Effect.RefundGiven>();
        for (var one : agreed) {
            unwindContext
                    .source(one.source())
                    .filter(source -> source.left().isPositive())
                    .ifPresent(source -> refunds.add(new Effect.RefundGiven(
                            number(),
                            source.customer(),
                            source.document(),
                            "",
                            one.amount().min(source.left()))));
        }
        if (refunds.isEmpty()) {
            return Decision.refused(new UnwindRefusal.NothingToGiveBack(
                    unwindRequest.intent().subject().toString()));
        }
        return Decision.of(new Plan(
                unwindRequest.intent().words(),
                sum(refunds.stream().map(Effect.RefundGiven::amount).toList()),
                List.of(Refunding.step(refunds, unwindContext, unwindRequest)),
                List.of()));
    }

    private String number() {
        return unwindRequest.numbers().apply(DocumentKind.REFUND);
    }

    private String customer(Deposit deposit) {
        return unwindContext.order(deposit.order()).order().customer();
    }

    private UnwindRefusal nothing(DocumentRef subject, Money credit) {
        var settled = unwindContext.sources().stream()
                .filter(s ->
                        subject.kind() == DocumentKind.ORDER || s.document().equals(subject))
                .flatMap(s -> s.settled().entrySet().stream())
                .filter(e -> e.getValue().isPositive())
                .map(Map.Entry::getKey)
                .distinct()
                .toList();
        if (credit.isPositive()) {
            return new UnwindRefusal.CreditAlready(subject.toString(), credit);
        }
        return settled.isEmpty()
                ? new UnwindRefusal.NothingToGiveBack(subject.toString())
                : new UnwindRefusal.PaymentAttached(subject.toString(), settled);
    }

    private Money sum(List<Money> amounts) {
        var currency = unwindContext.chains().isEmpty()
                ? unwindContext.sources().get(0).amount().currency()
                : unwindContext.chains().get(0).order().currency();
        return amounts.stream().reduce(Money.zero(currency), Money::plus);
    }
}
