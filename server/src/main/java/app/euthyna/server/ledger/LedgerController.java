package app.euthyna.server.ledger;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
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

    /**
     * An amount on an account.
     *
     * @param explained how it came by the account; empty for manual entries and mirrors
     */
    record EntryLineView(
            String role,
            String account,
            String accountName,
            BigDecimal debit,
            BigDecimal credit,
            List<LedgerSink.Explanation> explained) {}

    /**
     * An entry.
     *
     * @param mirrors the entry that it undoes; null for most
     * @param mirroredBy the entry that undoes it; null for most
     */
    record EntryView(
            String number,
            LocalDate date,
            String event,
            String documentKind,
            String documentNumber,
            @Nullable String customerName,
            String postedBy,
            String hash,
            String previousHash,
            @Nullable String mirrors,
            @Nullable String mirroredBy,
            String remark,
            List<EntryLineView> lines) {}

    /** A line of an account's sheet with the balance behind it. */
    record SheetLineView(
            String entry,
            LocalDate date,
            String event,
            String documentKind,
            String documentNumber,
            String customerName,
            BigDecimal debit,
            BigDecimal credit,
            BigDecimal balance) {}

    /** An account's movements between two dates, with the balance before the first of the page. */
    record AccountSheetView(
            String account,
            String name,
            LocalDate from,
            LocalDate to,
            BigDecimal opening,
            List<SheetLineView> rows,
            @Nullable String next) {}

    record EntryPage(List<EntryView> rows, @Nullable String next) {}

    record BalanceView(
            String account, String name, BigDecimal opening, BigDecimal debit, BigDecimal credit, BigDecimal closing) {}

    record BalancesView(LocalDate from, LocalDate to, List<BalanceView> rows) {}

    record RoleBalanceView(String role, BigDecimal balance) {}

    record PostingRuleView(
            String role,
            String customerClass,
            String itemClass,
            String site,
            String vat,
            String account,
            String accountName) {}

    /**
     * Entries, newest first.
     *
     * @param document only those of one document
     * @param account only those that touch an account
     */
    @GetMapping("/entries")
    EntryPage entries(
            @RequestParam(required = false) String document,
            @RequestParam(required = false) String account,
            @RequestParam(required = false) LocalDate from,
            @RequestParam(required = false) LocalDate to,
            @RequestParam(required = false) String after) {
        var parameters = new ArrayList<Object>();
        var where = new StringBuilder("1 = 1");
        condition(where, parameters, " and e.document_number = ?", document);
        condition(
                where,
                parameters,
                " and exists (select 1 from journal_line x where x.entry_id = e.id and x.account = ?)",
                account);
        condition(where, parameters, " and e.entry_date >= ?", from);
        condition(where, parameters, " and e.entry_date <= ?", to);
        condition(
                where,
                parameters,
                " and e.id < ?",
                after == null ? null : Pages.key(after).number(0));
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
        return page("e.number = ?", List.of(number)).rows().stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("entry", number)));
    }

    private EntryPage page(String where, List<Object> parameters) {
        var rows = jdbc.sql("select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, c.name,"
                        + " e.posted_by, e.hash, e.previous_hash, e.mirrors, (select m.number from journal_entry m"
                        + " where m.mirrors = e.number), e.remark from journal_entry e left join customer c on"
                        + " c.id = e.customer_id where " + where
                        + " order by e.id desc fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        new EntryView(
                                r.getString(2),
                                r.getObject(3, LocalDate.class),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6),
                                r.getString(7),
                                r.getString(8),
                                r.getString(9),
                                r.getString(10),
                                r.getString(11),
                                r.getString(12),
                                r.getString(13),
                                List.of())))
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        if (page.rows().isEmpty()) {
            return new EntryPage(List.of(), null);
        }
        var lines = jdbc
                .sql("""
                    select l.entry_id, l.role, l.account, a.name, l.amount, l.explained from journal_line l
                    join account a on a.code = l.account
                    where l.entry_id in (:ids) order by l.entry_id, l.line_no\
                    """)
                .param("ids", page.rows().stream().map(Keyed::id).toList())
                .query((r, n) -> new KeyedLine(
                        r.getLong(1),
                        line(r.getString(2), r.getString(3), r.getString(4), r.getBigDecimal(5), r.getString(6))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(KeyedLine::entry));
        return new EntryPage(
                page.rows().stream()
                        .map(k -> new EntryView(
                                k.row().number(),
                                k.row().date(),
                                k.row().event(),
                                k.row().documentKind(),
                                k.row().documentNumber(),
                                k.row().customerName(),
                                k.row().postedBy(),
                                k.row().hash(),
                                k.row().previousHash(),
                                k.row().mirrors(),
                                k.row().mirroredBy(),
                                k.row().remark(),
                                lines.get(k.id()).stream().map(KeyedLine::line).toList()))
                        .toList(),
                page.next());
    }

    private EntryLineView line(String role, String account, String name, BigDecimal amount, String explained) {
        var money = company.money(amount);
        var zero = money.minus(money);
        return new EntryLineView(
                role,
                account,
                name,
                money.max(zero).amount(),
                money.negated().max(zero).amount(),
                List.of(Records.read(explained, LedgerSink.Explanation[].class, new LedgerSink.Explanation[0])));
    }

    /** An account's movements between two dates, oldest first, each with the balance behind it. */
    @GetMapping("/accounts/{account}/sheet")
    AccountSheetView sheet(
            @PathVariable String account,
            @RequestParam LocalDate from,
            @RequestParam LocalDate to,
            @RequestParam(required = false) String after) {
        var name = jdbc.sql("select name from account where code = ?")
                .param(account)
                .query(String.class)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("account", account)));
        var key = after == null ? null : Pages.key(after);
        var opening = company.money(
                key == null
                        ? jdbc.sql("select coalesce(sum(amount), 0) from journal_line where account = ? and"
                                        + " entry_date < ?")
                                .params(account, from)
                                .query(BigDecimal.class)
                                .single()
                        : key.figure(2));
        record Row(
                long id,
                String entry,
                LocalDate date,
                String event,
                String kind,
                String number,
                String customer,
                BigDecimal amount) {}
        var found = jdbc.sql("""
            select l.id, e.number, l.entry_date, e.event, e.document_kind, e.document_number, c.name, l.amount
            from journal_line l
            join journal_entry e on e.id = l.entry_id left join customer c on c.id = e.customer_id
            where l.account = ? and l.entry_date >= ? and l.entry_date <= ? and (l.entry_date > ?
                or l.entry_date = ? and l.id > ?)
            order by l.account, l.entry_date, l.id fetch first 101 rows only\
            """)
                .params(
                        account,
                        from,
                        to,
                        key == null ? from.minusDays(1) : key.date(0),
                        key == null ? from.minusDays(1) : key.date(0),
                        key == null ? 0 : key.number(1))
                .query((r, n) -> new Row(
                        r.getLong(1),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        r.getString(7),
                        r.getBigDecimal(8)))
                .list();
        var rows = new ArrayList<SheetLineView>();
        var balances = new ArrayList<Money>();
        var balance = opening;
        for (var row : found) {
            var amount = company.money(row.amount());
            var zero = amount.minus(amount);
            balance = balance.plus(amount);
            balances.add(balance);
            rows.add(new SheetLineView(
                    row.entry(),
                    row.date(),
                    row.event(),
                    row.kind(),
                    row.number(),
                    row.customer(),
                    amount.max(zero).amount(),
                    amount.negated().max(zero).amount(),
                    balance.amount()));
        }
        var page = Pages.of(rows, last -> {
            var at = Pages.SIZE - 1;
            return List.of(
                    found.get(at).date().toString(),
                    String.valueOf(found.get(at).id()),
                    balances.get(at).amount().toPlainString());
        });
        return new AccountSheetView(account, name, from, to, opening.amount(), page.rows(), page.next());
    }

    private record Keyed(long id, EntryView row) {}

    private record KeyedLine(long entry, EntryLineView line) {}

    /**
     * What each account had before, and took on each side between two dates; accounts that never moved are left out.
     */
    @GetMapping("/balances")
    BalancesView balances(@RequestParam LocalDate from, @RequestParam LocalDate to) {
        var rows = jdbc.sql("""
            select l.account, a.name,
                   sum(case when l.entry_date < :from then l.amount else 0 end),
                   sum(case when l.entry_date >= :from and l.amount > 0 then l.amount else 0 end),
                   sum(case when l.entry_date >= :from and l.amount < 0 then -l.amount else 0 end)
            from journal_line l join account a on a.code = l.account where l.entry_date <= :to
            group by l.account, a.name order by l.account\
            """)
                .param("from", from)
                .param("to", to)
                .query((r, n) -> {
                    var opening = company.money(r.getBigDecimal(3));
                    var debit = company.money(r.getBigDecimal(4));
                    var credit = company.money(r.getBigDecimal(5));
                    return new BalanceView(
                            r.getString(1),
                            r.getString(2),
                            opening.amount(),
                            debit.amount(),
                            credit.amount(),
                            opening.plus(debit).minus(credit).amount());
                })
                .list();
        return new BalancesView(from, to, rows);
    }

    /** Balance of every account role, debit positive. */
    @GetMapping("/role-balances")
    List<RoleBalanceView> roleBalances() {
        return jdbc.sql("select role, sum(amount) from journal_line group by role order by role")
                .query((r, n) -> new RoleBalanceView(
                        r.getString(1), company.money(r.getBigDecimal(2)).amount()))
                .list();
    }

    @GetMapping("/posting-map")
    List<PostingRuleView> postingMap() {
        return jdbc.sql("""
            select p.role, p.customer_class, p.item_class, p.site, p.vat, p.account, a.name from posting_rule p
            join account a on a.code = p.account order by p.account, p.id\
            """)
                .query((r, n) -> new PostingRuleView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        r.getString(7)))
                .list();
    }
}
