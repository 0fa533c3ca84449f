package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Credentials;
import app.euthyna.core.shared.Duties;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.WorldChanged;
import com.nulabinc.zxcvbn.Zxcvbn;
import jakarta.annotation.Nullable;
import java.time.Instant;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Users made, changed, switched off; passwords set and changed. Every change is kept, and ends the sessions of whoever
 * it concerns.
 */
@Service
@Transactional(propagation = Propagation.MANDATORY)
class UserKeeping {

    /** Of 0 to 4: below this a password is found by trying what people choose (zxcvbn's own scale). */
    private static final int STRONG_ENOUGH = 3;

    private final People people;
    private final PasswordEncoder passwords;
    private final Deputies deputies;
    private final FindByIndexNameSessionRepository<? extends Session> sessions;
    private final PeopleQueries queries;
    private final ApplicationEventPublisher events;
    private final Zxcvbn strength = new Zxcvbn();

    UserKeeping(
            People people,
            PasswordEncoder passwords,
            Deputies deputies,
            FindByIndexNameSessionRepository<? extends Session> sessions,
            PeopleQueries queries,
            ApplicationEventPublisher events) {
        this.events = events;
        this.deputies = deputies;
        this.people = people;
        this.passwords = passwords;
        this.sessions = sessions;
        this.queries = queries;
    }

    void add(CommandContext context, String username, String displayName, String password, Role role) {
        RefusedException.where(Credentials.refusals(username, displayName));
        requireGood(username, displayName, password);
        if (people.exists(username)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("username", "an unused user name"));
        }
        people.add(username, displayName, password, role);
        note(context, username, "created as " + role.words());
    }

    void setRole(CommandContext context, String username, Role role) {
        requireAnother(context, username, "change their own role");
        change(username, user -> user.role = role);
        // what an author may give is looked at in the orders that wait
        events.publishEvent(new WorldChanged(context, queries.customersWaitingFor(username)));
        note(context, username, "is now " + role.words());
        endSessions(username);
    }

    void setEnabled(CommandContext context, String username, boolean enabled) {
        requireAnother(context, username, "switch themselves off");
        change(username, user -> user.enabled = enabled);
        note(context, username, enabled ? "switched on" : "switched off");
        endSessions(username);
    }

    void setPassword(CommandContext context, String username, String password) {
        requireGood(username, people.displayName(username), password);
        change(username, user -> user.passwordHash = passwords.encode(password));
        note(context, username, "given a new password");
        endSessions(username);
    }

    /** Whoever is signed in changes their own, and knows the old one. */
    void changePassword(CommandContext context, String current, String next) {
        var username = context.person().username();
        var hash = queries.passwordHash(username)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("user", username)));
        if (!passwords.matches(current, hash)) {
            throw new RefusedException(new SignIns.WrongPassword());
        }
        requireGood(username, people.displayName(username), next);
        change(username, user -> user.passwordHash = passwords.encode(next));
        note(context, username, "changed their password");
    }

    private void requireGood(String username, String displayName, String password) {
        // what is too long for the hash is refused for that, and is not measured
        var common = password.length() <= Credentials.MOST_BYTES
                && strength.measure(password, List.of(username, displayName)).getScore() < STRONG_ENOUGH;
        RefusedException.where(Credentials.refusals(username, password, common));
    }

    private static void requireAnother(CommandContext context, String username, String what) {
        if (context.person().username().equals(username)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("username", "another user: nobody may " + what));
        }
    }

    private void change(String username, Consumer<UserEntity> change) {
        var user = queries.user(username)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("user", username)));
        change.accept(user);
        queries.session().update(user);
    }

    private void note(CommandContext context, String username, String what) {
        var row = new UserChangeEntity();
        row.username = username;
        row.at = Instant.now();
        row.changedBy = context.person().username();
        row.what = what;
        queries.session().insert(row);
    }

    private void endSessions(String username) {
        sessions.findByPrincipalName(username).keySet().forEach(sessions::deleteById);
    }

    /**
     * Who may what.
     *
     * @param since when they were given their role; null where that was not noted
     * @param lastSeen when they signed in last; null where they never did
     * @param standsInFor who is away
     * @param together combinations of duties that one person should not hold
     */
    record AccessView(
            String username,
            String displayName,
            Role role,
            boolean enabled,
            @Nullable Instant since,
            @Nullable Instant lastSeen,
            List<String> standsInFor,
            List<String> together) {}

    @Transactional(propagation = Propagation.SUPPORTS, readOnly = true)
    List<AccessView> access(CommandContext context) {
        var users = queries.users();
        var roles =
                users.stream().collect(Collectors.toMap(PeopleQueries.UserRow::username, PeopleQueries.UserRow::role));
        var standIns = deputies.notOver(context.today()).stream()
                .filter(absence -> !absence.from().isAfter(context.today()))
                .collect(Collectors.groupingBy(
                        Deputies.Absence::deputy, Collectors.mapping(Deputies.Absence::of, Collectors.toList())));
        return users.stream()
                .map(user -> {
                    var standsInFor = standIns.getOrDefault(user.username(), List.of());
                    var carried = Stream.concat(Stream.of(user.username()), standsInFor.stream())
                            .map(roles::get)
                            .collect(Collectors.toSet());
                    return new AccessView(
                            user.username(),
                            user.displayName(),
                            user.role(),
                            user.enabled(),
                            user.since(),
                            user.lastSeen(),
                            standsInFor,
                            Duties.together(carried));
                })
                .toList();
    }
}
