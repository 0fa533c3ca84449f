package app.euthyna.server.goods;

import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Component;

/** Has notes booked with carriers. */
@Component
class Carriers {

    /** A carrier is asked so often before one gives up. */
    private static final int TRIES = 3;

    private final Optional<CarrierConnection> connection;

    Carriers(Optional<CarrierConnection> connection) {
        this.connection = connection;
    }

    /**
     * What came of a booking.
     *
     * @param reference the carrier's; null where the note is not booked
     * @param why why it is not; null where it is
     */
    record Booking(String reference, String why) {}

    Booking book(String carrier, String dispatch) {
        if (connection.isEmpty()) {
            return new Booking(null, "No carrier is connected; %s was not asked.".formatted(carrier));
        }
        for (int attempt = 1; attempt <= TRIES; attempt++) {
            try {
                return new Booking(connection.get().book(carrier, dispatch), null);
            } catch (TimeoutException silent) {
                // asked again
            }
        }
        return new Booking(null, "The carrier %s did not answer in %d tries.".formatted(carrier, TRIES));
    }
}
