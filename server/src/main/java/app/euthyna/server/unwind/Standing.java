package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** How things stand: every figure that unwinding may touch. Taken before and after, it is the preview. */
@Component
class Standing {

    private final UnwindQueries queries;
    private final ChainReader chains;
    private final Company company;
    private final LedgerReader ledger;
    private final OpenInvoices openInvoices;

    Standing(
            UnwindQueries queries,
            ChainReader chains,
            Company company,
            LedgerReader ledger,
            OpenInvoices openInvoices) {
        this.openInvoices = openInvoices;
        this.ledger = ledger;
        this.queries = queries;
        this.chains = chains;
        this.company = company;
    }

    /** An order line. */
    record LineKey(String order, int line, String description) {}

    /** An item at a store. */
    record ShelfKey(String item, String site) {}

    record ShelfFigures(
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal inspection,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value) {}

    /** A document with an amount that may become another: what an invoice has open, what of a payment is left. */
    record MoneyKey(String kind, String number, String what) {}

    /** An account, in one of its roles. */
    record AccountKey(AccountRole role, String account) {}

    /** All figures at one moment; accounts hold what the entries of the orders' documents leave on them. */
    record Picture(
            Map<String, OrderState> states,
            Map<LineKey, LineFlow> lines,
            Map<ShelfKey, ShelfFigures> shelves,
            Map<MoneyKey, BigDecimal> money,
            Map<AccountKey, BigDecimal> accounts) {}

    /** The figures of orders and all that hangs on them. */
    Picture of(Collection<String> orders, String customer, DocumentRef subject) {
        var states = new LinkedHashMap<String, OrderState>();
        var lines = new LinkedHashMap<LineKey, LineFlow>();
        for (var chain : chains.chains(orders).values()) {
            states.put(chain.order().number(), chain.order().state());
            chain.flows().stream()
                    .filter(flow -> flow.line().kind().isBilled())
                    .forEach(flow -> lines.put(
                            new LineKey(
                                    chain.order().number(),
                                    flow.line().no(),
                                    flow.line().description()),
                            flow));
        }
        return new Picture(
                states,
                lines,
                shelves(chains.chains(orders).values()),
                money(orders, customer),
                accounts(orders, subject));
    }

    private Map<AccountKey, BigDecimal> accounts(Collection<String> orders, DocumentRef subject) {
        var documents = new LinkedHashSet<DocumentRef>();
        documents.add(subject);
        for (var chain : chains.chains(orders).values()) {
            chain.dispatches().forEach(d -> documents.add(new DocumentRef(DocumentKind.DISPATCH, d.number())));
            chain.invoices().forEach(i -> documents.add(new DocumentRef(DocumentKind.INVOICE, i.number())));
            chain.deposits().forEach(d -> documents.add(new DocumentRef(DocumentKind.DEPOSIT, d.number())));
            chain.returns().forEach(r -> documents.add(new DocumentRef(DocumentKind.RETURN, r.number())));
            chain.credits().forEach(c -> documents.add(new DocumentRef(DocumentKind.CREDIT_NOTE, c.number())));
        }
        if (!orders.isEmpty()) {
            queries.paymentsOf(Many.names(List.copyOf(orders)))
                    .forEach(row -> documents.add(new DocumentRef(row.kind(), row.number())));
        }
        var sources = documents.stream()
                .filter(d -> d.kind() == DocumentKind.PAYMENT
                        || d.kind() == DocumentKind.DEPOSIT
                        || d.kind() == DocumentKind.CREDIT_NOTE)
                .map(DocumentRef::number)
                .toList();
        if (!sources.isEmpty()) {
            queries.refundsOf(Many.names(sources))
                    .forEach(number -> documents.add(new DocumentRef(DocumentKind.REFUND, number)));
        }
        var sums = new LinkedHashMap<AccountKey, BigDecimal>();
        ledger.entries(documents).stream()
                .flatMap(e -> e.lines().stream())
                .forEach(l -> sums.merge(
                        new AccountKey(l.role(), l.account()), l.amount().amount(), BigDecimal::add));
        return sums;
    }

    private Map<ShelfKey, ShelfFigures> shelves(Collection<Chain> of) {
        var items = of.stream()
                .flatMap(chain -> chain.order().lines().stream())
                .filter(line -> line.kind().isShipped())
                .map(line -> line.item())
                .distinct()
                .toList();
        var shelves = new LinkedHashMap<ShelfKey, ShelfFigures>();
        if (!items.isEmpty()) {
            queries.shelves(Many.names(items))
                    .forEach(row -> shelves.put(
                            new ShelfKey(row.item(), row.site()),
                            new ShelfFigures(
                                    new Quantity(row.onHand()).value(),
                                    new Quantity(row.reserved()).value(),
                                    new Quantity(row.quantity()).value(),
                                    company.money(row.stockValue()).amount())));
        }
        return shelves;
    }

    private Map<MoneyKey, BigDecimal> money(Collection<String> orders, String customer) {
        var money = new LinkedHashMap<MoneyKey, BigDecimal>();
        if (!orders.isEmpty()) {
            var of = List.copyOf(orders);
            queries.openOfOrders(Many.names(of))
                    .forEach(row -> money.put(
                            new MoneyKey("INVOICE", row.number(), "open"),
                            company.money(row.amount()).amount()));
            queries.depositsOfOrders(Many.names(of))
                    .forEach(row -> money.put(
                            new MoneyKey("DEPOSIT", row.number(), "unapplied"),
                            company.money(row.amount()).amount()));
        }
        money.put(
                new MoneyKey("CUSTOMER", customer, "customer credit"),
                openInvoices.credit(customer).amount());
        return money;
    }
}
