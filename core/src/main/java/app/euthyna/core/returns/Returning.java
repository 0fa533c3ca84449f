package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Goods that come back: allowed, received, inspected (section 10). */
public final class Returning {

    private Returning() {}

    /** Goods of a dispatch line that are asked back. */
    public record OfDispatch(LineRef dispatchLine, Quantity quantity) {}

    /** Goods of an invoice line that are asked back. */
    public record OfInvoice(LineRef invoiceLine, Quantity quantity) {}

    /**
     * What is asked to come back.
     *
     * @param reason its code in the list of reasons
     */
    public record Asked(
            String number,
            String customer,
            LocalDate on,
            String reason,
            List<OfDispatch> dispatched,
            List<OfInvoice> invoiced) {
        public Asked {
            dispatched = List.copyOf(dispatched);
            invoiced = List.copyOf(invoiced);
        }
    }

    /**
     * Allows goods back as the company grants it: for one of its reasons, and in time unless someone who may makes an
     * exception.
     *
     * @param chains of every order whose goods are asked for
     */
    public static Decision<Effect.ReturnAuthorised> authorise(
            Asked asked, Collection<Chain> chains, ReturnPolicy policy, ReturnPolicy.Exemption exception) {
        var authorised = authorise(asked, chains);
        var refusals = new ArrayList<>(authorised.refusals());
        if (!asked.reason().isBlank() && !policy.knows(asked.reason())) {
            refusals.add(CommonRefusal.Incomplete.of(
                    "reason", "one of the return reasons in Rules, not %s".formatted(asked.reason())));
        }
        authorised
                .result()
                .ifPresent(effect -> effect.authorised().lines().forEach(line -> {
                    var left = left(line.dispatchLine(), chains);
                    if (policy.daysLate(left, asked.on()) > 0) {
                        exception
                                .refusal(new ReturnRefusal.TooLate(
                                        line.dispatchLine(),
                                        left,
                                        asked.on(),
                                        policy.days().orElseThrow()))
                                .ifPresent(refusals::add);
                    }
                }));
        return refusals.isEmpty()
                ? authorised
                : Decision.refused(refusals.stream().distinct().toList());
    }

    private static LocalDate left(LineRef dispatchLine, Collection<Chain> chains) {
        return chains.stream()
                .flatMap(chain -> chain.dispatches().stream())
                .filter(d -> d.number().equals(dispatchLine.number()))
                .findFirst()
                .orElseThrow()
                .date();
    }

    /**
     * Allows goods back: at most what has left and has not come back or been allowed back.
     *
     * @param chains of every order whose goods are asked for
     */
    public static Decision<Effect.ReturnAuthorised> authorise(Asked asked, Collection<Chain> chains) {
        var refusals = new ArrayList<Refusal>();
        if (asked.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the return"));
        }
        if (asked.dispatched().isEmpty() && asked.invoiced().isEmpty()) {
            refusals.add(CommonRefusal.Incomplete.of("lines", "at least one line"));
        }
        chains.stream()
                .filter(chain -> !chain.order().customer().equals(asked.customer()))
                .forEach(chain -> refusals.add(new CommonRefusal.WrongCustomer(
                        "order " + chain.order().number(), chain.order().customer(), asked.customer())));
        var lines = new ArrayList<Return.Line>();
        var together = new HashMap<LineRef, Quantity>();
        for (var one : asked.dispatched()) {
            var chain = chains.stream()
                    .filter(c -> new Returnable(c).departed(one.dispatchLine()).isPresent())
                    .findFirst();
            if (chain.isEmpty()) {
                refusals.add(new ReturnRefusal.NotDeparted(one.dispatchLine().toString()));
            } else if (positive(one.quantity(), one.dispatchLine(), refusals)) {
                var returnable = new Returnable(chain.get()).of(one.dispatchLine());
                var wanted = together.merge(one.dispatchLine(), one.quantity(), Quantity::plus);
                if (wanted.exceeds(returnable)) {
                    refusals.add(new ReturnRefusal.MoreThanReturnable(
                            "Dispatch line " + one.dispatchLine(), wanted, returnable));
                }
                lines.add(line(lines.size() + 1, chain.get(), one.dispatchLine(), Optional.empty(), one.quantity()));
            }
        }
        for (var one : asked.invoiced()) {
            var chain = chains.stream()
                    .filter(c -> invoiceLine(c, one.invoiceLine())
                            .filter(line ->
                                    line.orderLine().number().equals(c.order().number()))
                            .isPresent())
                    .findFirst();
            if (chain.isEmpty()) {
                refusals.add(new CommonRefusal.NotFound(
                        "invoice line", one.invoiceLine().toString()));
            } else if (positive(one.quantity(), one.invoiceLine(), refusals)) {
                ofInvoice(one, chain.get(), lines, together, refusals);
            }
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.ReturnAuthorised(
                        new Return(asked.number(), asked.customer(), asked.on(), asked.reason(), false, lines)))
                : Decision.refused(refusals);
    }

    private static boolean positive(Quantity quantity, LineRef line, List<Refusal> refusals) {
        if (!quantity.isPositive()) {
            refusals.add(CommonRefusal.Incomplete.of("lines[" + line + "].quantity", "a quantity above zero"));
        }
        return quantity.isPositive();
    }

    /**
     * An invoice line may bill goods of several dispatches: the oldest are asked back first, each on a line of its own.
     */
    private static void ofInvoice(
            OfInvoice asked,
            Chain chain,
            List<Return.Line> lines,
            Map<LineRef, Quantity> together,
            List<Refusal> refusals) {
        var left = asked.quantity();
        var all = Quantity.ZERO;
        for (var dispatchLine :
                Returnable.dispatchLines(invoiceLine(chain, asked.invoiceLine()).orElseThrow())) {
            var returnable = new Returnable(chain)
                    .of(asked.invoiceLine(), dispatchLine)
                    .min(new Returnable(chain)
                            .of(dispatchLine)
                            .minus(together.getOrDefault(dispatchLine, Quantity.ZERO)));
            var taken = left.min(returnable).max(Quantity.ZERO);
            all = all.plus(returnable.max(Quantity.ZERO));
            if (taken.isPositive()) {
                together.merge(dispatchLine, taken, Quantity::plus);
                lines.add(line(lines.size() + 1, chain, dispatchLine, Optional.of(asked.invoiceLine()), taken));
                left = left.minus(taken);
            }
        }
        if (left.isPositive()) {
            refusals.add(
                    new ReturnRefusal.MoreThanReturnable("Invoice line " + asked.invoiceLine(), asked.quantity(), all));
        }
    }

    private static Optional<Invoice.Line> invoiceLine(Chain chain, LineRef ref) {
        return chain.inForce()
                .filter(invoice -> invoice.number().equals(ref.number()))
                .flatMap(invoice -> invoice.lines().stream())
                .filter(line -> line.no() == ref.line())
                .findFirst();
    }

    private static Return.Line line(
            int no, Chain chain, LineRef dispatchLine, Optional<LineRef> invoiceLine, Quantity quantity) {
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(dispatchLine.number()))
                .findFirst()
                .orElseThrow();
        var line = new Returnable(chain).departed(dispatchLine).orElseThrow();
        return new Return.Line(
                no,
                new LineRef(chain.order().number(), line.orderLine()),
                dispatchLine,
                invoiceLine,
                line.item(),
                dispatch.site(),
                quantity,
                List.of());
    }

    /**
     * What has not come may not come any more; where it was credited already it has to come.
     *
     * @param credits of the invoices that billed the goods
     */
    public static Decision<Effect.ReturnWithdrawn> withdraw(Return goods, Collection<CreditNote> credits) {
        var ahead = goods.lines().stream()
                .map(line -> Crediting.ahead(goods, line, credits))
                .filter(Quantity::isPositive)
                .findFirst();
        if (ahead.isPresent()) {
            return Decision.refused(new ReturnRefusal.CreditedAhead(goods.number(), ahead.get()));
        }
        return goods.expectsMore()
                ? Decision.of(new Effect.ReturnWithdrawn(goods))
                : Decision.refused(new ReturnRefusal.NothingExpected(goods.number()));
    }

    /** A reminder that asks for goods follows the last one after so many days at the soonest. */
    public static final int DAYS_BETWEEN_REMINDERS = 7;

    /** Whether a customer may be reminded of what is expected back. */
    public static Decision<Return> remind(Return goods, Optional<LocalDate> last, LocalDate on) {
        if (!goods.expectsMore()) {
            return Decision.refused(new ReturnRefusal.NothingExpected(goods.number()));
        }
        return last.filter(day -> day.plusDays(DAYS_BETWEEN_REMINDERS).isAfter(on))
                .<Decision<Return>>map(day -> Decision.refused(new ReturnRefusal.RemindedAlready(goods.number(), day)))
                .orElse(Decision.of(goods));
    }

    /** A quantity of a return's line that has come. */
    public record Came(int line, Quantity quantity) {}

    /**
     * Takes in what came, or all that is expected where {@code came} is empty; never more than was allowed back.
     *
     * @param chains of every order on the return
     */
    public static Decision<Effect.ReturnReceived> receive(
            Return goods, List<Came> came, Collection<Chain> chains, LocalDate on) {
        var wanted = came.isEmpty()
                ? goods.lines().stream()
                        .filter(line -> goods.expected(line).isPositive())
                        .map(line -> new Came(line.no(), goods.expected(line)))
                        .toList()
                : came;
        if (wanted.isEmpty()) {
            return Decision.refused(new ReturnRefusal.NothingExpected(goods.number()));
        }
        var refusals = new ArrayList<Refusal>();
        var together = new HashMap<Integer, Quantity>();
        for (var one : wanted) {
            var line = goods.lines().stream().filter(l -> l.no() == one.line()).findFirst();
            if (line.isEmpty()) {
                refusals.add(new CommonRefusal.NotFound("line", one.line() + " on return " + goods.number()));
            } else if (positive(one.quantity(), new LineRef(goods.number(), one.line()), refusals)
                    && together.merge(one.line(), one.quantity(), Quantity::plus)
                            .exceeds(goods.expected(line.get()))) {
                refusals.add(new ReturnRefusal.MoreThanReturnable(
                        "Line %d of return %s".formatted(one.line(), goods.number()),
                        together.get(one.line()),
                        goods.expected(line.get())));
            }
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var arrivals = new ArrayList<Effect.Arrival>();
        var now = new HashMap<String, Chain>();
        chains.forEach(chain -> now.put(chain.order().number(), chain));
        for (var one : wanted) {
            var order = goods.line(one.line()).orderLine().number();
            var line = now.get(order).returnOf(goods.number()).orElseThrow().line(one.line());
            var no = line.parts().size();
            for (var standing : new Returnable(now.get(order)).standings(goods.number(), line, one.quantity())) {
                var part = new Return.Part(
                        ++no,
                        on,
                        standing.standing(),
                        standing.invoiceLine(),
                        standing.quantity(),
                        standing.cost().apply(standing.quantity()));
                var arrival = new Effect.Arrival(line.no(), part);
                arrivals.add(arrival);
                now.computeIfPresent(
                        order, (number, chain) -> chain.after(new Effect.ReturnReceived(goods, List.of(arrival))));
            }
        }
        return Decision.of(new Effect.ReturnReceived(goods, arrivals));
    }

    /**
     * What becomes of goods of a return's line.
     *
     * @param site where they are restocked
     */
    public record InspectionLine(int line, Return.Outcome.Kind kind, Quantity quantity, String site, String remark) {}

    /** Decides on goods in inspection. What is sent to the customer again may not be credited already. */
    public static Decision<Effect.ReturnInspected> inspect(
            Return goods, List<InspectionLine> inspections, Collection<CreditNote> credits, LocalDate on) {
        var refusals = new ArrayList<Refusal>();
        if (inspections.isEmpty()) {
            refusals.add(CommonRefusal.Incomplete.of("lines", "a result for at least one line"));
        }
        var results = new ArrayList<Effect.InspectionResult>();
        var now = goods;
        for (var inspected : inspections) {
            var known =
                    now.lines().stream().filter(l -> l.no() == inspected.line()).findFirst();
            if (known.isEmpty()) {
                refusals.add(new CommonRefusal.NotFound("line", inspected.line() + " on return " + goods.number()));
                continue;
            }
            var line = known.get();
            if (!positive(inspected.quantity(), new LineRef(goods.number(), inspected.line()), refusals)) {
                continue;
            }
            if (inspected.quantity().exceeds(line.inInspection())) {
                refusals.add(new ReturnRefusal.MoreThanInInspection(
                        goods.number(), inspected.line(), inspected.quantity(), line.inInspection()));
                continue;
            }
            var found = results(goods.number(), line, inspected, credits, on);
            results.addAll(found);
            var left = inspected
                    .quantity()
                    .minus(Quantity.sum(found.stream()
                            .map(result -> result.outcome().quantity())
                            .toList()));
            if (left.isPositive()) {
                refusals.add(new ReturnRefusal.CreditedAlready(
                        goods.number(),
                        inspected.line(),
                        inspected.quantity(),
                        inspected.quantity().minus(left)));
            }
            now = goods.inspected(results);
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.ReturnInspected(goods, results))
                : Decision.refused(refusals);
    }

    /** An inspection's outcome, part by part of its line, as far as the parts allow it. */
    private static List<Effect.InspectionResult> results(
            String goods, Return.Line line, InspectionLine inspected, Collection<CreditNote> credits, LocalDate on) {
        var results = new ArrayList<Effect.InspectionResult>();
        var left = inspected.quantity();
        var sentBack = inspected.kind() == Return.Outcome.Kind.SEND_BACK;
        var parts = new ArrayList<>(line.parts());
        if (sentBack) {
            // what came last is undone first
            Collections.reverse(parts);
        }
        for (var part : parts) {
            var most = sentBack ? part.inInspection().min(uncredited(goods, line, part, credits)) : part.inInspection();
            var taken = left.min(most);
            if (taken.isPositive()) {
                var cost = part.cost()
                        .slice(
                                part.quantity().minus(part.inInspection()).plus(taken),
                                part.quantity(),
                                part.cost().minus(part.costInInspection()));
                var result = new Effect.InspectionResult(
                        line.no(),
                        part.no(),
                        new Return.Outcome(
                                inspected.kind(),
                                on,
                                taken,
                                cost,
                                inspected.kind() == Return.Outcome.Kind.RESTOCK ? inspected.site() : "",
                                inspected.remark()));
                results.add(result);
                left = left.minus(taken);
            }
        }
        return results;
    }

    /** What of a part's kind was not credited on the return's line; all of it where it had not been billed. */
    private static Quantity uncredited(
            String number, Return.Line line, Return.Part part, Collection<CreditNote> credits) {
        if (part.invoiceLine().isEmpty()) {
            return part.kept();
        }
        var kept = Quantity.sum(line.parts().stream()
                .filter(p -> p.invoiceLine().equals(part.invoiceLine()))
                .map(Return.Part::kept)
                .toList());
        return kept.minus(Crediting.credited(
                credits, new LineRef(number, line.no()), part.invoiceLine().get()));
    }
}
