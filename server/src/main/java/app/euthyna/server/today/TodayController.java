package app.euthyna.server.today;

import app.euthyna.core.approval.Level;
import app.euthyna.core.order.AgeStrip;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.order.Writers;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import java.math.BigDecimal;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The lanes of the day, each user's own limits for them, and what happened since they last looked. */
@RestController
@RequestMapping("/api/today")
class TodayController {

    private static final int TOLD = 12;

    private final JdbcClient jdbc;
    private final Commands commands;
    private final Company company;
    private final Clock clock;

    TodayController(JdbcClient jdbc, Commands commands, Company company, Clock clock) {
        this.jdbc = jdbc;
        this.commands = commands;
        this.company = company;
        this.clock = clock;
    }

    /**
     * A lane.
     *
     * @param value null for those who do not read it
     * @param oldest since when the oldest waits; null where nothing does
     * @param ages counts for today, 1 to 2 days, 3 to 5, 6 to 10, more than 10
     * @param beyond so many wait longer than {@code limitDays}
     */
    record LaneView(
            String lane,
            long count,
            @Nullable BigDecimal value,
            @Nullable LocalDate oldest,
            List<Long> ages,
            int limitDays,
            long beyond) {}

    record EventView(OffsetDateTime at, String by, String kind, String number, String sentence) {}

    /** The day: what waits for a decision, and how much of that should leave today or should have left. */
    record TodayView(
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal undecided,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal dueToday,
            List<LaneView> lanes,
            @Nullable OffsetDateTime lookedAt,
            List<EventView> since) {}

    record LaneLimit(@NotNull @PositiveOrZero @Max(999) Integer days) {}

    record Done(boolean done) {}

    private record Day(LocalDate since, long count, BigDecimal worth) {}

    @GetMapping
    @Transactional(readOnly = true, isolation = Isolation.SERIALIZABLE)
    TodayView today() {
        var context = commands.context();
        var own = new HashMap<String, Integer>();
        jdbc.sql("select lane, days from lane_limit where username = ?")
                .param(context.person().username())
                .query((r, n) -> own.put(r.getString(1), r.getInt(2)))
                .list();
        var lanes = Arrays.stream(Lane.values())
                .filter(lane -> lane.readers().contains(context.person().role()))
                .map(lane -> view(lane, context, own.getOrDefault(lane.code(), lane.usualLimit)))
                .toList();
        var figures = jdbc.sql("""
            select coalesce(sum(x.open_gross), 0), coalesce(sum(case when x.requested_on <= ? then x.open_gross
                else 0 end), 0)
            from open_order x join sales_order o on o.id = x.order_id
            where x.reviewable = true and o.state in ('HELD', 'AWAITING_APPROVAL')\
            """)
                .param(context.date())
                .query((r, n) -> Map.entry(
                        company.money(r.getBigDecimal(1)).amount(),
                        company.money(r.getBigDecimal(2)).amount()))
                .single();
        var looked = jdbc.sql("select looked_at from last_look where username = ?")
                .param(context.person().username())
                .query(OffsetDateTime.class)
                .optional()
                .orElse(null);
        return new TodayView(
                figures.getKey(),
                figures.getValue(),
                lanes,
                looked,
                Reading.SELLING.contains(context.person().role())
                        ? events(looked, context.person().username())
                        : List.of());
    }

    private LaneView view(Lane lane, CommandContext context, int limit) {
        var today = context.date();
        var sql = "select since, count(*) as count, sum(worth) as worth from (" + lane.rows
                + ") t group by since order by since";
        var days = jdbc.sql(sql)
                .params(Map.of(
                        "today",
                        today,
                        "levels",
                        Level.carriedBy(context.person()),
                        "me",
                        context.person().username(),
                        "myLine",
                        Writers.line(context.person().username())))
                .query((r, n) -> new Day(r.getObject(1, LocalDate.class), r.getLong(2), r.getBigDecimal(3)))
                .list();
        var strip = AgeStrip.of(
                days.stream()
                        .map(day -> new AgeStrip.Waiting(day.since(), day.count()))
                        .toList(),
                today,
                limit);
        return new LaneView(
                lane.code(),
                days.stream().mapToLong(Day::count).sum(),
                lane.worth.isRead()
                        ? Money.rounded(
                                        days.stream().map(Day::worth).reduce(BigDecimal.ZERO, BigDecimal::add),
                                        company.currency())
                                .amount()
                        : null,
                days.isEmpty() ? null : days.get(0).since(),
                strip.counts(),
                limit,
                strip.beyond());
    }

    /** What others did since someone last looked, newest first; the newest of all where they never did. */
    private List<EventView> events(OffsetDateTime looked, String username) {
        var from = looked == null ? Timestamp.from(Instant.EPOCH) : Timestamp.from(looked.toInstant());
        return jdbc.sql("""
            select at, by_user, document_kind, document_number, sentence from history
            where moment > (select coalesce(max(moment), 0) - 2000 from history) and at > ? and by_user <> ?
              and event in ('state', 'waived', 'approved', 'sent-back', 'recalled', 'cancelled', 'reversed',
                  'authorised', 'credited')
              and (state_to is null or state_to in ('HELD', 'CLEARED', 'DECLINED', 'CANCELLED'))
            order by moment desc fetch first TOLD rows only\
            """.replace("TOLD", String.valueOf(TOLD)))
                .params(from, username)
                .query((r, n) -> new EventView(
                        r.getObject(1, OffsetDateTime.class),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5)))
                .list();
    }

    /** Notes that someone has looked: what happened before is not told again. */
    @PostMapping("/looks")
    Done look(HttpServletRequest http) {
        return commands.run(http, "look", Done.class, context -> {
            jdbc.sql("delete from last_look where username = ?")
                    .param(context.person().username())
                    .update();
            jdbc.sql("insert into last_look (username, looked_at) values (?, ?)")
                    .params(context.person().username(), Timestamp.from(clock.instant()))
                    .update();
            return new Done(true);
        });
    }

    /** Sets after how many days a lane is too old for whoever is signed in. */
    @PutMapping("/limits/{lane}")
    Done limit(@PathVariable String lane, @Valid @RequestBody LaneLimit request, HttpServletRequest http) {
        if (Arrays.stream(Lane.values()).noneMatch(known -> known.code().equals(lane))) {
            throw new RefusedException(new CommonRefusal.NotFound("lane", lane));
        }
        return commands.run(http, request, Done.class, context -> {
            jdbc.sql("delete from lane_limit where username = ? and lane = ?")
                    .params(context.person().username(), lane)
                    .update();
            jdbc.sql("insert into lane_limit (username, lane, days) values (?, ?, ?)")
                    .params(context.person().username(), lane, request.days())
                    .update();
            return new Done(true);
        });
    }
}
