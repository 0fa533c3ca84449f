package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.returns.Returnable;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Placeholders;
import app.euthyna.core.unwind.Plan;
import app.euthyna.core.unwind.Planner;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.core.unwind.UnwindRefusal;
import app.euthyna.core.unwind.UnwindRequest;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.EnumMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Stream;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Plans over stored chains. What is carried out is what was previewed: a preview carries the plan out and takes it back
 * with its transaction, and the plan is bound to the fingerprint of all that it looked at.
 */
@Service
public class UnwindService {

    /** So many documents of a kind are offered to be undone; the newest of many. */
    private static final int NAMED = 5;

    private final UnwindContexts unwindContexts;
    private final Locks locks;
    private final EffectWriter writer;
    private final StockService stock;
    private final CompanyRulesStore rules;
    private final Unwindings unwindings;

    UnwindService(
            UnwindContexts unwindContexts,
            Locks locks,
            EffectWriter writer,
            StockService stock,
            CompanyRulesStore rules,
            Unwindings unwindings) {
        this.unwindContexts = unwindContexts;
        this.locks = locks;
        this.writer = writer;
        this.stock = stock;
        this.rules = rules;
        this.unwindings = unwindings;
    }

    /** What could be planned for an intent, without looking at what would follow from it. */
    @Transactional(readOnly = true)
    Decision<Plan> plan(CommandContext context, AskedUnwind asked) {
        var intent = asked.toIntent();
        return Planner.plan(unwindContexts.of(intent), unwindRequest(context, asked, "other", new Placeholders()));
    }

    UnwindRequest unwindRequest(
            CommandContext context, AskedUnwind asked, String reasonCode, Function<DocumentKind, String> named) {
        return new UnwindRequest(
                asked.toIntent(),
                asked.choices(rules.inForce(), reasonCode),
                context.person(),
                context.reason(),
                reasonCode,
                context.date(),
                named);
    }

    static String fingerprint(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        // fee and freight follow the reason, and matter where goods come back
        var choices = unwindRequest.intent() instanceof Intent.TakeGoodsBack
                ? unwindRequest.choices().toString()
                : unwindRequest.choices().money().toString();
        return Hashes.sha256(
                (unwindContext + "\n" + unwindRequest.intent() + "\n" + choices + "\n" + unwindRequest.on())
                        .getBytes(StandardCharsets.UTF_8));
    }

    /** What a plan over a document as it stands now would be bound to. */
    @Transactional(readOnly = true)
    public String fingerprintOf(CommandContext context, AskedUnwind asked, String reasonCode) {
        var intent = asked.toIntent();
        return fingerprint(unwindContexts.of(intent), unwindRequest(context, asked, reasonCode, new Placeholders()));
    }

    /**
     * What could be planned over a document as it stands now.
     *
     * @param fingerprint what the plan would be bound to; null where it is refused
     */
    record Looked(Decision<Plan> planned, @Nullable String fingerprint) {}

    /** Looks at a document once for its plan and what that is bound to. */
    @Transactional(readOnly = true)
    Looked look(CommandContext context, AskedUnwind asked) {
        var unwindContext = unwindContexts.of(asked.toIntent());
        var unwindRequest = unwindRequest(context, asked, "other", new Placeholders());
        var planned = Planner.plan(unwindContext, unwindRequest);
        return new Looked(planned, planned.isRefused() ? null : fingerprint(unwindContext, unwindRequest));
    }

    /**
     * The orders of a document, with their customers, the shelves that goods may come back to, and themselves locked.
     */
    List<String> locked(Intent intent) {
        var orders = unwindContexts.orders(intent);
        if (orders.isEmpty()) {
            locks.customer(unwindContexts.customer(intent.subject(), orders));
            return orders;
        }
        var restocked = unwindContexts.restocked(intent);
        locks.customersAndOrders(Stream.concat(orders.stream(), unwindContexts.heldOn(restocked).stream())
                .distinct()
                .toList());
        unwindContexts.of(intent, orders).chains().stream()
                .flatMap(UnwindService::departed)
                .forEach(d -> stock.lockShelves(
                        d.site(), d.lines().stream().map(Dispatch.Line::item).toList()));
        restocked.forEach(shelf -> stock.lockShelves(shelf.site(), List.of(shelf.item())));
        if (!locks.holdsOrders(unwindContexts.heldOn(unwindContexts.restocked(intent)))) {
            throw new PessimisticLockingFailureException(
                    "another order holds some of what " + intent.subject() + " put on the shelf by now");
        }
        return orders;
    }

    private static Stream<Dispatch> departed(Chain chain) {
        return chain.dispatches().stream().filter(d -> d.state() == Dispatch.State.DEPARTED);
    }

    /**
     * Carries a plan out up to the first step that waits, if everything still is what it was made for; what waits is
     * kept as a to-do.
     *
     * @param reasonCode in the list of reasons
     * @param fingerprint of the preview
     * @return the plan and under which number it is kept
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public CarriedOut carryOut(CommandContext context, AskedUnwind asked, String reasonCode, String fingerprint) {
        if (rules.inForce().unwind().reasons().stream()
                .noneMatch(reason -> reason.code().equals(reasonCode))) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reasonCode", "one of the reasons in Rules"));
        }
        var intent = asked.toIntent();
        var orders = locked(intent);
        var unwindContext = unwindContexts.of(intent, orders);
        var unwindRequest = unwindRequest(context, asked, reasonCode, named(context));
        RefusedException.orThrow(
                Planner.plan(unwindContext, unwindRequest(context, asked, reasonCode, new Placeholders())));
        if (!fingerprint(unwindContext, unwindRequest).equals(fingerprint)) {
            throw new RefusedException(
                    new UnwindRefusal.PlanChanged(intent.subject().toString()));
        }
        var plan = RefusedException.orThrow(Planner.plan(unwindContext, unwindRequest));
        var customer = unwindContexts.customer(intent.subject(), orders);
        var id = unwindings.keep(context, asked, reasonCode, plan, customer, orders);
        writer.write(
                context,
                plan.now().stream().flatMap(step -> step.effects().stream()).toList());
        return new CarriedOut(id, plan);
    }

    /** A plan that was carried out, or as much of it as is possible now. */
    public record CarriedOut(long id, Plan plan) {}

    private Function<DocumentKind, String> named(CommandContext context) {
        return kind -> kind == DocumentKind.CREDIT_NOTE ? writer.creditNoteNumber(context) : writer.number(kind);
    }

    /** A way to undo something, and what stands in it. */
    record Way(AskedUnwind asked, Decision<Plan> planned) {}

    /** What can be undone around a document: of itself first, then of the documents that hang together with it. */
    record UnwindWays(String customer, List<Way> ways) {}

    @Transactional(readOnly = true)
    UnwindWays ways(CommandContext context, DocumentKind kind, String number) {
        var subject = new DocumentRef(kind, number);
        var orders = unwindContexts.orders(subject);
        var chains = unwindContexts.of(subject, orders).chains();
        var asked = new LinkedHashSet<AskedUnwind>();
        own(kind).forEach(intent -> asked.add(AskedUnwind.of(kind, number, intent)));
        if (kind == DocumentKind.ORDER || kind == DocumentKind.DISPATCH || kind == DocumentKind.INVOICE) {
            var invoices = chains.stream()
                    .flatMap(Chain::inForce)
                    .map(Invoice::number)
                    .distinct()
                    .filter(i -> kind != DocumentKind.INVOICE)
                    .toList();
            last(invoices).forEach(i -> asked.add(AskedUnwind.of(DocumentKind.INVOICE, i, "take-back-invoice")));
            var credits = Chain.credits(chains).stream()
                    .filter(credit ->
                            kind != DocumentKind.INVOICE || credit.invoice().equals(number))
                    .map(CreditNote::number)
                    .toList();
            last(credits).forEach(c -> asked.add(AskedUnwind.of(DocumentKind.CREDIT_NOTE, c, "take-back-credit")));
            var writeOffs = chains.stream()
                    .flatMap(Chain::inForce)
                    .filter(i -> kind != DocumentKind.INVOICE || i.number().equals(number))
                    .flatMap(i -> i.writtenOff().stream())
                    .map(one -> one.document().number())
                    .distinct()
                    .toList();
            last(writeOffs).forEach(w -> asked.add(AskedUnwind.of(DocumentKind.WRITE_OFF, w, "take-back-write-off")));
            var dispatches = chains.stream()
                    .flatMap(c -> c.dispatches().stream())
                    .filter(d -> d.state() == Dispatch.State.DEPARTED || d.state() == Dispatch.State.STAGED)
                    .map(Dispatch::number)
                    .filter(d -> kind != DocumentKind.INVOICE
                            || chains.stream()
                                    .flatMap(Chain::inForce)
                                    .filter(i -> i.number().equals(number))
                                    .flatMap(i -> i.lines().stream())
                                    .flatMap(l -> l.sources().stream())
                                    .anyMatch(s -> s.dispatchLine().number().equals(d)))
                    .toList();
            last(dispatches).forEach(d -> asked.add(AskedUnwind.of(DocumentKind.DISPATCH, d, "take-back-dispatch")));
            orders.stream()
                    .limit(NAMED)
                    .forEach(order -> own(DocumentKind.ORDER).forEach(intent -> {
                        if (!intent.equals("take-goods-back") || kind == DocumentKind.ORDER) {
                            asked.add(AskedUnwind.of(DocumentKind.ORDER, order, intent));
                        }
                    }));
        }
        return new UnwindWays(
                unwindContexts.customer(subject, orders),
                asked.stream().map(one -> new Way(one, plan(context, one))).toList());
    }

    private static List<String> last(List<String> numbers) {
        return numbers.subList(Math.max(0, numbers.size() - NAMED), numbers.size());
    }

    /** By what documents of a kind can be undone themselves. */
    private static final Map<DocumentKind, List<String>> WAYS = Collections.unmodifiableMap(new EnumMap<>(Map.of(
            DocumentKind.ORDER, List.of("cancel-rest", "cancel-order", "take-goods-back", "give-money-back"),
            DocumentKind.DISPATCH, List.of("take-back-dispatch", "take-goods-back"),
            DocumentKind.INVOICE, List.of("take-back-invoice", "take-goods-back"),
            DocumentKind.DEPOSIT, List.of("take-back-deposit", "give-money-back"),
            DocumentKind.PAYMENT, List.of("take-back-payment", "give-money-back"),
            DocumentKind.CREDIT_NOTE, List.of("take-back-credit", "give-money-back"),
            DocumentKind.REFUND, List.of("take-back-refund"),
            DocumentKind.RETURN, List.of("take-back-receipt"),
            DocumentKind.WRITE_OFF, List.of("take-back-write-off"))));

    private static List<String> own(DocumentKind kind) {
        var ways = WAYS.get(kind);
        if (ways == null) {
            throw new RefusedException(CommonRefusal.Incomplete.of("kind", "a document that can be unwound"));
        }
        return ways;
    }

    /** All by what anything can be undone. */
    static String[] intents() {
        return WAYS.values().stream().flatMap(List::stream).distinct().toArray(String[]::new);
    }

    /** A line that quantities can be named of, with how many at most. */
    record Line(int no, String description, Quantity most) {}

    /** The lines of a document that an intent can name quantities of. */
    @Transactional(readOnly = true)
    List<Line> lines(DocumentKind kind, String number, String intent) {
        var ref = new DocumentRef(kind, number);
        if (!intent.equals("cancel-rest") && !intent.equals("take-goods-back")) {
            return List.of();
        }
        var chains = unwindContexts.of(ref).chains();
        var chain = chains.get(0);
        if (kind == DocumentKind.ORDER) {
            return chain.flows().stream()
                    .filter(flow -> flow.line().kind().isBilled())
                    .map(flow -> new Line(
                            flow.line().no(),
                            flow.line().description(),
                            intent.equals("cancel-rest")
                                    ? flow.open()
                                    : flow.dispatched().minus(flow.returned())))
                    .toList();
        }
        if (kind == DocumentKind.DISPATCH) {
            return chain.dispatches().stream()
                    .filter(d -> d.number().equals(number))
                    .flatMap(d -> d.lines().stream())
                    .map(line -> new Line(
                            line.no(),
                            chain.order().hasLine(line.orderLine())
                                    ? chain.order().line(line.orderLine()).description()
                                    : line.item(),
                            new Returnable(chain).of(new LineRef(number, line.no()))))
                    .toList();
        }
        return chain.invoices().stream()
                .filter(i -> i.number().equals(number))
                .flatMap(i -> i.lines().stream())
                .filter(line -> line.kind().isShipped())
                .map(line -> {
                    var own = Chain.ofOrder(chains, line.orderLine().number());
                    return new Line(
                            line.no(),
                            line.description(),
                            Quantity.sum(Returnable.dispatchLines(line).stream()
                                    .map(d -> new Returnable(own).of(new LineRef(number, line.no()), d))
                                    .toList()));
                })
                .toList();
    }
}
