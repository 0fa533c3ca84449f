package app.euthyna.core;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** One order of a customer with all that happens to it, and the ledger beside it. */
public final class Sale {

    public static final ReturnPolicy POLICY = new ReturnPolicy(
            Optional.of(30),
            List.of(
                    new ReturnPolicy.Reason("faulty", "Defective", true, true, true),
                    new ReturnPolicy.Reason("unwanted", "Not wanted", false, false, false)));
    public static final ReturnPolicy.Exemption NO_EXCEPTION =
            new ReturnPolicy.Exemption(new Person("clerk", Role.CLERK), "");

    private final Postings postings = new Postings(item -> "", customer -> "");
    private final Map<AccountRole, Money> ledger = new EnumMap<>(AccountRole.class);
    private final Map<String, Money> settled = new HashMap<>();
    private Chain chain;
    private int number;

    public Sale(OrderLine... lines) {
        chain = Chain.of(order("SO-1", OrderState.CLEARED, lines));
    }

    public void happen(Effect effect) {
        chain = chain.after(effect);
        postings.of(effect)
                .ifPresent(proposal ->
                        proposal.posting().lines().forEach(l -> ledger.merge(l.role(), l.amount(), Money::plus)));
        if (effect instanceof Effect.CreditNotePosted credited) {
            settled.merge(credited.credit().invoice(), credited.settled(), Money::plus);
        }
    }

    public void leave(String dispatch, Map<Integer, Quantity> quantities, Map<Integer, Money> costs) {
        var lines = new ArrayList<Dispatch.Line>();
        quantities.forEach((no, quantity) -> lines.add(
                new Dispatch.Line(lines.size() + 1, no, chain.order().line(no).item(), quantity, costs.get(no))));
        happen(new Effect.DispatchDeparted(
                new Dispatch(dispatch, "SO-1", "S", Dispatch.State.DEPARTED, TODAY, lines), List.of(), List.of()));
    }

    public Invoice bill(Billing.Share... shares) {
        var invoiced = Billing.bill(
                        "C",
                        List.of(chain),
                        List.of(shares),
                        new Billing.Terms("2026-" + ++number, TODAY, 30, "", false),
                        Set.of())
                .get();
        happen(invoiced);
        return invoiced.invoice();
    }

    /** So many of line 1 are reserved and billed before they leave, on invoice 2026-1. */
    public void billAhead(Quantity quantity) {
        happen(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", quantity));
        happen(Billing.bill(
                        "C",
                        List.of(chain),
                        List.of(new Billing.Share(new LineRef("SO-1", 1), quantity)),
                        new Billing.Terms("2026-1", TODAY, 30, "", true),
                        Set.of(OrderKind.STANDARD))
                .get());
    }

    public Decision<Effect.ReturnAuthorised> ask(
            String reason, ReturnPolicy.Exemption exception, long daysLater, Returning.OfDispatch... goods) {
        return Returning.authorise(
                new Returning.Asked(
                        "RT-" + ++number, "C", TODAY.plusDays(daysLater), reason, List.of(goods), List.of()),
                List.of(chain),
                POLICY,
                exception);
    }

    public Return allowed(String reason, Returning.OfDispatch... goods) {
        var authorised = ask(reason, NO_EXCEPTION, 1, goods).get();
        happen(authorised);
        return authorised.authorised();
    }

    public Return now(Return goods) {
        return chain.returnOf(goods.number()).orElseThrow();
    }

    public void receive(Return goods, Returning.Came... came) {
        happen(Returning.receive(now(goods), List.of(came), List.of(chain), TODAY)
                .get());
    }

    public void restock(Return goods) {
        now(goods).lines().stream()
                .filter(l -> l.inInspection().isPositive())
                .forEach(l -> happen(Returning.inspect(
                                now(goods),
                                List.of(new Returning.InspectionLine(
                                        l.no(), Return.Outcome.Kind.RESTOCK, l.inInspection(), "S", "")),
                                chain.credits(),
                                TODAY)
                        .get()));
    }

    public Decision<List<Effect.CreditNotePosted>> credit(Return goods, String fee) {
        var credited =
                Crediting.creditReturn(now(goods), List.of(chain), open(), terms(fee, POLICY.reason(goods.reason())));
        credited.result().ifPresent(all -> all.forEach(this::happen));
        return credited;
    }

    public Decision<List<Effect.CreditNotePosted>> creditAhead(Return goods) {
        var credited = Crediting.creditAhead(
                now(goods), List.of(chain), open(), terms("0", POLICY.reason(goods.reason())), POLICY);
        credited.result().ifPresent(all -> all.forEach(this::happen));
        return credited;
    }

    private Crediting.Terms terms(String fee, ReturnPolicy.Reason reason) {
        return new Crediting.Terms(
                () -> "C2026-" + ++number,
                TODAY,
                "came back",
                reason.feePercent(new BigDecimal(fee)),
                reason.freight());
    }

    public Map<String, Money> open() {
        var open = new HashMap<String, Money>();
        chain.invoices()
                .forEach(i ->
                        open.put(i.number(), i.totals().gross().minus(settled.getOrDefault(i.number(), eur("0.00")))));
        return open;
    }

    public Money credited(String invoice) {
        return chain.credits().stream()
                .filter(c -> c.invoice().equals(invoice))
                .map(c -> c.totals().gross())
                .reduce(eur("0.00"), Money::plus);
    }

    public Chain chain() {
        return chain;
    }

    /** What has been posted, by role of account; debit positive. */
    public Map<AccountRole, Money> ledger() {
        return ledger;
    }

    public static Returning.OfDispatch ofDispatch(String dispatch, int line, Quantity quantity) {
        return new Returning.OfDispatch(new LineRef(dispatch, line), quantity);
    }

    public static String codes(Decision<?> decision) {
        return String.join(",", decision.refusals().stream().map(Refusal::code).toList());
    }
}
