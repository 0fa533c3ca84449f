package app.euthyna.server.people;

import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * The log of sign-ins, and what it says of the next try: counted in the database, so that all servers count together,
 * and by real time, whatever the company's clock shows.
 */
@Component
class SignIns {

    private static final Logger LOG = LoggerFactory.getLogger(SignIns.class);

    private static final Duration WINDOW = Duration.ofMinutes(15);
    /** Wrong passwords of one user from one address; of one user from anywhere; of anybody from one address. */
    private static final int OF_USER_HERE = 5;

    private static final int OF_USER = 20;
    private static final int FROM_ADDRESS = 40;

    private final JdbcClient jdbc;

    SignIns(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** How a try ended. */
    enum Outcome {
        SIGNED_IN,
        WRONG,
        SWITCHED_OFF,
        THROTTLED
    }

    /** Too many wrong passwords of late. */
    record TooManyTries(int minutes) implements Refusal {
        @Override
        public String code() {
            return "too-many-tries";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_AUTHORISED;
        }

        @Override
        public String sentence() {
            return "Too many wrong passwords.";
        }

        @Override
        public String instead() {
            return "Try again in %d minutes, or have an administrator set a new password.".formatted(minutes);
        }
    }

    /** Refuses a try after too many wrong ones; the right password does not help then. */
    void requireFewFailures(String username, String address) {
        var since = Timestamp.from(Instant.now().minus(WINDOW));
        var here = jdbc.sql("""
            select count(*) from sign_in where username = ? and address = ? and outcome = 'WRONG' and at > ?
                and id > coalesce((select max(s.id) from sign_in s where s.username = ? and s.address = ?
                    and s.outcome = 'SIGNED_IN'), 0)\
            """)
                .params(username, address, since, username, address)
                .query(Integer.class)
                .single();
        if (here >= OF_USER_HERE
                || failures("username", username, since) >= OF_USER
                || failures("address", address, since) >= FROM_ADDRESS) {
            note(username, address, Outcome.THROTTLED);
            throw new RefusedException(new TooManyTries((int) WINDOW.toMinutes()));
        }
    }

    private int failures(String column, String value, Timestamp since) {
        return jdbc.sql("select count(*) from sign_in where " + column + " = ? and outcome = 'WRONG' and at > ?")
                .params(value, since)
                .query(Integer.class)
                .single();
    }

    void note(String username, String address, Outcome outcome) {
        var shown = Texts.cut(username.replaceAll("\\p{Cntrl}", " "), 200);
        if (outcome == Outcome.SIGNED_IN) {
            LOG.info("{} signed in from {}.", shown, address);
        } else {
            LOG.warn("A sign-in of {} from {} was refused: {}.", shown, address, outcome);
        }
        jdbc.sql("insert into sign_in (username, address, at, outcome) values (?, ?, ?, ?)")
                .params(shown, address, Timestamp.from(Instant.now()), outcome.name())
                .update();
    }
}
