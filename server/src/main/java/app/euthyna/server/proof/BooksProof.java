package app.euthyna.server.proof;

import app.euthyna.core.proof.Statement;
import app.euthyna.core.proof.Statement.Failure;
import app.euthyna.core.proof.Statement.Result;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The statements over the whole books, as set-based SQL over the documents themselves; no queue or running total is trusted. */
@Component
class BooksProof {

    /** More failures than this of one statement are counted, not named. */
    private static final int NAMED = 20;

    private final JdbcClient jdbc;
    private final Company company;

    BooksProof(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
    }

    List<Result> run() {
        var results = new ArrayList<>(List.of(entriesBalance(), totalsFollow()));
        results.addAll(lines());
        results.addAll(List.of(receivables(), inventory(), goodsOut(), customerCredit(), wasCleared()));
        return results;
    }

    private Result entriesBalance() {
        return new Result(Statement.ENTRIES_BALANCE, count("select count(*) from journal_entry"), null, null, failures("""
                select e.number, 0, t.total from (select entry_id, sum(amount) as total from journal_line group by entry_id) t
                join journal_entry e on e.id = t.entry_id where t.total <> 0""", "Entry %s is out of balance: it should come to %s and comes to %s."));
    }

    private Result totalsFollow() {
        var digits = company.currency().getDefaultFractionDigits();
        var failures = new ArrayList<>(failures(totals("sales_order", "order_id", "sales_order_line", "and l.removed = false and l.kind <> 'TEXT'",
                digits), "The lines of order %s come to %s, it says %s."));
        failures.addAll(failures(totals("invoice", "invoice_id", "invoice_line", "", digits), "The lines of invoice %s come to %s, it says %s."));
        return new Result(Statement.TOTALS_FOLLOW, count("select (select count(*) from sales_order) + (select count(*) from invoice)"),
                null, null, failures);
    }

    private static String totals(String document, String key, String line, String which, int digits) {
        return """
                select d.number, t.gross, d.gross from DOCUMENT d join (
                    select KEY, sum(taxable) + sum(round(taxable * vat_rate / 100, DIGITS)) as gross from (
                        select l.KEY, l.vat_category, l.vat_rate,
                               sum(round(l.quantity * l.unit_price * (100 - l.discount_percent) / 100, DIGITS)) as taxable
                        from LINE l where 1 = 1 WHICH group by l.KEY, l.vat_category, l.vat_rate) bands
                    group by KEY) t on t.KEY = d.id
                where t.gross <> d.gross or d.net + d.vat <> d.gross""".replace("DOCUMENT", document).replace("KEY", key)
                .replace("LINE", line).replace("WHICH", which).replace("DIGITS", String.valueOf(digits));
    }

    /** Per order line: ordered, cancelled, staged, dispatched, reserved and billed, from the documents. */
    private static final String LINES = """
            select o.number, l.line_no, l.kind, l.quantity as ordered,
                   coalesce((select sum(c.quantity) from cancellation_line c join cancellation k on k.id = c.cancellation_id
                             where k.order_id = l.order_id and c.order_line_no = l.line_no), 0) as cancelled,
                   coalesce((select sum(x.quantity) from dispatch_line x join dispatch d on d.id = x.dispatch_id
                             where x.root_order_id = l.order_id and x.order_line_no = l.line_no and d.state = 'STAGED'), 0) as staged,
                   coalesce((select sum(x.quantity) from dispatch_line x join dispatch d on d.id = x.dispatch_id
                             where x.root_order_id = l.order_id and x.order_line_no = l.line_no and d.state = 'DEPARTED'), 0) as dispatched,
                   coalesce((select c.reserved from stock_claim c where c.order_id = l.order_id and c.line_no = l.line_no), 0) as reserved,
                   coalesce((select sum(i.quantity) from invoice_line i
                             where i.root_order_id = l.order_id and i.order_line_no = l.line_no), 0) as billed
            from sales_order_line l join sales_order o on o.id = l.order_id where l.removed = false""";

    /** A line whose quantities do not agree. */
    private record BrokenLine(String number, String kind, BigDecimal ordered, BigDecimal cancelled, BigDecimal staged, BigDecimal dispatched,
            BigDecimal reserved, BigDecimal billed) {

        private BigDecimal taken() {
            return cancelled.add(dispatched).add(staged).add(reserved);
        }

        private BigDecimal bound() {
            return kind.equals("STOCK") ? dispatched : ordered.subtract(cancelled);
        }
    }

    /** Both statements about lines in one pass over them. */
    private List<Result> lines() {
        var broken = jdbc.sql("select * from (" + LINES + """
                ) t where kind = 'STOCK' and (cancelled + dispatched + staged + reserved > ordered or reserved < 0)
                or billed > case kind when 'STOCK' then dispatched else ordered - cancelled end fetch first NAMED rows only"""
                .replace("NAMED", String.valueOf(2 * NAMED)))
                .query((r, n) -> new BrokenLine(r.getString("number"), r.getString("kind"), r.getBigDecimal("ordered"), r.getBigDecimal("cancelled"),
                        r.getBigDecimal("staged"), r.getBigDecimal("dispatched"), r.getBigDecimal("reserved"), r.getBigDecimal("billed"))).list();
        var kept = broken.stream().filter(l -> l.kind().equals("STOCK") && (l.taken().compareTo(l.ordered()) > 0 || l.reserved().signum() < 0))
                .map(l -> new Failure(l.number(), l.ordered(), l.taken(), "On order %s a line orders %s, but %s are cancelled, reserved, staged or dispatched."
                        .formatted(l.number(), plain(l.ordered()), plain(l.taken())))).toList();
        var bounds = broken.stream().filter(l -> l.billed().compareTo(l.bound()) > 0).map(l -> new Failure(l.number(), l.bound(), l.billed(),
                "On order %s a line could be billed with %s, but is with %s.".formatted(l.number(), plain(l.bound()), plain(l.billed())))).toList();
        return List.of(new Result(Statement.QUANTITY_KEPT, count("select count(*) from sales_order_line where removed = false"), null, null, kept),
                new Result(Statement.WITHIN_BOUNDS, count("select count(*) from invoice_line"), null, null, bounds));
    }

    private Result receivables() {
        var failures = new ArrayList<>(failures("""
                select number, should, open_amount from (
                    select i.number, i.open_amount, i.gross - coalesce((select sum(a.amount) from allocation a where a.invoice_id = i.id), 0) as should
                    from invoice i) t where should <> open_amount""", "Invoice %s should have %s open, but says %s."));
        var open = figure("select coalesce(sum(gross), 0) - (select coalesce(sum(amount), 0) from allocation) from invoice");
        return compare(Statement.RECEIVABLES, count("select count(*) from invoice"), open, ledger("receivables"), failures);
    }

    private Result inventory() {
        var failures = new ArrayList<>(failures("""
                select code, moved, on_hand from (
                    select i.code, s.on_hand, coalesce((select sum(m.quantity) from stock_movement m
                        where m.item_id = s.item_id and m.site_id = s.site_id), 0) as moved
                    from shelf s join item i on i.id = s.item_id) t where moved <> on_hand""",
                "Of item %s %s are on hand by its movements, %s by its shelf."));
        failures.addAll(failures("""
                select code, held, reserved from (
                    select i.code, s.reserved, s.on_hand, coalesce((select sum(c.reserved) from stock_claim c
                        where c.item_id = s.item_id and c.site_id = s.site_id), 0)
                        + coalesce((select sum(x.quantity) from dispatch d join dispatch_line x on x.dispatch_id = d.id
                            where d.state = 'STAGED' and d.site_id = s.site_id and x.item_id = s.item_id), 0) as held
                    from shelf s join item i on i.id = s.item_id) t where held <> reserved or reserved > on_hand""",
                "Of item %s %s are held for orders, its shelf says %s."));
        return compare(Statement.INVENTORY, count("select count(*) from shelf"), figure("select coalesce(sum(stock_value), 0) from shelf"),
                ledger("inventory"), failures);
    }

    private Result goodsOut() {
        var out = figure("""
                select coalesce(sum(x.cost), 0) - (select coalesce(sum(cost), 0) from invoice_line_source)
                from dispatch d join dispatch_line x on x.dispatch_id = d.id join sales_order o on o.id = d.order_id
                join sales_order_line l on l.order_id = x.root_order_id and l.line_no = x.order_line_no
                where d.state = 'DEPARTED' and not (o.kind in ('SAMPLE', 'REPLACEMENT') and (l.unit_price = 0 or l.discount_percent = 100))""");
        return compare(Statement.GOODS_OUT, count("select count(*) from dispatch_line"), out, ledger("goods_out"), new ArrayList<>());
    }

    private Result customerCredit() {
        var failures = new ArrayList<>(failures("""
                select number, should, left_amount from (
                    select p.number, p.left_amount, p.amount - coalesce((select sum(a.amount) from allocation a where a.payment_id = p.id), 0) as should
                    from payment p) t where should <> left_amount""", "Payment %s should have %s left, but says %s."));
        var left = figure("select coalesce(sum(amount), 0) - (select coalesce(sum(amount), 0) from allocation) from payment");
        return compare(Statement.CUSTOMER_CREDIT, count("select count(*) from payment"), left.negate(), ledger("customer_credit"), failures);
    }

    /** The state of an order at a moment is the last one that its history names before it. */
    private Result wasCleared() {
        return new Result(Statement.WAS_CLEARED, count("select count(*) from history where event in ('departed', 'invoiced')"), null, null,
                failures("""
                        select document_number, 0, 1 from (
                            select h.document_number, (select s.state_to from history s where s.moment = (
                                select max(m.moment) from history m where m.order_id = h.order_id and m.moment < h.moment and m.state_to is not null)) as then_state
                            from history h where h.event in ('departed', 'invoiced')) t
                        where then_state is null or then_state <> 'CLEARED'""", "Document %s was made of an order that was not cleared then."));
    }

    private Result compare(Statement statement, long examined, BigDecimal documents, BigDecimal ledger, List<Failure> failures) {
        if (documents.compareTo(ledger) != 0) {
            failures.add(new Failure("", documents, ledger, statement.words() + ": the documents say " + documents.toPlainString()
                    + ", the ledger says " + ledger.toPlainString() + "."));
        }
        return new Result(statement, examined, documents, ledger, failures);
    }

    private List<Failure> failures(String sql, String sentence) {
        return jdbc.sql(sql + " fetch first " + NAMED + " rows only").query((r, n) -> new Failure(r.getString(1), r.getBigDecimal(2),
                r.getBigDecimal(3), sentence.formatted(r.getString(1), plain(r.getBigDecimal(2)), plain(r.getBigDecimal(3))))).list();
    }

    private static String plain(BigDecimal figure) {
        return figure.stripTrailingZeros().toPlainString();
    }

    private long count(String sql) {
        return jdbc.sql(sql).query(Long.class).single();
    }

    private BigDecimal figure(String sql) {
        return jdbc.sql(sql).query((r, n) -> company.money(r.getBigDecimal(1)).amount()).single();
    }

    private BigDecimal ledger(String role) {
        return jdbc.sql("select coalesce(sum(amount), 0) from journal_line where role = ?").param(role)
                .query((r, n) -> company.money(r.getBigDecimal(1)).amount()).single();
    }
}
