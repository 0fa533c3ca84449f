package app.euthyna.server.goods;

import java.util.concurrent.TimeoutException;

/** How carriers are reached. Where nobody provides one, notes are not booked. */
public interface CarrierConnection {

    /**
     * Books a note with a carrier and gives the carrier's own reference. Booking a note again gives the same.
     *
     * @throws TimeoutException where the carrier gives no answer in time
     */
    String book(String carrier, String dispatch) throws TimeoutException;
}
