package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Who decides while someone is away. */
@Service
public class Deputies {

    /** Days that somebody may stand in for somebody. */
    private static final int LONGEST = 60;

    private final JdbcClient jdbc;
    private final People people;

    Deputies(JdbcClient jdbc, People people) {
        this.jdbc = jdbc;
        this.people = people;
    }

    /** Somebody's absence and who stands in; both days are included. */
    public record Absence(String of, String deputy, LocalDate from, LocalDate until) {}

    /** Absences that are not over on a day. */
    public List<Absence> notOver(LocalDate on) {
        return jdbc.sql("select of_user, deputy, away_from, away_until from deputy where away_until >= ? order by"
                        + " away_from, of_user")
                .param(on)
                .query((r, n) -> new Absence(
                        r.getString(1),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        r.getObject(4, LocalDate.class)))
                .list();
    }

    /** Roles of those who named someone as their deputy for a day. */
    public List<String> rolesFor(String deputy, LocalDate on) {
        return jdbc.sql("select distinct u.role from deputy d join app_user u on u.username = d.of_user "
                        + "where d.deputy = ? and ? between d.away_from and d.away_until and u.enabled = true")
                .params(deputy, on)
                .query(String.class)
                .list();
    }

    /** Who stands in for someone on a day, or they themselves. */
    public List<String> insteadOf(String username, LocalDate on) {
        var deputy = jdbc.sql("select deputy from deputy where of_user = ? and ? between away_from and away_until")
                .params(username, on)
                .query(String.class)
                .optional();
        return deputy.map(d -> List.of(username, d)).orElse(List.of(username));
    }

    /** Names a deputy for an absence in place of any named before; none takes it back. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void away(String username, String deputy, LocalDate from, LocalDate until) {
        jdbc.sql("delete from deputy where of_user = ?").param(username).update();
        if (deputy == null) {
            return;
        }
        if (!people.exists(deputy) || deputy.equals(username)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("deputy", "the name of another user"));
        }
        if (from == null || until == null || until.isBefore(from)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("until", "a date on or after the first day away"));
        }
        if (from.plusDays(LONGEST).isBefore(until)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("until", "at most %d days away".formatted(LONGEST)));
        }
        if (decides(username) && !decides(deputy)) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("deputy", "a controller or finance lead, who decides already"));
        }
        jdbc.sql("insert into deputy (of_user, deputy, away_from, away_until) values (?, ?, ?, ?)")
                .params(username, deputy, from, until)
                .update();
    }

    private boolean decides(String username) {
        return jdbc.sql("select role from app_user where username = ? and enabled = true")
                .param(username)
                .query((r, n) -> Role.valueOf(r.getString(1)))
                .optional()
                .filter(role -> role == Role.CONTROLLER || role == Role.LEAD)
                .isPresent();
    }
}
