package app.euthyna.server.returns;

import app.euthyna.core.returns.ReturnRate;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What of the goods that left between two days came back in that time: by item, customer or reason. */
@RestController
@RequestMapping("/api/return-rates")
class ReturnRates {

    private static final int MOST = 50;

    private final ReturnQueries queries;
    private final CompanyRulesStore rules;
    private final Commands commands;
    private final Company company;

    ReturnRates(ReturnQueries queries, CompanyRulesStore rules, Commands commands, Company company) {
        this.queries = queries;
        this.rules = rules;
        this.commands = commands;
        this.company = company;
    }

    /** By what returns are counted. */
    enum RateBy {
        ITEM,
        CUSTOMER,
        REASON
    }

    /**
     * What came back of one item, from one customer or for one reason, less what was sent to the customer again.
     *
     * @param quantity null where different items would be added up
     * @param value at cost
     * @param left value at cost of what left, of the item or for the customer; for a reason, all that came back
     * @param percent null where nothing left
     */
    record RateRow(
            String code,
            String name,
            long returns,
            @Nullable BigDecimal quantity,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal left,
            @Nullable BigDecimal percent) {}

    /** The largest first, at most 50; with all that came back and left in the time. */
    record RateTable(
            LocalDate from,
            LocalDate to,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal left,
            BigDecimal percent,
            List<RateRow> rows) {}

    private record Back(long id, String code, String name, long returns, BigDecimal quantity, BigDecimal value) {}

    @GetMapping
    RateTable rates(
            @RequestParam(defaultValue = "ITEM") RateBy by,
            @RequestParam(required = false) LocalDate from,
            @RequestParam(required = false) LocalDate to) {
        var until = to == null ? commands.context().date() : to;
        var since = from == null ? until.minusDays(90) : from;
        if (since.isAfter(until) || since.plusYears(2).isBefore(until)) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("from", "a day before the last, and not more than two years"));
        }
        var back = queries.back(by, since, until).stream()
                .map(row -> new Back(
                        row.id(),
                        row.code(),
                        row.name(),
                        row.returns(),
                        new Quantity(row.quantity()).value(),
                        row.worth()))
                .toList();
        var all = back.stream().map(Back::value).reduce(BigDecimal.ZERO, BigDecimal::add);
        var gone = queries.gone(since, until);
        var largest = back.stream().limit(MOST).toList();
        var rows = switch (by) {
            case ITEM -> {
                var left = byId(queries.goneByItem(since, until));
                yield largest.stream()
                        .map(row -> row(row, row.name(), row.quantity(), left.getOrDefault(row.id(), BigDecimal.ZERO)))
                        .toList();
            }
            case CUSTOMER -> {
                var left = byId(queries.goneByCustomer(since, until));
                yield largest.stream()
                        .map(row -> row(row, row.name(), null, left.getOrDefault(row.id(), BigDecimal.ZERO)))
                        .toList();
            }
            case REASON ->
                largest.stream()
                        .map(row -> row(
                                row,
                                rules.inForce().returns().reason(row.code()).words(),
                                null,
                                all))
                        .toList();
        };
        return new RateTable(
                since,
                until,
                amount(all),
                amount(gone),
                new ReturnRate(all, gone).percent().orElse(null),
                rows);
    }

    private RateRow row(Back back, String name, BigDecimal quantity, BigDecimal left) {
        return new RateRow(
                back.code(),
                name,
                back.returns(),
                quantity,
                amount(back.value()),
                amount(left),
                new ReturnRate(back.value(), left).percent().orElse(null));
    }

    /** Value at cost of what left, by item or customer. */
    private static Map<Long, BigDecimal> byId(List<ReturnQueries.GoneRow> gone) {
        return gone.stream().collect(Collectors.toMap(ReturnQueries.GoneRow::id, ReturnQueries.GoneRow::cost));
    }

    private BigDecimal amount(BigDecimal stored) {
        return company.money(stored).amount();
    }
}
