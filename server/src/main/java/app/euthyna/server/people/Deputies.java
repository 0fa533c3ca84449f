package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Who decides while someone is away. */
@Service
public class Deputies {

    /** Days that somebody may stand in for somebody. */
    private static final int LONGEST = 60;

    private final PeopleQueries queries;
    private final People people;

    Deputies(PeopleQueries queries, People people) {
        this.queries = queries;
        this.people = people;
    }

    /** Somebody's absence and who stands in; both days are included. */
    public record Absence(String of, String deputy, LocalDate from, LocalDate until) {}

    /** Absences that are not over on a day. */
    public List<Absence> notOver(LocalDate on) {
        return queries.notOver(on).stream()
                .map(row -> new Absence(row.ofUser(), row.deputy(), row.awayFrom(), row.awayUntil()))
                .toList();
    }

    /** Roles of those who named someone as their deputy for a day. */
    public List<String> rolesFor(String deputy, LocalDate on) {
        return queries.rolesFor(deputy, on).stream().map(Role::name).toList();
    }

    /** Who stands in for someone on a day, or they themselves. */
    public List<String> insteadOf(String username, LocalDate on) {
        var deputy = queries.deputyOf(username, on);
        return deputy.map(d -> List.of(username, d)).orElse(List.of(username));
    }

    /** Names a deputy for an absence in place of any named before; none takes it back. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void away(String username, String deputy, LocalDate from, LocalDate until) {
        if (deputy == null) {
            queries.removeAbsence(username);
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
        var row = new DeputyEntity();
        row.ofUser = username;
        row.deputy = deputy;
        row.awayFrom = from;
        row.awayUntil = until;
        queries.session().upsert(row);
    }

    private boolean decides(String username) {
        return queries.roleOf(username)
                .filter(role -> role == Role.CONTROLLER || role == Role.LEAD)
                .isPresent();
    }
}
