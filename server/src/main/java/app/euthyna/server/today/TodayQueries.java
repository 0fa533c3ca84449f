package app.euthyna.server.today;

import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface TodayQueries {
    StatelessSession session();

    record LimitRow(String lane, int days) {}

    record FiguresRow(BigDecimal openGross, BigDecimal dueToday) {}

    @HQL("select ll.lane, ll.days from LaneLimitEntity ll where ll.username = :username")
    List<LimitRow> limits(String username);

    @HQL("""
            select coalesce(sum(x.openGross), 0), coalesce(sum(case when x.requestedOn <= cast(:today as LocalDate) then
                x.openGross else 0 end), 0)
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.reviewable = true and o.state in ('HELD', 'AWAITING_APPROVAL')
            """)
    FiguresRow figures(LocalDate today);

    @HQL("select l.lookedAt from LastLookEntity l where l.username = :username")
    Optional<Instant> lookedAt(String username);

    record DayRow(LocalDate since, Long count, BigDecimal worth) {}

    /** What waits in a lane, by the day since when. */
    default List<DayRow> days(Lane lane, Map<String, Object> values) {
        var listing = Listing.of(
                        session(), DayRow.class, "select t.since, count(*), sum(t.worth) from (" + lane.rows + ") t")
                .then("group by t.since order by t.since");
        values.forEach((name, value) -> {
            if (lane.rows.contains(":" + name)) {
                listing.with(name, value);
            }
        });
        return listing.all();
    }

    record EventRow(Instant at, String by, String kind, String number, String sentence) {}

    /** What others did of late that is worth telling, newest first. */
    @HQL("""
            select h.at, h.byUser, h.documentKind, h.documentNumber, h.sentence
            from HistoryEntity h
            where h.moment > (select coalesce(max(m.moment), 0) - 2000 from HistoryEntity m) and h.at > :since
            and h.byUser <> :me
            and h.event in ('state', 'waived', 'approved', 'sent-back', 'recalled', 'cancelled', 'reversed',
                'authorised', 'credited')
            and (h.stateTo is null or h.stateTo in ('HELD', 'CLEARED', 'DECLINED', 'CANCELLED'))
            order by h.moment desc
            fetch first :most rows only
            """)
    List<EventRow> events(Instant since, String me, int most);
}
