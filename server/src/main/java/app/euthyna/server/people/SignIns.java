package app.euthyna.server.people;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.authentication.AccountStatusException;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

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

    private final PeopleQueries queries;
    private final TransactionTemplate transactions;
    private final AuthenticationManager authentication;

    SignIns(PeopleQueries queries, TransactionTemplate transactions, AuthenticationManager authentication) {
        this.authentication = authentication;
        this.queries = queries;
        this.transactions = transactions;
    }

    /** How a try ended. */
    enum Outcome {
        SIGNED_IN,
        WRONG,
        SWITCHED_OFF,
        THROTTLED
    }

    /** Too many wrong passwords of late. */
    @Code("too-many-tries")
    record TooManyTries(int minutes) implements Refusal.NotAuthorised {}

    /** Wrong name or password; which of the two is not told. */
    @Code("wrong-password")
    record WrongPassword() implements Refusal.NotAuthorised {}

    /** Whoever has that name and password; each try is noted, and wrong ones are throttled. */
    Authentication authenticated(String username, String password, String address) {
        requireFewFailures(username, address);
        try {
            var signedIn = authentication.authenticate(
                    UsernamePasswordAuthenticationToken.unauthenticated(username, password));
            note(username, address, Outcome.SIGNED_IN);
            return signedIn;
        } catch (BadCredentialsException wrong) {
            note(username, address, Outcome.WRONG);
            throw new RefusedException(new WrongPassword());
        } catch (AccountStatusException switchedOff) {
            note(username, address, Outcome.SWITCHED_OFF);
            throw new RefusedException(new WrongPassword());
        }
    }

    /** Refuses a try after too many wrong ones; the right password does not help then. */
    private void requireFewFailures(String username, String address) {
        var since = Instant.now().minus(WINDOW);
        var here = queries.failuresHere(username, address, since);
        if (here >= OF_USER_HERE
                || queries.failuresOf(username, since) >= OF_USER
                || queries.failuresFrom(address, since) >= FROM_ADDRESS) {
            note(username, address, Outcome.THROTTLED);
            throw new RefusedException(new TooManyTries((int) WINDOW.toMinutes()));
        }
    }

    void note(String username, String address, Outcome outcome) {
        var shown = Texts.cut(username.replaceAll("\\p{Cntrl}", " "), 200);
        if (outcome == Outcome.SIGNED_IN) {
            LOG.info("{} signed in from {}.", shown, address);
        } else {
            LOG.warn("A sign-in of {} from {} was refused: {}.", shown, address, outcome);
        }
        // also of a try that is refused for it
        transactions.executeWithoutResult(status -> {
            var row = new SignInEntity();
            row.username = shown;
            row.address = address;
            row.at = Instant.now();
            row.outcome = outcome.name();
            queries.session().insert(row);
        });
    }
}
