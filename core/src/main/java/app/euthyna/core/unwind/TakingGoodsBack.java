package app.euthyna.core.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.ReturnRefusal;
import app.euthyna.core.returns.Returnable;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;

/**
 * Plans for goods that are really gone: only a return brings them back (section 9, 3). It is authorised at once; the
 * rest waits for the goods, and goes on by itself when they have come and were inspected.
 */
final class TakingGoodsBack {

    private static final Plan.Question MONEY = new Plan.Question(
            "money",
            "Settlement",
            List.of(
                    new Plan.Answer("customer-credit", "Credit beyond the open amount stays as customer credit"),
                    new Plan.Answer("refund", "Refund it")));
    private static final Plan.Question FEE = new Plan.Question("restocking", "Restocking fee", List.of());

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;

    TakingGoodsBack(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    Decision<Plan> plan(Intent.TakeGoodsBack intent) {
        var refusals = new ArrayList<Refusal>();
        var dispatched = new ArrayList<Returning.OfDispatch>();
        var invoiced = new ArrayList<Returning.OfInvoice>();
        named(intent, dispatched, invoiced, refusals);
        if (refusals.isEmpty() && dispatched.isEmpty() && invoiced.isEmpty()) {
            refusals.add(
                    new ReturnRefusal.MoreThanReturnable(intent.subject().capital(), Quantity.of(1), Quantity.ZERO));
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var customer = unwindContext.chains().get(0).order().customer();
        var authorised = Returning.authorise(
                new Returning.Asked(
                        unwindRequest.numbers().apply(DocumentKind.RETURN),
                        customer,
                        unwindRequest.on(),
                        unwindRequest.reasonCode(),
                        dispatched,
                        invoiced),
                unwindContext.chains());
        if (authorised.isRefused()) {
            return Decision.refused(authorised.refusals());
        }
        var steps = new ArrayList<Plan.Step>();
        var goods = authorised.get().authorised();
        var remaining = new RemainingReturnSteps(unwindContext, unwindRequest);
        var before = remaining.reverseWriteOffs(goods, unwindContext.chains(), steps);
        var count = goods.lines().size();
        steps.add(Planner.now(
                Plan.Kind.AUTHORISE_RETURN,
                "Goods of %d %s are authorised for return".formatted(count, count == 1 ? "line" : "lines"),
                List.of(authorised.get())));
        var after = before.stream().map(chain -> chain.after(authorised.get())).toList();
        steps.addAll(remaining.expected(goods, after));
        var questions = new ArrayList<Plan.Question>();
        if (steps.stream().anyMatch(step -> step.kind() == Plan.Kind.CREDIT)) {
            questions.add(MONEY);
            questions.add(FEE);
        }
        return Decision.of(new Plan(unwindRequest.intent().words(), value(goods), steps, questions));
    }

    /** The goods that an intent names. */
    private void named(
            Intent.TakeGoodsBack intent,
            List<Returning.OfDispatch> dispatched,
            List<Returning.OfInvoice> invoiced,
            List<Refusal> refusals) {
        switch (intent.subject().kind()) {
            case INVOICE ->
                invoiced(unwindContext.invoice(intent.subject().number()), intent.lines(), invoiced, refusals);
            case DISPATCH -> {
                var chain = unwindContext.dispatch(intent.subject().number());
                dispatched(
                        chain,
                        intent,
                        line -> line.no(),
                        d -> d.number().equals(intent.subject().number()),
                        dispatched,
                        refusals);
            }
            case ORDER ->
                dispatched(
                        unwindContext.order(intent.subject().number()),
                        intent,
                        Dispatch.Line::orderLine,
                        d -> true,
                        dispatched,
                        refusals);
            default -> throw new IllegalArgumentException("goods of " + intent.subject());
        }
    }

    private Money value(Return goods) {
        var value = Money.zero(unwindContext.chains().get(0).order().currency());
        for (var line : goods.lines()) {
            var order = unwindContext.order(line.orderLine().number()).order();
            value = value.plus(order.line(line.orderLine().line()).net(line.authorised(), order.currency()));
        }
        return value;
    }

    private void invoiced(
            Invoice invoice, List<Intent.Part> parts, List<Returning.OfInvoice> invoiced, List<Refusal> refusals) {
        if (invoice.reversed()) {
            refusals.add(new ReturnRefusal.InvoiceReversed(invoice.number()));
        } else if (parts.isEmpty()) {
            for (var line : invoice.lines()) {
                var chain = unwindContext.order(line.orderLine().number());
                var ref = new LineRef(invoice.number(), line.no());
                var all = Quantity.sum(Returnable.dispatchLines(line).stream()
                        .map(d -> new Returnable(chain).of(ref, d))
                        .toList());
                if (all.isPositive()) {
                    invoiced.add(new Returning.OfInvoice(ref, all));
                }
            }
        } else {
            parts.forEach(part ->
                    invoiced.add(new Returning.OfInvoice(new LineRef(invoice.number(), part.line()), part.quantity())));
        }
    }

    /**
     * Goods of dispatches of one order: all that may come back, or the quantities asked for of lines, the oldest
     * dispatch first.
     */
    private static void dispatched(
            Chain chain,
            Intent.TakeGoodsBack intent,
            ToIntFunction<Dispatch.Line> lineOf,
            Predicate<Dispatch> which,
            List<Returning.OfDispatch> dispatched,
            List<Refusal> refusals) {
        var returnable = new Returnable(chain);
        var left = new HashMap<Integer, Quantity>();
        intent.lines().forEach(part -> left.merge(part.line(), part.quantity(), Quantity::plus));
        for (var dispatch : chain.dispatches().stream()
                .filter(d -> d.state() == Dispatch.State.DEPARTED)
                .filter(which)
                .toList()) {
            for (var line : dispatch.lines()) {
                var ref = new LineRef(dispatch.number(), line.no());
                var most = returnable.of(ref);
                var taken = intent.lines().isEmpty()
                        ? most
                        : most.min(left.getOrDefault(lineOf.applyAsInt(line), Quantity.ZERO));
                if (taken.isPositive()) {
                    dispatched.add(new Returning.OfDispatch(ref, taken));
                    left.computeIfPresent(lineOf.applyAsInt(line), (no, quantity) -> quantity.minus(taken));
                }
            }
        }
        intent.lines().stream()
                .filter(part -> !part.quantity().isPositive())
                .forEach(part -> refusals.add(
                        CommonRefusal.Incomplete.of("lines[" + part.line() + "].quantity", "a quantity above zero")));
        left.forEach((no, quantity) -> {
            if (quantity.isPositive()) {
                var asked = Quantity.sum(intent.lines().stream()
                        .filter(p -> p.line() == no)
                        .map(Intent.Part::quantity)
                        .toList());
                refusals.add(new ReturnRefusal.MoreThanReturnable(
                        "Line %d of %s".formatted(no, intent.subject()), asked, asked.minus(quantity)));
            }
        });
    }
}
