package app.euthyna.server.goods;

import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Component;

/** The carrier's desk, simulated: it books a note and answers with its own reference, or can be told to be silent. */
@Component
class SimulatedCarrier {

    /** It is asked so often before one gives up. */
    static final int TRIES = 3;

    private final ShelfQueries queries;

    SimulatedCarrier(ShelfQueries queries) {
        this.queries = queries;
    }

    /**
     * The carrier's reference for a note; empty where it gave no answer in {@link #TRIES} tries. Booking a note again
     * gives the same.
     */
    Optional<String> book(String carrier, String dispatch) {
        for (int attempt = 1; attempt <= TRIES; attempt++) {
            try {
                return Optional.of(answer(carrier, dispatch));
            } catch (TimeoutException silent) {
                // asked again
            }
        }
        return Optional.empty();
    }

    private String answer(String carrier, String dispatch) throws TimeoutException {
        if (!queries.carrierAnswers()) {
            throw new TimeoutException("no answer in time");
        }
        return (carrier.replaceAll("[^A-Za-z]", "") + "XX").substring(0, 2).toUpperCase(java.util.Locale.ROOT) + "-"
                + dispatch.replaceAll("\\D", "") + "-" + carrier.length();
    }

    /** Tells the simulated desk to answer, or not to. */
    void set(boolean answers) {
        queries.letCarrierAnswer(answers);
    }
}
