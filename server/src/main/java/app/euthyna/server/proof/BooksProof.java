package app.euthyna.server.proof;

import app.euthyna.core.check.Severity;
import app.euthyna.core.proof.Statement;
import app.euthyna.core.proof.Statement.Failure;
import app.euthyna.core.proof.Statement.Result;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.sql.ResultSet;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * The statements over the whole books, as set-based SQL over the documents themselves; no queue or running total is
 * trusted.
 */
@Component
class BooksProof {

    /** More failures than this of one statement are counted, not named. */
    private static final int NAMED = 20;

    private final JdbcClient jdbc;
    private final BooksQueries queries;
    private final Company company;
    private final CompanyRulesStore rules;

    BooksProof(JdbcClient jdbc, BooksQueries queries, Company company, CompanyRulesStore rules) {
        this.rules = rules;
        this.jdbc = jdbc;
        this.queries = queries;
        this.company = company;
    }

    List<Result> run() {
        var results = new ArrayList<>(List.of(entriesBalance(), totalsFollow()));
        results.addAll(lines());
        results.addAll(List.of(
                receivables(),
                inventory(),
                goodsOut(),
                depositsAndCredit(),
                deferredRevenue(),
                outputVat(),
                mirrors(),
                numbers(),
                wasCleared(),
                periods(),
                hashChain(),
                poOnce(),
                datesInOrder()));
        return results;
    }

    private Result entriesBalance() {
        return new Result(
                Statement.ENTRIES_BALANCE,
                queries.entries(),
                null,
                null,
                failures("""
                    select e.number, 0, t.total from (select entry_id, sum(amount) as total
                    from journal_line group by entry_id) t
                    join journal_entry e on e.id = t.entry_id where t.total <> 0\
                    """, "Entry %s is out of balance: it" + " should come to %s and comes" + " to %s."));
    }

    private Result totalsFollow() {
        var digits = company.currency().getDefaultFractionDigits();
        var failures = new ArrayList<>(failures(
                totals(
                        "sales_order",
                        "order_id",
                        "sales_order_line",
                        "and l.removed = false and l.kind <> 'TEXT'",
                        digits),
                "The lines of order %s total %s; the order states %s."));
        failures.addAll(failures(
                totals("invoice", "invoice_id", "invoice_line", "", digits),
                "The lines of invoice %s total %s; the invoice states %s."));
        failures.addAll(
                failures("""
                    select k.number, t.net - v.discount + v.tax, k.gross from credit_note k
                    join (select credit_note_id, sum(net) as net from credit_note_line group by credit_note_id) t
                        on t.credit_note_id = k.id join (select credit_note_id, sum(taxable) as taxable,
                            sum(tax) as tax, sum(discount_net) as discount from credit_note_vat
                            group by credit_note_id) v on v.credit_note_id = k.id
                    where t.net - v.discount <> k.net or v.taxable <> k.net or v.tax <> k.vat or k.net + k.vat <> k.gross\
                    """, "The lines" + " of credit" + " note" + " %s come" + " to %s," + " it says" + " %s."));
        return new Result(
                Statement.TOTALS_FOLLOW,
                queries.orders() + queries.invoices() + queries.creditNotes(),
                null,
                null,
                failures);
    }

    private static String totals(String document, String key, String line, String which, int digits) {
        return """
            select d.number, t.gross, d.gross from DOCUMENT d join (
                select KEY, sum(taxable) + sum(round(taxable * vat_rate / 100, DIGITS)) as gross from (
                    select l.KEY, l.vat_category, l.vat_rate,
                           sum(round(l.quantity * l.unit_price * (100 - l.discount_percent) / 100, DIGITS)) as taxable
                    from LINE l where 1 = 1 WHICH group by l.KEY, l.vat_category, l.vat_rate) bands
                group by KEY) t on t.KEY = d.id
            where t.gross <> d.gross or d.net + d.vat <> d.gross\
            """.replace("DOCUMENT", document)
                .replace("KEY", key)
                .replace("LINE", line)
                .replace("WHICH", which)
                .replace("DIGITS", String.valueOf(digits));
    }

    /** Per order line: ordered, cancelled, staged, dispatched, reserved and billed, from the documents. */
    private static final String LINES = """
        select o.number, l.line_no, l.kind, l.quantity as ordered,
               coalesce((select sum(c.quantity) from cancellation_line c join cancellation k
                   on k.id = c.cancellation_id
                         where k.order_id = l.order_id and c.order_line_no = l.line_no), 0) as cancelled,
               coalesce((select sum(x.quantity) from dispatch_line x join dispatch d on d.id = x.dispatch_id
                         where x.root_order_id = l.order_id and x.order_line_no = l.line_no and d.state = 'STAGED'),
                             0) as staged,
               coalesce((select sum(x.quantity) from dispatch_line x join dispatch d on d.id = x.dispatch_id
                         where x.root_order_id = l.order_id and x.order_line_no = l.line_no
                             and d.state = 'DEPARTED'), 0) as dispatched,
               coalesce((select c.reserved from stock_claim c where c.order_id = l.order_id
                   and c.line_no = l.line_no), 0) as reserved,
               coalesce((select sum(i.quantity) from invoice_line i join invoice h on h.id = i.invoice_id
                         where i.root_order_id = l.order_id and i.order_line_no = l.line_no
                             and h.reversed_on is null), 0)
                   - coalesce((select sum(k.ahead) from credit_note_line k join credit_note n on n.id = k.credit_note_id
                       where k.root_order_id = l.order_id and k.order_line_no = l.line_no and n.reversed_on is null), 0) as billed,
               coalesce((select sum(s.quantity) from invoice_line i join invoice h on h.id = i.invoice_id
               join invoice_line_source s on s.invoice_line_id = i.id
                         where i.root_order_id = l.order_id and i.order_line_no = l.line_no
                             and h.reversed_on is null), 0) as sourced,
               coalesce((select sum(p.quantity - coalesce((select sum(x.quantity) from return_outcome x
               where x.part_id = p.id and x.kind = 'SEND_BACK'), 0))
                         from return_line r join return_part p on p.return_line_id = r.id
                         where r.root_order_id = l.order_id and r.order_line_no = l.line_no), 0) as returned,
               coalesce((select sum(k.quantity - k.ahead) from credit_note_line k
                   join credit_note n on n.id = k.credit_note_id
                   where k.root_order_id = l.order_id and k.order_line_no = l.line_no and n.reversed_on is null), 0) as credited
        from sales_order_line l join sales_order o on o.id = l.order_id where l.removed = false\
        """;

    /** A line whose quantities do not agree. */
    private record BrokenLine(
            String number,
            String kind,
            BigDecimal ordered,
            BigDecimal cancelled,
            BigDecimal staged,
            BigDecimal dispatched,
            BigDecimal reserved,
            BigDecimal billed,
            BigDecimal sourced,
            BigDecimal returned,
            BigDecimal credited) {

        private BigDecimal taken() {
            return cancelled.add(dispatched).add(staged).add(reserved);
        }

        /**
         * Goods: what was billed of what has left may not be more than has left; billed ahead, not more than is still
         * to leave.
         */
        private BigDecimal bound() {
            return kind.equals("STOCK") ? dispatched : ordered.subtract(cancelled);
        }

        private BigDecimal measured() {
            return kind.equals("STOCK") ? sourced : billed;
        }

        private BigDecimal ahead() {
            return kind.equals("STOCK") ? billed.subtract(sourced) : BigDecimal.ZERO;
        }

        private BigDecimal toLeave() {
            return ordered.subtract(cancelled).subtract(dispatched);
        }
    }

    /** Both statements about lines in one pass over them. */
    private List<Result> lines() {
        var broken = jdbc.sql("select * from (" + LINES + """
            ) t where kind = 'STOCK' and (cancelled + dispatched + staged + reserved > ordered or reserved < 0)
            or kind = 'STOCK' and (sourced > dispatched or billed - sourced > ordered - cancelled - dispatched)
                or kind <> 'STOCK' and billed > ordered - cancelled
            or returned > dispatched or credited > billed fetch first NAMED rows only\
            """.replace("NAMED", String.valueOf(2 * NAMED)))
                .query((r, n) -> new BrokenLine(
                        r.getString("number"),
                        r.getString("kind"),
                        r.getBigDecimal("ordered"),
                        r.getBigDecimal("cancelled"),
                        r.getBigDecimal("staged"),
                        r.getBigDecimal("dispatched"),
                        r.getBigDecimal("reserved"),
                        r.getBigDecimal("billed"),
                        r.getBigDecimal("sourced"),
                        r.getBigDecimal("returned"),
                        r.getBigDecimal("credited")))
                .list();
        return List.of(
                new Result(Statement.QUANTITY_KEPT, queries.orderLines(), null, null, kept(broken)),
                new Result(Statement.WITHIN_BOUNDS, queries.invoiceLines(), null, null, bounds(broken)));
    }

    private static List<Failure> kept(List<BrokenLine> broken) {
        return broken.stream()
                .filter(l -> l.kind().equals("STOCK")
                        && (l.taken().compareTo(l.ordered()) > 0 || l.reserved().signum() < 0))
                .map(l -> new Failure(
                        l.number(),
                        l.ordered(),
                        l.taken(),
                        "On order %s a line orders %s, but %s are cancelled, reserved, staged or dispatched."
                                .formatted(l.number(), Figures.plain(l.ordered()), Figures.plain(l.taken()))))
                .toList();
    }

    private static List<Failure> bounds(List<BrokenLine> broken) {
        var bounds = new ArrayList<Failure>();
        broken.stream()
                .filter(l -> l.measured().compareTo(l.bound()) > 0)
                .forEach(l -> bounds.add(new Failure(
                        l.number(),
                        l.bound(),
                        l.measured(),
                        "On order %s a line can be billed with %s, but is billed with %s."
                                .formatted(l.number(), Figures.plain(l.bound()), Figures.plain(l.measured())))));
        broken.stream()
                .filter(l -> l.ahead().compareTo(l.toLeave()) > 0)
                .forEach(l -> bounds.add(new Failure(
                        l.number(),
                        l.toLeave(),
                        l.ahead(),
                        "On order %s a line has %s billed ahead, but %s to ship."
                                .formatted(l.number(), Figures.plain(l.ahead()), Figures.plain(l.toLeave())))));
        broken.stream()
                .filter(l -> l.returned().compareTo(l.dispatched()) > 0)
                .forEach(l -> bounds.add(new Failure(
                        l.number(),
                        l.dispatched(),
                        l.returned(),
                        "On order %s, %s of a line were returned, but only %s shipped."
                                .formatted(l.number(), Figures.plain(l.returned()), Figures.plain(l.dispatched())))));
        broken.stream()
                .filter(l -> l.credited().compareTo(l.billed()) > 0)
                .forEach(l -> bounds.add(new Failure(
                        l.number(),
                        l.billed(),
                        l.credited(),
                        "On order %s, %s of a line are credited, but only %s billed."
                                .formatted(l.number(), Figures.plain(l.credited()), Figures.plain(l.billed())))));
        return bounds;
    }

    private Result receivables() {
        var failures = new ArrayList<>(failures("""
            select number, should, open_amount from (
                select i.number, i.open_amount, case when i.reversed_on is null then i.gross
                    else 0 end - coalesce((select sum(a.amount) from allocation a where a.invoice_id = i.id), 0)
                    - coalesce((select sum(u.amount) from deposit_use u where u.invoice_id = i.id), 0) as should
                from invoice i) t where should <> open_amount\
            """, "Invoice %s should have %s open, but says %s."));
        queries.openOfCustomers().forEach(row -> failures.add(row.failure()));
        var open = money(queries.receivables());
        return compare(Statement.RECEIVABLES, queries.invoices(), open, ledger("receivables"), failures);
    }

    private Result inventory() {
        var failures = new ArrayList<>(
                failures("""
                    select code, moved, on_hand from (
                        select i.code, s.on_hand, coalesce((select sum(m.quantity) from stock_movement m
                            where m.item_id = s.item_id and m.site_id = s.site_id), 0) as moved
                        from shelf s join item i on i.id = s.item_id) t where moved <> on_hand\
                    """, "Of item %s %s are on" + " hand by its" + " movements, %s" + " by its" + " shelf."));
        failures.addAll(
                failures("""
                    select code, held, reserved from (
                        select i.code, s.reserved, s.on_hand, coalesce((select sum(c.reserved) from stock_claim c
                            where c.item_id = s.item_id and c.site_id = s.site_id), 0)
                            + coalesce((select sum(x.quantity) from dispatch d join dispatch_line x
                                on x.dispatch_id = d.id
                                where d.state = 'STAGED' and d.site_id = s.site_id and x.item_id = s.item_id),
                                    0) as held
                        from shelf s join item i on i.id = s.item_id) t where held <> reserved or reserved > on_hand\
                    """, "Of item" + " %s %s" + " are held" + " for orders," + " its shelf" + " says" + " %s."));
        agree(
                money(queries.inInspection()),
                ledger("goods_in_inspection"),
                "Goods in inspection: %s by returns, %s in the ledger.",
                failures);
        return compare(
                Statement.INVENTORY, queries.shelves(), money(queries.stockValue()), ledger("inventory"), failures);
    }

    private Result goodsOut() {
        return compare(
                Statement.GOODS_OUT,
                queries.dispatchLines(),
                money(queries.goodsOut()),
                ledger("goods_out"),
                new ArrayList<>());
    }

    private Result depositsAndCredit() {
        var failures = new ArrayList<>(failures("""
            select number, should, left_amount from (
                select p.number, p.left_amount, case when p.reversed then 0 else p.amount - p.refunded end
                    - coalesce((select sum(a.amount) from allocation a where a.payment_id = p.id and a.discount = false), 0) as should
                from payment p) t where should <> left_amount or left_amount < 0\
            """, "Payment %s should have %s" + " left, but says %s."));
        failures.addAll(failures("""
            select number, should, left_amount from (
                select d.number, d.left_amount, d.amount - coalesce((select sum(u.amount) from deposit_use u
                where u.deposit_id = d.id), 0) as should
                from deposit d) t where should <> left_amount or left_amount < 0\
            """, "Deposit %s should have %s" + " unapplied, but says" + " %s."));
        var deposits = money(queries.unappliedDeposits());
        var inLedger = ledger("deposits");
        agree(deposits.negate(), inLedger, "Customer deposits: %s by documents, %s in the ledger.", failures);
        return compare(
                Statement.CUSTOMER_CREDIT,
                queries.payments() + queries.deposits(),
                money(queries.customerCredit()).add(deposits).negate(),
                ledger("customer_credit").add(inLedger),
                failures);
    }

    private Result deferredRevenue() {
        return compare(
                Statement.DEFERRED_REVENUE,
                queries.invoiceLines(),
                money(queries.unearned()).negate(),
                ledger("deferred_revenue"),
                new ArrayList<>(
                        failures("""
                        select number, 0, left_deferred from (
                            select i.number, l.deferred - coalesce((select sum(s.earned)
                            from invoice_line_source s where s.invoice_line_id = l.id), 0)
                                - coalesce((select sum(x.deferred) from credit_note_line x
                                join credit_note k on k.id = x.credit_note_id
                                where k.invoice_id = i.id and x.invoice_line_no = l.line_no
                                    and k.reversed_on is null), 0) as left_deferred,
                                   l.quantity - coalesce((select sum(s.quantity) from invoice_line_source s
                                   where s.invoice_line_id = l.id), 0)
                                - coalesce((select sum(x.ahead) from credit_note_line x
                                join credit_note k on k.id = x.credit_note_id
                                where k.invoice_id = i.id and x.invoice_line_no = l.line_no
                                    and k.reversed_on is null), 0) as ahead
                            from invoice_line l join invoice i on i.id = l.invoice_id
                            where l.deferred <> 0 and i.reversed_on is null) t where ahead = 0 and left_deferred <> 0\
                        """, "A line of invoice %s is fully shipped, so %s should be deferred, but %s are.")));
    }

    private Result outputVat() {
        return compare(
                Statement.OUTPUT_VAT,
                queries.invoices(),
                money(queries.outputVat()),
                ledger("output_vat"),
                new ArrayList<>());
    }

    private Result mirrors() {
        return new Result(
                Statement.MIRRORS,
                queries.mirrors(),
                null,
                null,
                failures("""
                    select m.number, 1, 0 from journal_entry m left join journal_entry o on o.number = m.mirrors
                    where m.mirrors is not null and (o.id is null or o.document_number <> m.document_number
                        or exists (select 1 from journal_entry t where t.mirrors = m.mirrors and t.id <> m.id)
                        or exists (select 1 from journal_line l where l.entry_id = o.id and not exists (select 1
                        from journal_line x
                            where x.entry_id = m.id and x.line_no = l.line_no and x.account = l.account
                                and x.role = l.role and x.amount = -l.amount))
                        or (select count(*) from journal_line l where l.entry_id = o.id) <> (select count(*)
                        from journal_line x where x.entry_id = m.id))\
                    """, "Entry" + " %s does" + " not mirror" + " its original," + " or not" + " it alone."));
    }

    /** Numbers of a year run from 1 to what the series has given. */
    private Result numbers() {
        var failures = new ArrayList<>(failures(
                gaps("invoice", 0, "INVOICE-"), "In %s, %s invoice numbers were assigned, but %s invoices exist."));
        failures.addAll(failures(
                gaps("credit_note", 1, "CREDIT_NOTE-"),
                "In %s, %s credit note numbers were assigned, but %s credit notes exist."));
        return new Result(Statement.NUMBERS, queries.invoices() + queries.creditNotes(), null, null, failures);
    }

    /** Series that begin anew each year, the year standing behind a prefix of so many reminder. */
    private static String gaps(String table, int prefix, String series) {
        return """
            select t.of_year, s.next_value - 1, t.found from (
                select substring(number, FROM_YEAR, 4) as of_year, count(distinct number) as found,
                    max(cast(substring(number, FROM_NUMBER) as bigint)) as highest
                from TABLE group by substring(number, FROM_YEAR, 4)) t
            join number_series s on s.series = concat('SERIES', t.of_year)
            where t.found <> s.next_value - 1 or t.highest <> s.next_value - 1\
            """.replace("FROM_YEAR", String.valueOf(prefix + 1))
                .replace("FROM_NUMBER", String.valueOf(prefix + 6))
                .replace("TABLE", table)
                .replace("SERIES", series);
    }

    /** An entry counts against every closing that was in force when it was posted. */
    private Result periods() {
        return new Result(
                Statement.PERIODS,
                queries.entries(),
                null,
                null,
                failures("""
                    select e.number, 0, 1 from period_closing p
                    join journal_entry e on e.entry_date <= p.through and e.posted_at > p.closed_at
                        and (p.reopened_at is null or e.posted_at < p.reopened_at)\
                    """, "Entry %s is dated in a period that" + " was closed when it was" + " posted."));
    }

    /** Streams the journal in the order of its numbers, so that its length does not matter to memory. */
    private Result hashChain() {
        var chain = new HashChain(company.currency());
        jdbc.sql("""
            select e.number, e.entry_date, e.event, e.document_kind, e.document_number, coalesce(c.code, ''),
                e.previous_hash, e.hash, l.role, l.account, l.amount
            from journal_entry e left join customer c on c.id = e.customer_id
            join journal_line l on l.entry_id = e.id order by e.id, l.line_no\
            """)
                .query((ResultSet r) -> chain.line(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        r.getString(7),
                        r.getString(8),
                        r.getString(9),
                        r.getString(10),
                        r.getBigDecimal(11)));
        chain.end(queries.lastHash(), queries.days());
        return new Result(Statement.HASH_CHAIN, chain.entries(), null, null, chain.failures());
    }

    /**
     * Orders of a customer that carry the same PO, in reminder or in the normal form, while the policy that holds for
     * the customer stops that; all but the first need a waiver. Where the company does not look, nothing is asked.
     */
    private Result poOnce() {
        var inForce = rules.inForce();
        var same = stops("c.po_same", inForce.po().same());
        var alike = stops("c.po_alike", inForce.po().alike());
        var reach = inForce.places().closedOrders()
                ? "(x.state = 'CLEARED' or x.ordered_on >= o.ordered_on - interval '%d' month)"
                        .formatted(inForce.places().closedMonths())
                : "x.state = 'CLEARED'";
        return new Result(
                Statement.PO_ONCE,
                queries.ordersWithPo(),
                null,
                null,
                failures(
                        """
                        select o.number, 0, 1 from sales_order o join customer c on c.id = o.customer_id
                        where o.po_normal <> '' and o.po_taken is not null and o.state in ('CLEARED', 'COMPLETED',
                            'CLOSED_SHORT')
                          and (c.po_own = false or c.po_ceiling is null)
                          and exists (select 1 from sales_order x where x.customer_id = o.customer_id
                              and x.po_normal = o.po_normal and x.id <> o.id and x.po_taken < o.po_taken
                              and x.state in ('CLEARED', 'COMPLETED', 'CLOSED_SHORT') and REACH
                                  and coalesce(x.split_of, x.id) <> coalesce(o.split_of, o.id)
                              and (x.agreement_id is null or o.agreement_id is null or x.agreement_id <> o.agreement_id)
                              and (x.po = o.po and SAME or x.po <> o.po and ALIKE))
                          and not exists (select 1 from finding f where f.order_id = o.id
                              and f.check_code = 'duplicate-po' and f.waived_by is not null)\
                        """.replace("REACH", reach).replace("SAME", same).replace("ALIKE", alike),
                        "Order %s has the PO of an earlier order, without a waiver."));
    }

    /** Dates of documents against those of what they come from, and against the day on which they were written. */
    private Result datesInOrder() {
        return new Result(
                Statement.DATES_IN_ORDER,
                queries.orders() + queries.entries(),
                null,
                null,
                failures("""
                    select number, 0, 1 from (
                        select d.number from dispatch d join sales_order o on o.id = d.order_id
                        where d.departed_on < o.ordered_on
                        union all
                        select i.number from invoice i join invoice_line l on l.invoice_id = i.id
                        join sales_order o on o.id = l.root_order_id where i.invoiced_on < o.ordered_on
                        union all
                        select i.number from invoice i join invoice_line l on l.invoice_id = i.id
                        join invoice_line_source s on s.invoice_line_id = l.id and s.ahead = false
                        join dispatch d on d.id = s.dispatch_id where i.invoiced_on < d.departed_on
                        union all
                        select i.number from invoice i where i.reversed_on < i.invoiced_on
                        union all
                        select d.number from dispatch d where d.reversed_on < d.departed_on
                        union all
                        select g.number from goods_return g join return_line l on l.return_id = g.id
                        join return_part p on p.return_line_id = l.id join dispatch d on d.id = l.dispatch_id
                        where p.received_on < d.departed_on
                        union all
                        select g.number from goods_return g join return_line l on l.return_id = g.id
                        join return_part p on p.return_line_id = l.id join return_outcome x on x.part_id = p.id
                        where x.decided_on < p.received_on
                        union all
                        select k.number from credit_note k join invoice i on i.id = k.invoice_id
                        where k.credited_on < i.invoiced_on
                        union all
                        select p.number from allocation a join payment p on p.id = a.payment_id
                        join invoice i on i.id = a.invoice_id
                        where a.allocated_on < p.received_on or a.allocated_on < i.invoiced_on
                        union all
                        select d.number from deposit_use u join deposit d on d.id = u.deposit_id
                        left join invoice i on i.id = u.invoice_id
                        where u.used_on < d.received_on or u.used_on < i.invoiced_on
                        union all
                        select r.number from refund r where r.reversed_on < r.refunded_on
                        union all
                        select o.number from order_version v join sales_order o on o.id = v.order_id
                        where v.changed_on < o.ordered_on
                        union all
                        select e.number from journal_entry e where e.entry_date > e.written_on) t\
                    """, "%s is dated before something that it comes from, or after the day it was written."));
    }

    /** The state of an order at a moment is the last one that its history names before it. */
    private Result wasCleared() {
        return new Result(
                Statement.WAS_CLEARED,
                queries.departedAndInvoiced(),
                null,
                null,
                failures("""
                    select document_number, 0, 1 from (
                        select h.document_number, (select s.state_to from history s where s.moment = (
                            select max(m.moment) from history m
                            where m.order_id = h.order_id and m.moment < h.moment
                                and m.state_to is not null)) as then_state
                        from history h where h.event in ('departed', 'invoiced')) t
                    where then_state is null or then_state <> 'CLEARED'\
                    """, "Document %s was made of an order that" + " was not cleared then."));
    }

    private static String stops(String own, Severity house) {
        return "(c.po_own = true and %s = 'STOP' or c.po_own = false and %s)".formatted(own, house == Severity.STOP);
    }

    private Result compare(
            Statement statement, long examined, BigDecimal documents, BigDecimal ledger, List<Failure> failures) {
        agree(documents, ledger, statement.words() + ": by documents %s, in the ledger %s.", failures);
        return new Result(statement, examined, documents, ledger, failures);
    }

    /** Notes that two sums differ, if they do. */
    private static void agree(BigDecimal documents, BigDecimal ledger, String sentence, List<Failure> failures) {
        if (documents.compareTo(ledger) != 0) {
            failures.add(new Failure(
                    "", documents, ledger, sentence.formatted(documents.toPlainString(), ledger.toPlainString())));
        }
    }

    private List<Failure> failures(String sql, String sentence) {
        return jdbc.sql(sql + " fetch first " + NAMED + " rows only")
                .query((r, n) -> new Failure(
                        r.getString(1),
                        r.getBigDecimal(2),
                        r.getBigDecimal(3),
                        sentence.formatted(
                                r.getString(1), Figures.plain(r.getBigDecimal(2)), Figures.plain(r.getBigDecimal(3)))))
                .list();
    }

    private BigDecimal ledger(String role) {
        return money(queries.inLedger(role));
    }

    private BigDecimal money(BigDecimal sum) {
        return company.money(sum).amount();
    }
}
