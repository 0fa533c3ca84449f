package app.euthyna.server.trail;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.core.trail.PaymentFact;
import app.euthyna.core.trail.RefundFact;
import app.euthyna.core.trail.Remark;
import app.euthyna.core.trail.ReturnMove;
import app.euthyna.core.trail.ReversalFact;
import app.euthyna.core.trail.Stamp;
import app.euthyna.core.trail.StillToDo;
import app.euthyna.core.trail.TrailFacts;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Gathers what a trail is made of, in a handful of queries whatever its length. */
@Component
public class TrailReader {

    private final DocumentOrders documentOrders;
    private final TrailQueries queries;
    private final ChainReader chains;
    private final LedgerReader ledger;
    private final Company company;

    TrailReader(
            DocumentOrders documentOrders,
            TrailQueries queries,
            ChainReader chains,
            LedgerReader ledger,
            Company company) {
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.chains = chains;
        this.ledger = ledger;
        this.company = company;
    }

    public TrailFacts from(DocumentKind kind, String number) {
        if (kind == DocumentKind.ENTRY) {
            var document = queries.documentOf(number)
                    .map(row -> new DocumentRef(DocumentKind.valueOf(row.documentKind()), row.documentNumber()))
                    .orElseThrow(() -> missing(kind, number));
            return from(document.kind(), document.number());
        }
        var roots = roots(kind, number);
        var found = new ArrayList<>(chains.chains(roots).values());
        var invoices = new LinkedHashSet<String>();
        found.forEach(chain -> chain.invoices().forEach(invoice -> invoices.add(invoice.number())));
        var ahead = paidAhead(roots, invoices);
        var others = new LinkedHashSet<>(ahead);
        found.forEach(chain -> chain.credits().forEach(credit -> others.add(credit.number())));
        var payments = payments(
                invoices,
                kind == DocumentKind.PAYMENT || kind == DocumentKind.DEPOSIT || kind == DocumentKind.CREDIT_NOTE
                        ? number
                        : kind == DocumentKind.REFUND ? refunded(number) : "",
                others);
        payments.stream()
                .filter(p -> p.document().kind() == DocumentKind.DEPOSIT)
                .map(PaymentFact::number)
                .forEach(ahead::add);
        var deposits = deposits(ahead);
        // credit of others that pays here is named; its document belongs to another trail
        var own = payments.stream()
                .filter(payment -> !payment.isNeighbourOf(found))
                .toList();
        var refunds = refunds(own);
        var documents = documents(found, own, deposits, refunds);
        var stamped = new ArrayList<>(documents);
        payments.forEach(payment -> stamped.add(payment.document()));
        var returns = found.stream()
                .flatMap(chain -> chain.returns().stream())
                .map(Return::number)
                .distinct()
                .toList();
        return new TrailFacts(
                new DocumentRef(kind, number),
                found,
                payments,
                deposits,
                refunds,
                returnMoves(returns),
                reversals(found, refunds),
                paidElsewhere(own, deposits, roots, invoices),
                remarks(roots),
                stamps(stamped),
                ledger.entries(documents));
    }

    /** What of a trail's returns and their money waits for someone. */
    public List<StillToDo> stillToDo(TrailFacts facts) {
        var returns = facts.roots().stream()
                .flatMap(chain -> chain.returns().stream())
                .map(Return::number)
                .distinct()
                .toList();
        var owed = new HashMap<String, StillToDo.ReturnOwed>();
        if (!returns.isEmpty()) {
            queries.owed(Many.names(returns))
                    .forEach(row -> owed.put(
                            row.number(),
                            new StillToDo.ReturnOwed(
                                    company.money(row.creditDue()), company.money(row.creditedAhead()))));
        }
        var going = new ArrayList<StillToDo.MoneyGoing>();
        var credits =
                Chain.credits(facts.roots()).stream().map(CreditNote::number).toList();
        if (!credits.isEmpty()) {
            queries.refundsWished(Many.names(credits))
                    .forEach(row -> going.add(new StillToDo.MoneyGoing(
                            new DocumentRef(DocumentKind.CREDIT_NOTE, row.number()),
                            company.money(row.leftAmount()),
                            StillToDo.Going.WISHED)));
        }
        var sources = Stream.concat(
                        facts.payments().stream().map(PaymentFact::number),
                        facts.deposits().stream().map(DepositFact::number))
                .distinct()
                .toList();
        if (!sources.isEmpty()) {
            queries.openPayouts(Many.names(sources))
                    .forEach(row -> going.add(new StillToDo.MoneyGoing(
                            new DocumentRef(DocumentKind.REFUND, row.number()),
                            company.money(row.amount()),
                            switch (row.state()) {
                                case "UNANSWERED" -> StillToDo.Going.UNANSWERED;
                                case "DECLINED" -> StillToDo.Going.DECLINED;
                                default -> StillToDo.Going.ON_ITS_WAY;
                            })));
        }
        return StillToDo.of(facts.roots(), owed, going);
    }

    /** What stands for itself: goods that came in, a count, a manual entry. */
    @Code("not-found")
    private record NoOrder(DocumentRef document) implements Refusal {

        @Override
        public Kind kind() {
            return Kind.NOT_FOUND;
        }
    }

    private static RefusedException missing(DocumentKind kind, String number) {
        return new RefusedException(new CommonRefusal.NotFound(kind.word().toLowerCase(Locale.ROOT), number));
    }

    private List<String> roots(DocumentKind kind, String number) {
        var roots = switch (kind) {
            case ORDER, DISPATCH, INVOICE, DEPOSIT, RETURN, CREDIT_NOTE, WRITE_OFF -> documentOrders.of(kind, number);
            case CANCELLATION -> queries.ordersOfCancellation(number);
            case PAYMENT -> queries.ordersOfPayment(number);
            case REFUND -> queries.ordersOfRefund(number);
            case UNEXPECTED_GOODS -> queries.ordersOfUnexpectedGoods(number);
            case STOCK_RECEIPT, STOCK_COUNT, MANUAL_ENTRY ->
                throw new RefusedException(new NoOrder(new DocumentRef(kind, number)));
            case QUOTE, BLANKET_ORDER, RECURRING_ORDER -> queries.ordersOfAgreement(number);
            case ENTRY -> throw missing(kind, number);
        };
        if (roots.isEmpty() && !belongsToNoOrder(kind, number)) {
            throw missing(kind, number);
        }
        return roots;
    }

    /** Money that was not set against anything yet. */
    private boolean belongsToNoOrder(DocumentKind kind, String number) {
        return (kind == DocumentKind.PAYMENT && queries.paymentsNumbered(number) > 0)
                || (kind == DocumentKind.REFUND && queries.refundsNumbered(number) > 0);
    }

    /** What a refund gave back, where that is customer credit. */
    private String refunded(String refund) {
        return queries.refunded(refund).orElse("");
    }

    private List<PaymentFact> payments(Collection<String> invoices, String start, Collection<String> others) {
        var numbers = new LinkedHashSet<String>();
        if (!invoices.isEmpty()) {
            numbers.addAll(queries.paid(Many.names(invoices)).stream()
                    .map(row -> row.payment())
                    .toList());
        }
        if (!start.isEmpty()) {
            numbers.add(start);
        }
        // credit that a deposit became, or that a credit note left, stands under their numbers
        numbers.addAll(others);
        if (numbers.isEmpty()) {
            return List.of();
        }
        var allocations = new HashMap<String, List<PaymentFact.Allocation>>();
        queries.allocations(Many.names(numbers))
                .forEach(row -> allocations
                        .computeIfAbsent(row.number(), p -> new ArrayList<>())
                        .add(new PaymentFact.Allocation(
                                row.invoice(),
                                company.money(row.amount()),
                                row.allocatedOn(),
                                new Stamp(row.moment(), row.byUser()))));
        return queries.payments(Many.names(numbers)).stream()
                .map(row -> new PaymentFact(
                        new DocumentRef(row.kind(), row.number()),
                        row.customer(),
                        row.receivedOn(),
                        company.money(row.amount()),
                        company.money(row.leftAmount()),
                        company.money(row.refunded()),
                        row.reversed(),
                        allocations.getOrDefault(row.number(), List.of())))
                .toList();
    }

    /** Deposits for the roots and those that settled their invoices. */
    private Set<String> paidAhead(List<String> roots, Collection<String> invoices) {
        var numbers = new LinkedHashSet<String>();
        if (!roots.isEmpty()) {
            numbers.addAll(queries.depositsAt(Many.names(roots)));
        }
        if (!invoices.isEmpty()) {
            numbers.addAll(queries.depositsOf(Many.names(invoices)).stream()
                    .map(row -> row.deposit())
                    .toList());
        }
        return numbers;
    }

    private List<DepositFact> deposits(Set<String> numbers) {
        if (numbers.isEmpty()) {
            return List.of();
        }
        var uses = new HashMap<String, List<DepositFact.Use>>();
        queries.uses(Many.names(numbers))
                .forEach(row -> uses.computeIfAbsent(row.deposit(), d -> new ArrayList<>())
                        .add(new DepositFact.Use(
                                row.kind(),
                                new DocumentRef(row.documentKind(), row.documentNumber()),
                                company.money(row.amount()),
                                row.usedOn(),
                                new Stamp(row.moment(), row.byUser()))));
        return queries.deposits(Many.names(numbers)).stream()
                .map(row -> new DepositFact(
                        row.number(),
                        row.order(),
                        row.receivedOn(),
                        company.money(row.amount()),
                        company.money(row.leftAmount()),
                        row.movedFrom() == null ? "" : row.movedFrom(),
                        uses.getOrDefault(row.number(), List.of())))
                .toList();
    }

    private List<RefundFact> refunds(List<PaymentFact> payments) {
        return payments.isEmpty()
                ? List.of()
                : queries
                        .refunds(Many.names(
                                payments.stream().map(PaymentFact::number).toList()))
                        .stream()
                        .map(row -> new RefundFact(
                                row.number(),
                                new DocumentRef(row.sourceKind(), row.sourceNumber()),
                                row.refundedOn(),
                                company.money(row.amount()),
                                row.reversedOn() != null))
                        .toList();
    }

    /** What came back on returns and what became of it, each with whoever did it. */
    private List<ReturnMove> returnMoves(List<String> returns) {
        return returns.isEmpty()
                ? List.of()
                : Stream.concat(
                                queries.received(Many.names(returns)).stream(),
                                queries.decided(Many.names(returns)).stream())
                        .sorted(Comparator.comparing(TrailQueries.MoveRow::moment))
                        .map(row -> new ReturnMove(
                                row.number(),
                                row.happenedOn(),
                                new Stamp(row.moment(), row.byUser()),
                                new LineRef(row.order(), row.orderLineNo()),
                                ReturnMove.Kind.valueOf(row.kind()),
                                new Quantity(row.quantity())))
                        .toList();
    }

    /** Dispatches and invoices of the roots that were mirrored, and refunds of the credit they left. */
    private List<ReversalFact> reversals(List<Chain> roots, List<RefundFact> refunds) {
        var found = new ArrayList<ReversalFact>();
        var dispatches = roots.stream()
                .flatMap(c -> c.dispatches().stream())
                .filter(d -> d.state() == Dispatch.State.REVERSED)
                .map(Dispatch::number)
                .toList();
        var invoices = roots.stream()
                .flatMap(c -> c.invoices().stream())
                .filter(Invoice::reversed)
                .map(Invoice::number)
                .distinct()
                .toList();
        reversals(DocumentKind.DISPATCH, dispatches, queries::reversedDispatches, found);
        reversals(DocumentKind.INVOICE, invoices, queries::reversedInvoices, found);
        reversals(
                DocumentKind.CREDIT_NOTE,
                Chain.allCredits(roots).stream()
                        .filter(CreditNote::reversed)
                        .map(CreditNote::number)
                        .toList(),
                queries::reversedCreditNotes,
                found);
        reversals(
                DocumentKind.REFUND,
                refunds.stream()
                        .filter(RefundFact::reversed)
                        .map(RefundFact::number)
                        .toList(),
                queries::reversedRefunds,
                found);
        return found;
    }

    private static void reversals(
            DocumentKind kind,
            List<String> numbers,
            Function<String[], List<TrailQueries.ReversalRow>> asked,
            List<ReversalFact> found) {
        if (!numbers.isEmpty()) {
            asked.apply(Many.names(numbers))
                    .forEach(row -> found.add(new ReversalFact(
                            new DocumentRef(kind, row.number()),
                            row.reversedOn(),
                            new Stamp(row.moment(), row.byUser()),
                            row.sentence().contains(": ")
                                    ? row.sentence().substring(row.sentence().indexOf(": ") + 2)
                                    : "")));
        }
    }

    /** Orders that the same money settled on other invoices, or paid as a deposit. */
    private Set<String> paidElsewhere(
            List<PaymentFact> payments, List<DepositFact> deposits, List<String> roots, Set<String> invoices) {
        var others = new HashSet<String>();
        payments.forEach(p -> p.allocations().stream()
                .map(PaymentFact.Allocation::invoice)
                .filter(i -> !invoices.contains(i))
                .forEach(others::add));
        var orders = new HashSet<String>();
        deposits.forEach(deposit -> {
            orders.add(deposit.order());
            deposit.uses().stream()
                    .filter(use -> use.kind() == DepositFact.Kind.APPLIED)
                    .map(use -> use.document().number())
                    .filter(i -> !invoices.contains(i))
                    .forEach(others::add);
        });
        roots.forEach(orders::remove);
        if (!others.isEmpty()) {
            orders.addAll(queries.paidElsewhere(Many.names(others)));
        }
        return orders;
    }

    /** The documents of a trail. */
    private static List<DocumentRef> documents(
            List<Chain> roots, List<PaymentFact> payments, List<DepositFact> deposits, List<RefundFact> refunds) {
        var documents = new LinkedHashSet<DocumentRef>();
        for (var chain : roots) {
            documents.add(DocumentRef.order(chain.order().number()));
            chain.cancellations().forEach(c -> documents.add(new DocumentRef(DocumentKind.CANCELLATION, c.number())));
            chain.dispatches().forEach(d -> documents.add(new DocumentRef(DocumentKind.DISPATCH, d.number())));
            chain.invoices().forEach(i -> documents.add(new DocumentRef(DocumentKind.INVOICE, i.number())));
            chain.returns().forEach(r -> documents.add(new DocumentRef(DocumentKind.RETURN, r.number())));
            chain.credits().forEach(c -> documents.add(new DocumentRef(DocumentKind.CREDIT_NOTE, c.number())));
        }
        payments.forEach(p -> documents.add(p.document()));
        deposits.forEach(d -> {
            documents.add(new DocumentRef(DocumentKind.DEPOSIT, d.number()));
            d.uses().stream()
                    .filter(use -> use.kind() == DepositFact.Kind.GIVEN_BACK)
                    .map(DepositFact.Use::document)
                    .forEach(documents::add);
        });
        refunds.forEach(refund -> documents.add(new DocumentRef(DocumentKind.REFUND, refund.number())));
        return List.copyOf(documents);
    }

    private List<Remark> remarks(List<String> roots) {
        if (roots.isEmpty()) {
            return List.of();
        }
        return queries.remarks(Many.names(roots)).stream()
                .map(row -> new Remark(
                        row.event().startsWith("dispute")
                                ? new DocumentRef(DocumentKind.INVOICE, row.documentNumber())
                                : DocumentRef.order(row.order()),
                        row.happenedOn(),
                        new Stamp(row.moment(), row.byUser()),
                        row.sentence(),
                        Set.of("started", "replaced", "corrected").contains(row.event())))
                // an invoice of several orders is told of in the history of each
                .distinct()
                .toList();
    }

    /** A dispatch stands where it departed, or was staged as long as it has not; everything else where it began. */
    private Map<DocumentRef, Stamp> stamps(List<DocumentRef> documents) {
        var stamps = new LinkedHashMap<DocumentRef, Stamp>();
        documents.forEach(document -> stamps.put(document, new Stamp(0, "")));
        if (documents.isEmpty()) {
            return stamps;
        }
        queries.stamps(Many.numbers(documents)).forEach(row -> {
            var document = new DocumentRef(DocumentKind.valueOf(row.kind()), row.number());
            // a payment that a credit note left has its number
            stamps.computeIfPresent(document, (d, stamp) -> {
                var isLater = row.event().equals("departed") || row.event().equals("credited");
                return stamp.moment() == 0 || isLater ? new Stamp(row.moment(), row.byUser()) : stamp;
            });
        });
        return stamps;
    }
}
