package app.euthyna.core.order;

/** What sort of order it is; checks differ by kind (section 4). */
public enum OrderKind {
    STANDARD,
    SAMPLE,
    REPLACEMENT,
    DIRECT,
    CALL_OFF;

    /** Goods that go out as a gift or in place of others: where the price is zero there is nothing to bill. */
    public boolean atNoCharge() {
        return this == SAMPLE || this == REPLACEMENT;
    }

    /** As it stands in sentences: {@code call-off}. */
    public String words() {
        return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
}
