package app.euthyna.core.flow;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;

import app.euthyna.core.billing.Receiving;
import app.euthyna.core.billing.Reducing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;

/** Money that comes and goes at random, and what is settled without any. */
abstract class MoneyMoves extends CheckedBooks {

    static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    MoneyMoves(Random random, String name, Map<String, Integer> happened) {
        super(random, name, happened);
    }

    /** Too much, too little or just enough, against one invoice or none; or credit that is there. */
    void pay() {
        var open =
                invoices().values().stream().filter(i -> i.open().isPositive()).toList();
        var settlements = open.isEmpty()
                ? List.<Settlement>of()
                : List.of(new Settlement(
                        open.get(0).number(), random.nextBoolean() ? open.get(0).open() : amount(2_000)));
        if (!open.isEmpty() && random.nextInt(3) == 0) {
            payEarly(invoice(open.get(0).number()));
        } else if (random.nextBoolean()) {
            Receiving.receive(next("P-"), "C", amount(9_000), settlements, invoices())
                    .result()
                    .ifPresent(this::happen);
        } else {
            var credits = payments.values().stream()
                    .filter(p -> p.left().isPositive())
                    .map(p -> new Receiving.Credit(p.document(), p.left()))
                    .toList();
            Receiving.allocateCredit("C", settlements, invoices(), credits)
                    .result()
                    .ifPresent(effects -> effects.forEach(this::happen));
        }
    }

    void giveBack() {
        if (payments.isEmpty()) {
            return;
        }
        var payment = withDiscounts(List.copyOf(payments.values()).get(random.nextInt(payments.size())));
        switch (random.nextInt(4)) {
            case 3 ->
                refunds.values().stream()
                        .findFirst()
                        .map(RefundRules::reverse)
                        .flatMap(Decision::result)
                        .ifPresent(this::happen);
            case 0 ->
                RefundRules.refundCredit(next("RF-"), payment, amount(3_000))
                        .result()
                        .ifPresent(this::happen);
            case 1 ->
                payment.settled().entrySet().stream()
                        .filter(e -> e.getValue().isPositive())
                        .findFirst()
                        .map(e -> RefundRules.takeOff(payment, List.of(new Settlement(e.getKey(), e.getValue()))))
                        .flatMap(Decision::result)
                        .ifPresent(effects -> effects.forEach(this::happen));
            default ->
                Optional.of(payment)
                        .filter(p -> p.document().kind() == DocumentKind.PAYMENT)
                        .map(RefundRules::reverse)
                        .flatMap(Decision::result)
                        .ifPresent(effects -> effects.forEach(this::happen));
        }
    }

    /** Cents or all of an invoice, or of one line's worth, are written off. */
    void writeOff() {
        var open =
                invoices().values().stream().filter(i -> i.open().isPositive()).toList();
        if (open.isEmpty()) {
            return;
        }
        var invoice = open.get(random.nextInt(open.size()));
        var badDebt = random.nextInt(3) > 0;
        Reducing.writeOff(
                        CONTROLLER,
                        new Reducing.WriteOff(
                                next("W-"),
                                badDebt ? Reduction.Kind.BAD_DEBT : Reduction.Kind.SMALL_DIFFERENCE,
                                badDebt && random.nextBoolean()
                                        ? invoice.open()
                                        : amount(badDebt ? 3_000 : 60).min(invoice.open()),
                                TODAY,
                                "insolvent"),
                        standing(invoice(invoice.number())),
                        new Reducing.Bounds(eur("1.00"), random.nextInt(4) > 0, RoleLimits.NONE, Map.of(), eur("0.00")))
                .result()
                .ifPresent(this::happen);
    }

    private Reducing.Standing standing(Invoice invoice) {
        return new Reducing.Standing(
                invoice, Chain.creditsFor(chains.values(), invoice.number()), open(invoice.number()));
    }

    /** Pays all that is open of an invoice less its discount, in time. */
    private void payEarly(Invoice invoice) {
        var standing = standing(invoice);
        Reducing.discount(standing)
                .filter(discount -> discount.compareTo(standing.open()) < 0)
                .ifPresent(discount -> {
                    var paid = standing.open().minus(discount);
                    var payment = next("P-");
                    happen(Receiving.receive(
                                    payment, "C", paid, List.of(new Settlement(invoice.number(), paid)), invoices())
                            .get());
                    happen(Reducing.discount(
                                    new DocumentRef(DocumentKind.PAYMENT, payment),
                                    paid,
                                    standing,
                                    new Reducing.Grant(CONTROLLER, TODAY, TODAY, ""))
                            .get());
                });
    }
}
