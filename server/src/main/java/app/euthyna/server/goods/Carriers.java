package app.euthyna.server.goods;

import app.euthyna.server.platform.Locks;
import java.util.Optional;
import java.util.concurrent.TimeoutException;
import org.springframework.stereotype.Component;

/** Has notes booked with carriers. */
@Component
class Carriers {

    /** A carrier is asked so often before one gives up. */
    private static final int TRIES = 3;

    private final Optional<CarrierConnection> connection;
    private final GoodsService goods;
    private final Locks locks;
    private final DispatchQueries queries;

    Carriers(Optional<CarrierConnection> connection, GoodsService goods, Locks locks, DispatchQueries queries) {
        this.connection = connection;
        this.goods = goods;
        this.locks = locks;
        this.queries = queries;
    }

    /** Has a note booked with a carrier; where that gives no answer, the note says so and can be booked again. */
    void book(String number, long version, String carrier) {
        locks.customerAndOrder(goods.orderOf(number));
        goods.requireVersion(number, version);
        var booking = asked(carrier, number);
        queries.book(carrier, booking.reference(), booking.why(), number);
    }

    /**
     * What came of a booking.
     *
     * @param reference the carrier's; null where the note is not booked
     * @param why why it is not; null where it is
     */
    private record Booking(String reference, String why) {}

    private Booking asked(String carrier, String dispatch) {
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
