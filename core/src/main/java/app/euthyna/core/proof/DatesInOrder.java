package app.euthyna.core.proof;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Figures;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Dates of documents against those of what they come from, and against the day on which they were written. */
final class DatesInOrder {

    private final ChainFacts facts;
    private final Map<String, Invoice> invoices;
    private final List<Statement.Failure> failures = new ArrayList<>();
    private long examined;

    DatesInOrder(ChainFacts facts, Map<String, Invoice> invoices) {
        this.facts = facts;
        this.invoices = invoices;
    }

    Statement.Result result() {
        facts.roots().forEach(this::goods);
        credits();
        money();
        for (var entry : facts.entries()) {
            var written = facts.written().get(entry.number());
            if (written != null) {
                check("the writing of entry " + entry.number(), written, "its date", entry.date());
            }
        }
        return new Statement.Result(Statement.DATES_IN_ORDER, examined, null, null, failures);
    }

    private void goods(Chain chain) {
        var order = chain.order();
        var departed = chain.dispatches().stream()
                .filter(dispatch ->
                        dispatch.state() == Dispatch.State.DEPARTED || dispatch.state() == Dispatch.State.REVERSED)
                .collect(Collectors.toMap(Dispatch::number, Dispatch::date));
        departed.forEach((number, on) -> check("dispatch " + number, on, "order " + order.number(), order.orderedOn()));
        for (var invoice : chain.invoices()) {
            if (invoice.bills(order.number())) {
                check("invoice " + invoice.number(), invoice.on(), "order " + order.number(), order.orderedOn());
            }
            invoice.lines().stream()
                    .flatMap(line -> line.sources().stream())
                    .filter(source -> !source.ahead()
                            && departed.containsKey(source.dispatchLine().number()))
                    .forEach(source -> check(
                            "invoice " + invoice.number(),
                            invoice.on(),
                            "dispatch " + source.dispatchLine().number(),
                            departed.get(source.dispatchLine().number())));
        }
        chain.returns().forEach(goods -> cameBack(goods, departed));
    }

    private void cameBack(Return goods, Map<String, LocalDate> departed) {
        goods.lines().stream()
                .filter(line -> departed.containsKey(line.dispatchLine().number()))
                .forEach(line -> line.parts().forEach(part -> {
                    check(
                            "a receipt of return " + goods.number(),
                            part.on(),
                            "dispatch " + line.dispatchLine().number(),
                            departed.get(line.dispatchLine().number()));
                    part.outcomes()
                            .forEach(outcome -> check(
                                    "an inspection of return " + goods.number(),
                                    outcome.on(),
                                    "its receipt",
                                    part.on()));
                }));
    }

    private void credits() {
        Chain.allCredits(facts.roots()).stream()
                .filter(credit -> invoices.containsKey(credit.invoice()))
                .forEach(credit -> check(
                        "credit note " + credit.number(),
                        credit.on(),
                        "invoice " + credit.invoice(),
                        invoices.get(credit.invoice()).on()));
    }

    private void money() {
        for (var payment : facts.payments()) {
            for (var allocation : payment.allocations()) {
                check("an allocation of " + payment.document(), allocation.on(), "its receipt", payment.on());
                if (invoices.containsKey(allocation.invoice())) {
                    check(
                            "an allocation of " + payment.document(),
                            allocation.on(),
                            "invoice " + allocation.invoice(),
                            invoices.get(allocation.invoice()).on());
                }
            }
        }
        for (var deposit : facts.deposits()) {
            deposit.uses()
                    .forEach(use ->
                            check("a use of deposit " + deposit.number(), use.on(), "its receipt", deposit.on()));
        }
    }

    /** Two dates, of which the first must not be the earlier. */
    private void check(String what, LocalDate on, String origin, LocalDate originOn) {
        examined++;
        if (on.isBefore(originOn)) {
            failures.add(new Statement.Failure(
                    what.substring(what.lastIndexOf(' ') + 1),
                    BigDecimal.ZERO,
                    BigDecimal.ONE,
                    "%s is dated %s, before %s of %s."
                            .formatted(
                                    Character.toUpperCase(what.charAt(0)) + what.substring(1),
                                    Figures.day(on),
                                    origin,
                                    Figures.day(originOn))));
        }
    }
}
