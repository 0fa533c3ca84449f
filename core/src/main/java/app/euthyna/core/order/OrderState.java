package app.euthyna.core.order;

/** An order's life (section 3). */
public enum OrderState {
    /** Being written; checked by nobody yet. */
    DRAFT,
    /** Submitted; only for as long as the checks run. */
    SUBMITTED,
    /** At least one stop finding is open. */
    HELD,
    /** No open stop, but policy asks for a decision. */
    AWAITING_APPROVAL,
    /** May be reserved, dispatched, invoiced. */
    CLEARED,
    /** Nothing left to ship or to bill. */
    COMPLETED,
    /** Completed with some quantity cancelled. */
    CLOSED_SHORT,
    /** All of it cancelled before anything left. */
    CANCELLED,
    /** Decided against. */
    DECLINED;

    /** The order was let go and not taken back: its goods may move and be billed. */
    public boolean isCleared() {
        return this == CLEARED || this == COMPLETED || this == CLOSED_SHORT;
    }

    /** Nothing more will happen by itself. */
    public boolean isEnded() {
        return this == COMPLETED || this == CLOSED_SHORT || this == CANCELLED || this == DECLINED;
    }

    /** As it is written in sentences and cases: {@code CLOSED SHORT}. */
    public String words() {
        return name().replace('_', ' ');
    }
}
