package app.euthyna.core.trail;

import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;

/** Goods of a return that came, or that something became of, at one moment. */
public record ReturnMove(String number, LocalDate on, Stamp stamp, LineRef orderLine, Kind kind, Quantity quantity) {

    /** What happened to them. */
    public enum Kind {
        RECEIVED,
        RESTOCKED,
        SCRAPPED,
        SENT_BACK
    }
}
