package app.euthyna.core.order;

/** Stock is dispatched and then billed; services and charges are billed once the order is cleared; text has no value. */
public enum LineKind {
    STOCK, SERVICE, CHARGE, TEXT;

    public boolean isShipped() {
        return this == STOCK;
    }

    public boolean isBilled() {
        return this != TEXT;
    }
}
