package app.euthyna.core.unwind;

import app.euthyna.core.billing.GivingBack;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Plans that give back money which is not put to use: unapplied deposits and customer credit (section 9, 6). */
final class GivingMoneyBack {

    private static final Plan.Question MONEY = new Plan.Question(
            "money",
            "Where does it go?",
            List.of(
                    new Plan.Answer("refund", "Back to the customer"),
                    new Plan.Answer("customer-credit", "It stays as customer credit")));

    private final Scene scene;
    private final Undoing undoing;

    GivingMoneyBack(Scene scene, Undoing undoing) {
        this.scene = scene;
        this.undoing = undoing;
    }

    Decision<Plan> plan(Intent.GiveMoneyBack intent) {
        var subject = intent.subject();
        var all = subject.kind() == DocumentKind.ORDER;
        var deposits = scene.chains().stream()
                .flatMap(c -> c.deposits().stream())
                .filter(d -> all
                        || (subject.kind() == DocumentKind.DEPOSIT && d.number().equals(subject.number())))
                .filter(d -> d.unapplied().isPositive())
                .toList();
        // a deposit that became customer credit goes by its own number too
        var sources = scene.sources().stream()
                .filter(s ->
                        s.left().isPositive() && (all || s.document().number().equals(subject.number())))
                .toList();
        var unapplied = sum(deposits.stream().map(Deposit::unapplied).toList());
        var credit = sum(sources.stream().map(GivingBack.Source::left).toList());
        var toCredit = undoing.choices()
                .money()
                .filter(to -> to == Choices.MoneyTo.CUSTOMER_CREDIT)
                .isPresent();
        if (deposits.isEmpty() && (sources.isEmpty() || toCredit)) {
            return Decision.refused(nothing(subject, credit));
        }
        var questions = deposits.isEmpty() ? List.<Plan.Question>of() : List.of(MONEY);
        if (toCredit) {
            return Decision.of(new Plan(
                    "turn the deposit of %s into customer credit".formatted(subject),
                    unapplied,
                    List.of(Planner.now(
                            Plan.Kind.MOVE_TO_CUSTOMER_CREDIT,
                            "%s paid ahead stays as customer credit".formatted(unapplied),
                            deposits.stream()
                                    .map(d -> new Effect.DepositCredited(
                                            d.number(), d.order(), customer(d), d.unapplied()))
                                    .toList())),
                    questions));
        }
        var refunds = new ArrayList<Effect.Refunded>();
        deposits.forEach(d -> refunds.add(new Effect.Refunded(
                number(), customer(d), new DocumentRef(DocumentKind.DEPOSIT, d.number()), d.order(), d.unapplied())));
        sources.forEach(s -> refunds.add(new Effect.Refunded(number(), s.customer(), s.document(), "", s.left())));
        var step = Refunding.step(refunds, scene, undoing);
        return Decision.of(new Plan(
                undoing.intent().words(),
                sum(refunds.stream().map(Effect.Refunded::amount).toList()),
                List.of(step),
                questions));
    }

    /** Money of customer credit that is to go back; what was put to use meanwhile stays where it is. */
    Decision<Plan> agreed(List<Effect.Refunded> agreed) {
        var refunds = new ArrayList<Effect.Refunded>();
        for (var one : agreed) {
            scene.source(one.source())
                    .filter(source -> source.left().isPositive())
                    .ifPresent(source -> refunds.add(new Effect.Refunded(
                            number(),
                            source.customer(),
                            source.document(),
                            "",
                            one.amount().min(source.left()))));
        }
        if (refunds.isEmpty()) {
            return Decision.refused(new UnwindRefusal.NothingToGiveBack(
                    undoing.intent().subject().toString()));
        }
        return Decision.of(new Plan(
                undoing.intent().words(),
                sum(refunds.stream().map(Effect.Refunded::amount).toList()),
                List.of(Refunding.step(refunds, scene, undoing)),
                List.of()));
    }

    private String number() {
        return undoing.numbers().apply(DocumentKind.REFUND);
    }

    private String customer(Deposit deposit) {
        return scene.order(deposit.order()).order().customer();
    }

    private UnwindRefusal nothing(DocumentRef subject, Money credit) {
        var settled = scene.sources().stream()
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
        var currency = scene.chains().isEmpty()
                ? scene.sources().get(0).amount().currency()
                : scene.chains().get(0).order().currency();
        return amounts.stream().reduce(Money.zero(currency), Money::plus);
    }
}
