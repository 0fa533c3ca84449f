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
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What of the goods that left between two days came back in that time: by item, customer or reason. */
@RestController
@RequestMapping("/api/return-rates")
class ReturnRates {

    private static final int MOST = 50;

    private final JdbcClient jdbc;
    private final CompanyRulesStore rules;
    private final Commands commands;
    private final Company company;

    ReturnRates(JdbcClient jdbc, CompanyRulesStore rules, Commands commands, Company company) {
        this.jdbc = jdbc;
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
        var group = switch (by) {
            case ITEM -> "i.id, i.code, i.name";
            case CUSTOMER -> "c.id, c.code, c.name";
            case REASON -> "0, g.reason_code, g.reason_code";
        };
        var back = jdbc.sql("select " + group + """
                        , count(distinct g.id) as returns, sum(p.quantity - coalesce(x.quantity, 0)) as quantity,
                            sum(p.cost - coalesce(x.cost, 0)) as worth
                        from return_part p join return_line l on l.id = p.return_line_id
                        join goods_return g on g.id = l.return_id join item i on i.id = l.item_id
                        join customer c on c.id = g.customer_id
                        left join (select o.part_id, sum(o.quantity) as quantity, sum(o.cost) as cost
                        from return_outcome o where o.kind = 'SEND_BACK' group by o.part_id) x on x.part_id = p.id
                        where p.received_on between ? and ? group by \
                        """ + (by == RateBy.REASON ? "g.reason_code" : group)
                        + " having sum(p.quantity - coalesce(x.quantity, 0)) > 0 order by worth desc, 2")
                .params(since, until)
                .query((r, n) -> new Back(
                        r.getLong(1),
                        r.getString(2),
                        r.getString(3),
                        r.getLong(4),
                        new Quantity(r.getBigDecimal(5)).value(),
                        r.getBigDecimal(6)))
                .list();
        var all = back.stream().map(Back::value).reduce(BigDecimal.ZERO, BigDecimal::add);
        var gone = gone("0", since, until).getOrDefault(0L, BigDecimal.ZERO);
        var largest = back.stream().limit(MOST).toList();
        var rows = switch (by) {
            case ITEM -> {
                var left = gone("l.item_id", since, until);
                yield largest.stream()
                        .map(row -> row(row, row.name(), row.quantity(), left.getOrDefault(row.id(), BigDecimal.ZERO)))
                        .toList();
            }
            case CUSTOMER -> {
                var left = gone("o.customer_id", since, until);
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
    private Map<Long, BigDecimal> gone(String by, LocalDate from, LocalDate to) {
        var gone = new HashMap<Long, BigDecimal>();
        jdbc.sql(
                        "select BY, sum(l.cost) from dispatch d join dispatch_line l on l.dispatch_id = d.id join sales_order o on o.id = d.order_id "
                                        .replace("BY", by)
                                + "where d.state = 'DEPARTED' and d.departed_on between ? and ?"
                                + (by.equals("0") ? "" : " group by " + by))
                .params(from, to)
                .query((r, n) -> r.getBigDecimal(2) == null ? null : gone.put(r.getLong(1), r.getBigDecimal(2)))
                .list();
        return gone;
    }

    private BigDecimal amount(BigDecimal stored) {
        return company.money(stored).amount();
    }
}
