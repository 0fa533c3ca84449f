package app.euthyna.server.returns;

import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists of returns: all, and those that wait for something. */
@RestController
@RequestMapping("/api/returns")
class ReturnListController {

    private final JdbcClient jdbc;
    private final Commands commands;
    private final Company company;
    private final CompanyRulesStore rules;

    ReturnListController(JdbcClient jdbc, Commands commands, Company company, CompanyRulesStore rules) {
        this.jdbc = jdbc;
        this.commands = commands;
        this.company = company;
        this.rules = rules;
    }

    /**
     * A return in a list.
     *
     * @param days since it was authorised or, once something has come, received
     * @param creditDue net value of billed goods that are here and not credited
     * @param creditedAhead net value of what was credited and is not here
     */
    record ReturnRow(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            String reason,
            String reasonWords,
            String state,
            @Nullable LocalDate receivedOn,
            long days,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal creditDue,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal creditedAhead,
            int reminders,
            @Nullable LocalDate remindedOn) {}

    record ReturnPage(List<ReturnRow> rows, @Nullable String next) {}

    /** What returns may wait for. */
    enum ReturnLane {
        EXPECTED("g.expects = true", "authorised_on"),
        INSPECTING("g.inspecting = true", "received_on"),
        TO_CREDIT("g.credit_due > 0", "received_on"),
        AHEAD("g.credited_ahead > 0", "authorised_on");

        private final String which;
        private final String since;

        ReturnLane(String which, String since) {
            this.which = which;
            this.since = since;
        }
    }

    private record Keyed(long id, LocalDate since, ReturnRow row) {}

    /** All returns, the newest first; or those of a lane, the longest waiting first. */
    @GetMapping
    ReturnPage list(
            @RequestParam(required = false) ReturnLane lane,
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var where = new StringBuilder();
        var parameters = new ArrayList<Object>();
        if (lane == null) {
            where.append("g.id < ?");
            parameters.add(key == null ? Long.MAX_VALUE : key.number(0));
        } else {
            var since = key == null ? LocalDate.EPOCH : key.date(1);
            where.append("%1$s and (g.%2$s > ? or g.%2$s = ? and g.id > ?)".formatted(lane.which, lane.since));
            parameters.addAll(List.of(since, since, key == null ? 0L : key.number(0)));
        }
        if (customer != null) {
            where.append(" and c.code = ?");
            parameters.add(customer);
        }
        var today = commands.context().date();
        var reasons = rules.inForce().returns();
        var rows = jdbc.sql("""
                        select g.id, g.number, c.code, c.name, g.authorised_on, g.reason_code, g.received_on,
                            g.withdrawn, g.expects, g.inspecting, g.credit_due, g.credited_ahead, g.reminders,
                                g.reminded_on
                        from goods_return g join customer c on c.id = g.customer_id where \
                        """ + where + " order"
                        + " by " + (lane == null ? "g.id desc" : "g." + lane.since + ", g.id")
                        + " fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> {
                    var authorised = r.getObject("authorised_on", LocalDate.class);
                    var received = r.getObject("received_on", LocalDate.class);
                    var since = (lane != null && lane.since.equals("authorised_on")) || received == null
                            ? authorised
                            : received;
                    var state = r.getBoolean("inspecting")
                            ? "IN_INSPECTION"
                            : r.getBoolean("expects") ? "EXPECTED" : received == null ? "WITHDRAWN" : "RECEIVED";
                    return new Keyed(
                            r.getLong("id"),
                            since,
                            new ReturnRow(
                                    r.getString("number"),
                                    r.getString("code"),
                                    r.getString("name"),
                                    authorised,
                                    r.getString("reason_code"),
                                    reasons.reason(r.getString("reason_code")).words(),
                                    state,
                                    received,
                                    ChronoUnit.DAYS.between(since, today),
                                    company.money(r.getBigDecimal("credit_due")).amount(),
                                    company.money(r.getBigDecimal("credited_ahead"))
                                            .amount(),
                                    r.getInt("reminders"),
                                    r.getObject("reminded_on", LocalDate.class)));
                })
                .list();
        var page = Pages.of(
                rows, row -> List.of(String.valueOf(row.id()), row.since().toString()));
        return new ReturnPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }
}
