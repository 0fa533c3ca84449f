package app.euthyna.core.check;

import java.time.LocalDate;
import java.util.Optional;

/**
 * What a check found on an order, and what became of it.
 *
 * @param since the day it was found, or found again after it had been settled or waived
 * @param waiver who waives it; present exactly while the state is waived
 */
public record Finding(Severity severity, State state, Evidence evidence, LocalDate since, Optional<Waiver> waiver) {

    public enum State {
        OPEN,
        WAIVED,
        SETTLED
    }

    /** Somebody with the authority waives it. */
    public record Waiver(String by, LocalDate on, String reason) {}

    public Finding {
        if (waiver.isPresent() != (state == State.WAIVED)) {
            throw new IllegalArgumentException(
                    "a finding is waived by somebody, or not waived: " + state + ", " + waiver);
        }
    }

    public Check check() {
        return evidence.check();
    }

    public boolean isOpen() {
        return state == State.OPEN;
    }

    /** It holds the order. */
    public boolean holds() {
        return isOpen() && severity == Severity.STOP;
    }

    Finding settled() {
        return new Finding(severity, State.SETTLED, evidence, since, Optional.empty());
    }

    Finding waived(Waiver by) {
        return new Finding(severity, State.WAIVED, evidence, since, Optional.of(by));
    }

    static Finding open(Severity severity, Evidence evidence, LocalDate since) {
        return new Finding(severity, State.OPEN, evidence, since, Optional.empty());
    }
}
