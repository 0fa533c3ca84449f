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
public class SimulatedLicenceRegister {

    private static final Logger LOG = LoggerFactory.getLogger(SimulatedLicenceRegister.class);
    private static final int TRIES = 3;

    private final SimulatedRegister register;

    SimulatedLicenceRegister(SimulatedRegister register) {
        this.register = register;
    }

    public LicenceFact ask(String licenceClass, String number, LocalDate on) {
        for (int attempt = 1; ; attempt++) {
            try {
                return register.look(licenceClass, number)
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

    /** Stands in for the register: it knows what was entered for it, and can be told to be silent. */
    @Component
    static class SimulatedRegister {

        private final MasterDataQueries queries;

        SimulatedRegister(MasterDataQueries queries) {
            this.queries = queries;
        }

        /** To when a licence is valid; empty where the register does not know it. */
        Optional<LocalDate> look(String licenceClass, String number) throws TimeoutException {
            var row = queries.registered(licenceClass, number);
            if (row.isPresent() && !row.get().answers()) {
                throw new TimeoutException("no answer in time");
            }
            return row.map(MasterDataQueries.RegisteredRow::validTo);
        }
    }
}
