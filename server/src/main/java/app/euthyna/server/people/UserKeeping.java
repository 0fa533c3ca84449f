package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Credentials;
import app.euthyna.core.shared.Duties;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.WorldChanged;
import com.nulabinc.zxcvbn.Zxcvbn;
import jakarta.annotation.Nullable;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
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
    private final JdbcClient jdbc;
    private final ApplicationEventPublisher events;
    private final Zxcvbn strength = new Zxcvbn();

    UserKeeping(
            People people,
            PasswordEncoder passwords,
            Deputies deputies,
            JdbcClient jdbc,
            ApplicationEventPublisher events) {
        this.events = events;
        this.deputies = deputies;
        this.people = people;
        this.passwords = passwords;
        this.jdbc = jdbc;
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
        update(username, "role = ?", role.name());
        // what an author may give is looked at in the orders that wait
        events.publishEvent(new WorldChanged(
                context,
                jdbc.sql("select distinct x.customer_id from open_order x join sales_order o on o.id = x.order_id"
                                + " where x.reviewable = true and o.author = ?")
                        .param(username)
                        .query(Long.class)
                        .list()));
        note(context, username, "is now " + role.words());
        endSessions(username);
    }

    void setEnabled(CommandContext context, String username, boolean enabled) {
        requireAnother(context, username, "switch themselves off");
        update(username, "enabled = ?", enabled);
        note(context, username, enabled ? "switched on" : "switched off");
        endSessions(username);
    }

    void setPassword(CommandContext context, String username, String password) {
        requireGood(username, people.displayName(username), password);
        update(username, "password_hash = ?", passwords.encode(password));
        note(context, username, "given a new password");
        endSessions(username);
    }

    /** Whoever is signed in changes their own, and knows the old one. */
    void changePassword(CommandContext context, String current, String next) {
        var username = context.person().username();
        var hash = jdbc.sql("select password_hash from app_user where username = ?")
                .param(username)
                .query(String.class)
                .single();
        if (!passwords.matches(current, hash)) {
            throw new RefusedException(new SessionController.WrongPassword());
        }
        requireGood(username, people.displayName(username), next);
        update(username, "password_hash = ?", passwords.encode(next));
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

    private void update(String username, String set, Object value) {
        if (jdbc.sql("update app_user set " + set + " where username = ?")
                        .params(value, username)
                        .update()
                == 0) {
            throw new RefusedException(new CommonRefusal.NotFound("user", username));
        }
    }

    private void note(CommandContext context, String username, String what) {
        jdbc.sql("insert into user_change (username, at, changed_by, what) values (?, ?, ?, ?)")
                .params(
                        username,
                        Timestamp.from(Instant.now()),
                        context.person().username(),
                        what)
                .update();
    }

    private void endSessions(String username) {
        jdbc.sql("delete from spring_session where principal_name = ?")
                .param(username)
                .update();
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
            @Nullable OffsetDateTime since,
            @Nullable OffsetDateTime lastSeen,
            List<String> standsInFor,
            List<String> together) {}

    @Transactional(propagation = Propagation.SUPPORTS, readOnly = true)
    List<AccessView> access(CommandContext context) {
        record User(
                String username,
                String displayName,
                Role role,
                boolean enabled,
                OffsetDateTime since,
                OffsetDateTime lastSeen) {}
        var users = jdbc.sql("""
            select u.username, u.display_name, u.role, u.enabled,
                (select max(c.at) from user_change c where c.username = u.username
                    and (c.what like 'created as %' or c.what like 'is now %')),
                (select max(s.at) from sign_in s where s.username = u.username and s.outcome = 'SIGNED_IN')
            from app_user u order by u.username\
            """)
                .query((r, n) -> new User(
                        r.getString(1),
                        r.getString(2),
                        Role.valueOf(r.getString(3)),
                        r.getBoolean(4),
                        r.getObject(5, OffsetDateTime.class),
                        r.getObject(6, OffsetDateTime.class)))
                .list();
        var roles = users.stream().collect(Collectors.toMap(User::username, User::role));
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

    /** What was changed of a user, or a try to sign in; {@code by} is a user, or the address that it came from. */
    record LogLineView(OffsetDateTime at, String username, String what, String by) {}

    /**
     * The newest lines first.
     *
     * @param before lines from this moment on are left out
     */
    @Transactional(propagation = Propagation.SUPPORTS, readOnly = true)
    List<LogLineView> log(Instant before) {
        return jdbc.sql("""
            select at, username, what, changed_by from (
                select * from (select at, username, what, changed_by from user_change where at < :before
                    order by at desc fetch first ROWS rows only) c
                union all
                select * from (select at, username, case outcome when 'SIGNED_IN' then 'signed in' when 'WRONG'
                        then 'wrong password' when 'THROTTLED' then 'too many tries' else 'switched off' end as what,
                        address as changed_by
                    from sign_in where at < :before order by at desc fetch first ROWS rows only) s) t
            order by at desc fetch first ROWS rows only\
            """.replace("ROWS", String.valueOf(Pages.SIZE + 1)))
                .param("before", Timestamp.from(before))
                .query((r, n) -> new LogLineView(
                        r.getObject(1, OffsetDateTime.class), r.getString(2), r.getString(3), r.getString(4)))
                .list();
    }
}
