package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.ledger.Accounts;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.RefusedException;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Gathers what a plan looks at, in a fixed number of queries. */
@Component
class UnwindContexts {

    private final UnwindQueries queries;
    private final ChainReader chains;
    private final Accounts accounts;
    private final StockService stock;
    private final DocumentOrders documentOrders;
    private final MoneyBehind money;

    UnwindContexts(
            UnwindQueries queries,
            ChainReader chains,
            Accounts accounts,
            StockService stock,
            DocumentOrders documentOrders,
            MoneyBehind money) {
        this.money = money;
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.chains = chains;
        this.accounts = accounts;
        this.stock = stock;
    }

    /** The orders of what is undone, and those that it gives something back to. */
    List<String> orders(Intent intent) {
        var subject = intent.subject();
        if (!(intent instanceof Intent.TakeBack)) {
            return orders(subject);
        }
        return switch (subject.kind()) {
            case CREDIT_NOTE -> {
                var orders = queries.ordersOfCredited(subject.number());
                if (orders.isEmpty()) {
                    throw missing(subject);
                }
                yield orders;
            }
            case DEPOSIT ->
                Stream.concat(
                                documentOrders.of(subject.kind(), subject.number()).stream(),
                                money.cameFrom(subject.number()).stream().map(Deposit.Origin::order))
                        .distinct()
                        .sorted()
                        .toList();
            default -> orders(subject);
        };
    }

    /** The orders of a document: those of its lines, or of what its money is for. Money on account has none. */
    List<String> orders(DocumentRef subject) {
        return switch (subject.kind()) {
            case ORDER, DISPATCH, INVOICE, RETURN, DEPOSIT, WRITE_OFF ->
                documentOrders.of(subject.kind(), subject.number());
            default -> {
                if (customerOfMoney(subject).isEmpty()) {
                    throw missing(subject);
                }
                yield subject.kind() == DocumentKind.REFUND ? queries.ordersOfRefund(subject.number()) : List.of();
            }
        };
    }

    private static RefusedException missing(DocumentRef subject) {
        return new RefusedException(
                new CommonRefusal.NotFound(subject.kind().word().toLowerCase(Locale.ROOT), subject.number()));
    }

    private Optional<String> customerOfMoney(DocumentRef subject) {
        return subject.kind() == DocumentKind.REFUND
                ? queries.customerOfRefund(subject.number())
                : queries.customerOfMoney(subject.number(), subject.kind());
    }

    String customer(DocumentRef subject, List<String> orders) {
        return orders.isEmpty()
                ? customerOfMoney(subject).orElseThrow()
                : chains.chain(orders.get(0)).order().customer();
    }

    /** The shelves that goods of a return, whose receipt is taken back, were put on. */
    List<RestockedAt> restocked(Intent intent) {
        if (!(intent instanceof Intent.TakeBack) || intent.subject().kind() != DocumentKind.RETURN) {
            return List.of();
        }
        var goods = Chain.returnOf(
                chains.chains(orders(intent)).values(), intent.subject().number());
        return goods.decided().stream()
                .filter(result -> result.outcome().kind() == Return.Outcome.Kind.RESTOCK)
                .map(result -> new RestockedAt(
                        result.outcome().site(), goods.line(result.line()).item()))
                .distinct()
                .sorted(Comparator.comparing(RestockedAt::item).thenComparing(RestockedAt::site))
                .toList();
    }

    /** An item at a store. */
    record RestockedAt(String site, String item) {}

    /** The orders for which something is held on shelves. */
    List<String> heldOn(List<RestockedAt> shelves) {
        return shelves.stream()
                .flatMap(shelf -> stock.held(shelf.site(), shelf.item()).stream())
                .map(held -> held.orderLine().number())
                .distinct()
                .toList();
    }

    private UnwindContext.Taken taken(Intent intent) {
        var shelves = restocked(intent).stream()
                .map(shelf -> new UnwindContext.Stocked(
                        stock.shelf(shelf.site(), shelf.item()), stock.held(shelf.site(), shelf.item())))
                .toList();
        return shelves.isEmpty() ? money.taken(intent) : UnwindContext.Taken.of(shelves);
    }

    UnwindContext of(Intent intent) {
        return of(intent, orders(intent));
    }

    UnwindContext of(Intent intent, List<String> orders) {
        return of(intent.subject(), orders, taken(intent));
    }

    /** The chains of a document with the money behind them. */
    UnwindContext of(DocumentRef subject) {
        return of(subject, orders(subject));
    }

    UnwindContext of(DocumentRef subject, List<String> orders) {
        return of(subject, orders, UnwindContext.Taken.NOTHING);
    }

    private UnwindContext of(DocumentRef subject, List<String> orders, UnwindContext.Taken taken) {
        var found = List.copyOf(chains.chains(orders).values());
        var invoices = found.stream()
                .flatMap(chain -> chain.invoices().stream())
                .map(Invoice::number)
                .distinct()
                .toList();
        var credits = found.stream()
                .flatMap(chain -> chain.credits().stream())
                .map(credit -> credit.number())
                .distinct()
                .toList();
        var deposits = found.stream()
                .flatMap(chain -> chain.deposits().stream())
                .map(deposit -> deposit.number())
                .toList();
        var applied = money.applied(invoices);
        var sources = money.sources(invoices, subject, credits, deposits);
        return new UnwindContext(
                found,
                money.open(invoices),
                applied,
                sources,
                accounts.closedThrough(),
                money.bounds(
                        customer(subject, orders),
                        Stream.of(
                                        sources.stream().map(RefundRules.Source::document),
                                        deposits.stream().map(d -> new DocumentRef(DocumentKind.DEPOSIT, d)),
                                        applied.stream().map(a -> new DocumentRef(DocumentKind.DEPOSIT, a.deposit())))
                                .flatMap(documents -> documents)
                                .collect(Collectors.toSet())),
                taken);
    }
}
