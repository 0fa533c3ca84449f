package app.euthyna.server.masterdata;

import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.LicenceFact.Answer;
import java.time.LocalDate;
import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Asks the public register of licences. A register that gives no answer in time is asked again, and told as such in the
 * end.
 */
@Component
public class Licences {

    private static final Logger LOG = LoggerFactory.getLogger(Licences.class);
    private static final int TRIES = 3;

    private final Optional<RegisterConnection> register;

    Licences(Optional<RegisterConnection> register) {
        this.register = register;
    }

    /** What the register says of a licence on a day. */
    public LicenceFact ask(String licenceClass, String number, LocalDate on) {
        if (register.isEmpty()) {
            return new LicenceFact(licenceClass, number, Answer.NO_ANSWER, null, on, 0);
        }
        for (int attempt = 1; ; attempt++) {
            try {
                return register.get()
                        .look(licenceClass, number)
                        .map(validTo -> new LicenceFact(licenceClass, number, Answer.FOUND, validTo, on, 0))
                        .orElse(new LicenceFact(licenceClass, number, Answer.NOT_FOUND, null, on, 0));
            } catch (TimeoutException silent) {
                if (attempt == TRIES) {
                    LOG.warn("The register did not answer for licence {} {} in {} tries.", licenceClass, number, TRIES);
                    return new LicenceFact(licenceClass, number, Answer.NO_ANSWER, null, on, TRIES);
                }
            }
        }
    }
}
