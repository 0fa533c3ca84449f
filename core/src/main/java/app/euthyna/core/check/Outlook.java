package app.euthyna.core.check;

import java.util.List;

/** What would become of an order if it was submitted as it is written. */
public enum Outlook {
    /** Something is missing in it. */
    NOT_READY,
    /** A stop would hold it. */
    HELD,
    /** Nothing would hold it, but somebody has to agree first. */
    AWAITING_APPROVAL,
    /** It would be cleared, with findings that ask for care. */
    FLAGGED,
    CLEARED;

    /**
     * The outlook of an order.
     *
     * @param complete nothing is missing in it
     * @param asks somebody's approval would be asked for
     */
    public static Outlook of(boolean complete, List<Finding> findings, boolean asks) {
        if (!complete) {
            return NOT_READY;
        }
        if (findings.stream().anyMatch(Finding::holds)) {
            return HELD;
        }
        if (asks) {
            return AWAITING_APPROVAL;
        }
        return findings.stream().anyMatch(Finding::isOpen) ? FLAGGED : CLEARED;
    }
}
