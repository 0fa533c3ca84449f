package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How things stand: every figure that unwinding may touch. Taken before and after, it is the preview. */
@Component
class Standing {

    private final JdbcClient jdbc;
    private final ChainReader chains;
    private final Company company;
    private final LedgerReader ledger;

    Standing(JdbcClient jdbc, ChainReader chains, Company company, LedgerReader ledger) {
        this.ledger = ledger;
        this.jdbc = jdbc;
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
            jdbc.sql("""
                select distinct p.kind, p.number from payment p join allocation a on a.payment_id = p.id
                join invoice_line l on l.invoice_id = a.invoice_id
                join sales_order o on o.id = l.root_order_id where o.number in (:orders)\
                """)
                    .param("orders", List.copyOf(orders))
                    .query((r, n) ->
                            documents.add(new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2))))
                    .list();
        }
        var sources = documents.stream()
                .filter(d -> d.kind() == DocumentKind.PAYMENT
                        || d.kind() == DocumentKind.DEPOSIT
                        || d.kind() == DocumentKind.CREDIT_NOTE)
                .map(DocumentRef::number)
                .toList();
        if (!sources.isEmpty()) {
            jdbc.sql("select number from refund where source_kind in ('PAYMENT', 'DEPOSIT', 'CREDIT_NOTE') and"
                            + " source_number in (:sources)")
                    .param("sources", sources)
                    .query((r, n) -> documents.add(new DocumentRef(DocumentKind.REFUND, r.getString(1))))
                    .list();
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
            jdbc.sql("""
                select i.code, s.code, h.on_hand, h.reserved, h.stock_value,
                    coalesce((select sum(p.quantity - coalesce((select sum(o.quantity) from return_outcome o
                    where o.part_id = p.id), 0)) from return_line l
                    join return_part p on p.return_line_id = l.id
                    where l.item_id = h.item_id and l.site_id = h.site_id), 0)
                from shelf h join item i on i.id = h.item_id join site s on s.id = h.site_id
                where i.code in (:items) order by i.code, s.id\
                """)
                    .param("items", items)
                    .query((r, n) -> shelves.put(
                            new ShelfKey(r.getString(1), r.getString(2)),
                            new ShelfFigures(
                                    new Quantity(r.getBigDecimal(3)).value(),
                                    new Quantity(r.getBigDecimal(4)).value(),
                                    new Quantity(r.getBigDecimal(6)).value(),
                                    company.money(r.getBigDecimal(5)).amount())))
                    .list();
        }
        return shelves;
    }

    private Map<MoneyKey, BigDecimal> money(Collection<String> orders, String customer) {
        var money = new LinkedHashMap<MoneyKey, BigDecimal>();
        if (!orders.isEmpty()) {
            read(
                    money,
                    "INVOICE",
                    "open",
                    "select distinct i.id, i.number, i.open_amount from invoice i join invoice_line l on l.invoice_id"
                            + " = i.id join sales_order o on o.id = l.root_order_id where o.number in (:orders) order by"
                            + " i.id",
                    orders);
            read(
                    money,
                    "DEPOSIT",
                    "unapplied",
                    "select d.id, d.number, d.left_amount from deposit d join sales_order o on o.id = d.order_id where"
                            + " o.number in (:orders) order by d.id",
                    orders);
        }
        money.put(
                new MoneyKey("CUSTOMER", customer, "customer credit"),
                jdbc.sql("select coalesce(sum(p.left_amount), 0) from payment p join customer c on c.id ="
                                + " p.customer_id where c.code = ? and p.left_amount > 0")
                        .param(customer)
                        .query((r, n) -> company.money(r.getBigDecimal(1)).amount())
                        .single());
        return money;
    }

    private void read(Map<MoneyKey, BigDecimal> into, String kind, String what, String sql, Collection<String> orders) {
        jdbc.sql(sql)
                .param("orders", List.copyOf(orders))
                .query((r, n) -> into.put(
                        new MoneyKey(kind, r.getString(2), what),
                        company.money(r.getBigDecimal(3)).amount()))
                .list();
    }
}
