package app.euthyna.server.ledger;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Journal, balances and posting map over HTTP. */
@RestController
@RequestMapping("/api/ledger")
class LedgerController {

    private final LedgerQueries queries;
    private final Company company;

    LedgerController(LedgerQueries queries, Company company) {
        this.queries = queries;
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
        return page(queries.page(
                null,
                document,
                account,
                from,
                to,
                after == null ? null : Pages.key(after).number(0)));
    }

    @GetMapping("/entries/{number}")
    EntryView entry(@PathVariable String number) {
        return page(queries.page(number, null, null, null, null, null)).rows().stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("entry", number)));
    }

    private EntryPage page(List<LedgerQueries.EntryRow> rows) {
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        if (page.rows().isEmpty()) {
            return new EntryPage(List.of(), null);
        }
        var lines = queries
                .lines(Many.ids(
                        page.rows().stream().map(LedgerQueries.EntryRow::id).toList()))
                .stream()
                .collect(Collectors.groupingBy(
                        LedgerQueries.LineRow::entryId, Collectors.mapping(this::line, Collectors.toList())));
        return new EntryPage(
                page.rows().stream()
                        .map(row -> new EntryView(
                                row.number(),
                                row.entryDate(),
                                row.event(),
                                row.documentKind(),
                                row.documentNumber(),
                                row.customerName(),
                                row.postedBy(),
                                row.hash(),
                                row.previousHash(),
                                row.mirrors(),
                                row.mirroredBy(),
                                row.remark(),
                                lines.getOrDefault(row.id(), List.of())))
                        .toList(),
                page.next());
    }

    private EntryLineView line(LedgerQueries.LineRow row) {
        var money = company.money(row.amount());
        var zero = money.minus(money);
        return new EntryLineView(
                row.role(),
                row.account(),
                row.name(),
                money.max(zero).amount(),
                money.negated().max(zero).amount(),
                List.of(Records.read(row.explained(), LedgerSink.Explanation[].class, new LedgerSink.Explanation[0])));
    }

    /** An account's movements between two dates, oldest first, each with the balance behind it. */
    @GetMapping("/accounts/{account}/sheet")
    AccountSheetView sheet(
            @PathVariable String account,
            @RequestParam LocalDate from,
            @RequestParam LocalDate to,
            @RequestParam(required = false) String after) {
        var name = queries.accountName(account)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("account", account)));
        var key = after == null ? null : Pages.key(after);
        var opening = company.money(key == null ? queries.balanceBefore(account, from) : key.figure(2));
        var found = queries.sheet(
                account, from, to, key == null ? from.minusDays(1) : key.date(0), key == null ? 0 : key.number(1));
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
                    row.entryDate(),
                    row.event(),
                    row.documentKind(),
                    row.documentNumber(),
                    row.customerName(),
                    amount.max(zero).amount(),
                    amount.negated().max(zero).amount(),
                    balance.amount()));
        }
        var page = Pages.of(rows, last -> {
            var at = Pages.SIZE - 1;
            return List.of(
                    found.get(at).entryDate().toString(),
                    String.valueOf(found.get(at).id()),
                    balances.get(at).amount().toPlainString());
        });
        return new AccountSheetView(account, name, from, to, opening.amount(), page.rows(), page.next());
    }

    /**
     * What each account had before, and took on each side between two dates; accounts that never moved are left out.
     */
    @GetMapping("/balances")
    BalancesView balances(@RequestParam LocalDate from, @RequestParam LocalDate to) {
        var rows = queries.balances(from, to).stream()
                .map(row -> {
                    var opening = company.money(row.opening());
                    var debit = company.money(row.debit());
                    var credit = company.money(row.credit());
                    return new BalanceView(
                            row.account(),
                            row.name(),
                            opening.amount(),
                            debit.amount(),
                            credit.amount(),
                            opening.plus(debit).minus(credit).amount());
                })
                .toList();
        return new BalancesView(from, to, rows);
    }

    /** Balance of every account role, debit positive. */
    @GetMapping("/role-balances")
    List<RoleBalanceView> roleBalances() {
        return queries.roleBalances().stream()
                .map(row -> new RoleBalanceView(
                        row.role(), company.money(row.amount()).amount()))
                .toList();
    }

    @GetMapping("/posting-map")
    List<PostingRuleView> postingMap() {
        return queries.postingMap().stream()
                .map(row -> new PostingRuleView(
                        row.role(),
                        row.customerClass(),
                        row.itemClass(),
                        row.site(),
                        row.vat(),
                        row.account(),
                        row.name()))
                .toList();
    }
}
