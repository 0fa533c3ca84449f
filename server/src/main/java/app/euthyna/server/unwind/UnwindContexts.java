package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.billing.RefundBounds;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.Accounts;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.RefusedException;
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
    private final RefundBounds bounds;
    private final DocumentOrders documentOrders;
    private final MoneyBehind money;

    UnwindContexts(
            UnwindQueries queries,
            ChainReader chains,
            Accounts accounts,
            RefundBounds bounds,
            DocumentOrders documentOrders,
            MoneyBehind money) {
        this.money = money;
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.chains = chains;
        this.accounts = accounts;
        this.bounds = bounds;
    }

    /** The orders of a document: those of its lines, or of what its money is for. Money on account has none. */
    List<String> orders(DocumentRef subject) {
        return switch (subject.kind()) {
            case ORDER, DISPATCH, INVOICE, RETURN, DEPOSIT -> documentOrders.of(subject.kind(), subject.number());
            default -> {
                if (customerOfMoney(subject).isEmpty()) {
                    throw new RefusedException(new CommonRefusal.NotFound(
                            subject.kind().word().toLowerCase(Locale.ROOT), subject.number()));
                }
                yield List.of();
            }
        };
    }

    private Optional<String> customerOfMoney(DocumentRef subject) {
        return queries.customerOfMoney(subject.number(), subject.kind());
    }

    String customer(DocumentRef subject, List<String> orders) {
        return orders.isEmpty()
                ? customerOfMoney(subject).orElseThrow()
                : chains.chain(orders.get(0)).order().customer();
    }

    UnwindContext of(DocumentRef subject, List<String> orders) {
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
                bounds.of(
                        found.isEmpty()
                                ? sources.get(0).customer()
                                : found.get(0).order().customer(),
                        Stream.of(
                                        sources.stream().map(RefundRules.Source::document),
                                        deposits.stream().map(d -> new DocumentRef(DocumentKind.DEPOSIT, d)),
                                        applied.stream().map(a -> new DocumentRef(DocumentKind.DEPOSIT, a.deposit())))
                                .flatMap(documents -> documents)
                                .collect(Collectors.toSet())));
    }
}
