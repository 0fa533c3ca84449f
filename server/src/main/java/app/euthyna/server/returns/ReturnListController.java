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
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists of returns: all, and those that wait for something. */
@RestController
@RequestMapping("/api/returns")
class ReturnListController {

    private final ReturnQueries queries;
    private final Commands commands;
    private final Company company;
    private final CompanyRulesStore rules;

    ReturnListController(ReturnQueries queries, Commands commands, Company company, CompanyRulesStore rules) {
        this.queries = queries;
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
        EXPECTED("g.expects = true", "authorisedOn"),
        INSPECTING("g.inspecting = true", "receivedOn"),
        TO_CREDIT("g.creditDue > 0", "receivedOn"),
        AHEAD("g.creditedAhead > 0", "authorisedOn");

        /** A condition of a return {@code g}. */
        final String which;
        /** Since when it waits. */
        final String since;

        ReturnLane(String which, String since) {
            this.which = which;
            this.since = since;
        }
    }

    /** All returns, the newest first; or those of a lane, the longest waiting first. */
    @GetMapping
    ReturnPage list(
            @RequestParam(required = false) ReturnLane lane,
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var today = commands.context().date();
        var found = lane == null
                ? queries.page(customer, key == null ? null : key.number(0))
                : queries.lane(
                        lane, customer, key == null ? LocalDate.EPOCH : key.date(1), key == null ? 0 : key.number(0));
        var page = Pages.of(
                found, row -> List.of(String.valueOf(row.id()), since(row, lane).toString()));
        return new ReturnPage(
                page.rows().stream()
                        .map(row -> view(row, since(row, lane), today))
                        .toList(),
                page.next());
    }

    private static LocalDate since(ReturnQueries.ListedRow row, ReturnLane lane) {
        return (lane != null && lane.since.equals("authorisedOn")) || row.receivedOn() == null
                ? row.authorisedOn()
                : row.receivedOn();
    }

    private ReturnRow view(ReturnQueries.ListedRow row, LocalDate since, LocalDate today) {
        var state = row.inspecting()
                ? "IN_INSPECTION"
                : row.expects() ? "EXPECTED" : row.receivedOn() == null ? "WITHDRAWN" : "RECEIVED";
        return new ReturnRow(
                row.number(),
                row.customer(),
                row.customerName(),
                row.authorisedOn(),
                row.reasonCode(),
                rules.inForce().returns().reason(row.reasonCode()).words(),
                state,
                row.receivedOn(),
                ChronoUnit.DAYS.between(since, today),
                company.money(row.creditDue()).amount(),
                company.money(row.creditedAhead()).amount(),
                row.reminders(),
                row.remindedOn());
    }
}
