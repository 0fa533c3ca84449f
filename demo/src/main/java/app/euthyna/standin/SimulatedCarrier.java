package app.euthyna.standin;

import app.euthyna.server.goods.CarrierConnection;
import java.util.Locale;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Component;

/** Stands in for carriers: it books a note and answers with a reference, or can be told to be silent. */
@Component
class SimulatedCarrier implements CarrierConnection {

    private final StandInQueries queries;

    SimulatedCarrier(StandInQueries queries) {
        this.queries = queries;
    }

    @Override
    public String book(String carrier, String dispatch) throws TimeoutException {
        if (!queries.carrierAnswers()) {
            throw new TimeoutException("no answer in time");
        }
        return (carrier.replaceAll("[^A-Za-z]", "") + "XX").substring(0, 2).toUpperCase(Locale.ROOT) + "-"
                + dispatch.replaceAll("\\D", "") + "-" + carrier.length();
    }
}
