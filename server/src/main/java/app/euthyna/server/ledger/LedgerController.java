package app.euthyna.server.ledger;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Journal, balances and posting map over HTTP. */
@RestController
@RequestMapping("/api/ledger")
class LedgerController {

    private final JdbcClient jdbc;
    private final Company company;

    LedgerController(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
    }

    record EntryLineView(String role, String account, String accountName, BigDecimal debit, BigDecimal credit) {
    }

    record EntryView(String number, LocalDate date, String event, String documentKind, String documentNumber, String customerName,
            String postedBy, String hash, List<EntryLineView> lines) {
    }

    record EntryPage(List<EntryView> rows, String next) {
    }

    record BalanceView(String account, String name, BigDecimal opening, BigDecimal debit, BigDecimal credit, BigDecimal closing) {
    }

    record BalancesView(LocalDate from, LocalDate to, List<BalanceView> rows) {
    }

    record RoleBalanceView(String role, BigDecimal balance) {
    }

    record PostingRuleView(String role, String customerClass, String itemClass, String site, String vat, String account,
            String accountName) {
    }

    /**
     * Entries, newest first.
     *
     * @param document only those of one document
     * @param account only those that touch an account
     */
    @GetMapping("/entries")
    EntryPage entries(@RequestParam(required = false) String document, @RequestParam(required = false) String account,
            @RequestParam(required = false) LocalDate from, @RequestParam(required = false) LocalDate to,
            @RequestParam(required = false) String after) {
        var parameters = new ArrayList<Object>();
        var where = new StringBuilder("1 = 1");
        condition(where, parameters, " and e.document_number = ?", document);
        condition(where, parameters, " and exists (select 1 from journal_line x where x.entry_id = e.id and x.account = ?)", account);
        condition(where, parameters, " and e.entry_date >= ?", from);
        condition(where, parameters, " and e.entry_date <= ?", to);
        condition(where, parameters, " and e.id < ?", after == null ? null : Pages.key(after).number(0));
        return page(where.toString(), parameters);
    }

    private static void condition(StringBuilder where, List<Object> parameters, String sql, Object value) {
        if (value != null) {
            where.append(sql);
            parameters.add(value);
        }
    }

    @GetMapping("/entries/{number}")
    EntryView entry(@PathVariable String number) {
        return page("e.number = ?", List.of(number)).rows().stream().findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("entry", number)));
    }

    private EntryPage page(String where, List<Object> parameters) {
        var rows = jdbc.sql("select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, c.name, e.posted_by, e.hash "
                + "from journal_entry e left join customer c on c.id = e.customer_id where " + where
                + " order by e.id desc fetch first 101 rows only").params(parameters)
                .query((r, n) -> new Keyed(r.getLong(1), new EntryView(r.getString(2), r.getObject(3, LocalDate.class), r.getString(4),
                        r.getString(5), r.getString(6), r.getString(7), r.getString(8), r.getString(9), List.of()))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        if (page.rows().isEmpty()) {
            return new EntryPage(List.of(), null);
        }
        var lines = jdbc.sql("""
                select l.entry_id, l.role, l.account, a.name, l.amount from journal_line l join account a on a.code = l.account
                where l.entry_id in (:ids) order by l.entry_id, l.line_no""").param("ids", page.rows().stream().map(Keyed::id).toList())
                .query((r, n) -> new KeyedLine(r.getLong(1), line(r.getString(2), r.getString(3), r.getString(4), r.getBigDecimal(5))))
                .list().stream().collect(Collectors.groupingBy(KeyedLine::entry));
        return new EntryPage(page.rows().stream().map(k -> new EntryView(k.row().number(), k.row().date(), k.row().event(),
                k.row().documentKind(), k.row().documentNumber(), k.row().customerName(), k.row().postedBy(), k.row().hash(),
                lines.get(k.id()).stream().map(KeyedLine::line).toList())).toList(), page.next());
    }

    private EntryLineView line(String role, String account, String name, BigDecimal amount) {
        var money = company.money(amount);
        var zero = money.minus(money);
        return new EntryLineView(role, account, name, money.max(zero).amount(), money.negated().max(zero).amount());
    }

    private record Keyed(long id, EntryView row) {
    }

    private record KeyedLine(long entry, EntryLineView line) {
    }

    /** What each account had before, and took on each side between two dates; accounts that never moved are left out. */
    @GetMapping("/balances")
    BalancesView balances(@RequestParam LocalDate from, @RequestParam LocalDate to) {
        var rows = jdbc.sql("""
                select l.account, a.name,
                       sum(case when l.entry_date < :from then l.amount else 0 end),
                       sum(case when l.entry_date >= :from and l.amount > 0 then l.amount else 0 end),
                       sum(case when l.entry_date >= :from and l.amount < 0 then -l.amount else 0 end)
                from journal_line l join account a on a.code = l.account where l.entry_date <= :to
                group by l.account, a.name order by l.account""").param("from", from).param("to", to).query((r, n) -> {
            var opening = company.money(r.getBigDecimal(3));
            var debit = company.money(r.getBigDecimal(4));
            var credit = company.money(r.getBigDecimal(5));
            return new BalanceView(r.getString(1), r.getString(2), opening.amount(), debit.amount(), credit.amount(),
                    opening.plus(debit).minus(credit).amount());
        }).list();
        return new BalancesView(from, to, rows);
    }

    /** Balance of every account role, debit positive. */
    @GetMapping("/role-balances")
    List<RoleBalanceView> roleBalances() {
        return jdbc.sql("select role, sum(amount) from journal_line group by role order by role")
                .query((r, n) -> new RoleBalanceView(r.getString(1), company.money(r.getBigDecimal(2)).amount())).list();
    }

    @GetMapping("/posting-map")
    List<PostingRuleView> postingMap() {
        return jdbc.sql("""
                select p.role, p.customer_class, p.item_class, p.site, p.vat, p.account, a.name from posting_rule p
                join account a on a.code = p.account order by p.account, p.id""")
                .query((r, n) -> new PostingRuleView(r.getString(1), r.getString(2), r.getString(3), r.getString(4), r.getString(5),
                        r.getString(6), r.getString(7))).list();
    }
}
