package app.euthyna.server.today;

import app.euthyna.core.approval.Level;
import app.euthyna.core.order.AgeStrip;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.order.Writers;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
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
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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

    private final TodayQueries queries;
    private final Commands commands;
    private final Company company;

    TodayController(TodayQueries queries, Commands commands, Company company) {
        this.queries = queries;
        this.commands = commands;
        this.company = company;
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

    record EventView(Instant at, String by, String kind, String number, String sentence) {}

    /** The day: what waits for a decision, and how much of that should leave today or should have left. */
    record TodayView(
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal undecided,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal dueToday,
            List<LaneView> lanes,
            @Nullable Instant lookedAt,
            List<EventView> since) {}

    record LaneLimit(@NotNull @PositiveOrZero @Max(999) Integer days) {}

    record Done(boolean done) {}

    @GetMapping
    @Transactional(readOnly = true, isolation = Isolation.SERIALIZABLE)
    TodayView today() {
        var context = commands.context();
        var own = new HashMap<String, Integer>();
        queries.limits(context.person().username()).forEach(row -> own.put(row.lane(), row.days()));
        var lanes = Arrays.stream(Lane.values())
                .filter(lane -> lane.readers().contains(context.person().role()))
                .map(lane -> view(lane, context, own.getOrDefault(lane.code(), lane.usualLimit)))
                .toList();
        var figures = queries.figures(context.date());
        var looked = queries.lookedAt(context.person().username()).orElse(null);
        return new TodayView(
                company.money(figures.openGross()).amount(),
                company.money(figures.dueToday()).amount(),
                lanes,
                looked,
                Reading.SELLING.contains(context.person().role())
                        ? events(looked, context.person().username())
                        : List.of());
    }

    private LaneView view(Lane lane, CommandContext context, int limit) {
        var today = context.date();
        var days = queries.days(
                lane,
                Map.of(
                        "today",
                        today,
                        "monthBegan",
                        today.withDayOfMonth(1),
                        "levels",
                        Many.names(Level.carriedBy(context.person())),
                        "me",
                        context.person().username(),
                        "myLine",
                        Writers.line(context.person().username())));
        var strip = AgeStrip.of(
                days.stream()
                        .map(day -> new AgeStrip.Waiting(day.since(), day.count()))
                        .toList(),
                today,
                limit);
        return new LaneView(
                lane.code(),
                days.stream().mapToLong(TodayQueries.DayRow::count).sum(),
                lane.worth.isRead()
                        ? Money.rounded(
                                        days.stream()
                                                .map(TodayQueries.DayRow::worth)
                                                .reduce(BigDecimal.ZERO, BigDecimal::add),
                                        company.currency())
                                .amount()
                        : null,
                days.isEmpty() ? null : days.get(0).since(),
                strip.counts(),
                limit,
                strip.beyond());
    }

    /** What others did since someone last looked, newest first; the newest of all where they never did. */
    private List<EventView> events(Instant looked, String username) {
        return queries.events(looked == null ? Instant.EPOCH : looked, username, TOLD).stream()
                .map(row -> new EventView(row.at(), row.by(), row.kind(), row.number(), row.sentence()))
                .toList();
    }

    /** Notes that someone has looked: what happened before is not told again. */
    @PostMapping("/looks")
    Done look(HttpServletRequest http) {
        return commands.run(http, "look", Done.class, context -> {
            var row = new LastLookEntity();
            row.username = context.person().username();
            row.lookedAt = company.now();
            queries.session().upsert(row);
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
            var row = new LaneLimitEntity();
            row.username = context.person().username();
            row.lane = lane;
            row.days = request.days();
            queries.session().upsert(row);
            return new Done(true);
        });
    }
}
