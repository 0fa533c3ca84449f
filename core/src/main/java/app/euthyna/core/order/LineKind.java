package app.euthyna.core.order;

/**
 * Stock is dispatched and then billed; services and charges are billed once the order is cleared; text has no value; a
 * subtotal shows what the lines since the last one come to.
 */
public enum LineKind {
    STOCK,
    SERVICE,
    CHARGE,
    TEXT,
    SUBTOTAL;

    public boolean isShipped() {
        return this == STOCK;
    }

    public boolean isBilled() {
        return this != TEXT && this != SUBTOTAL;
    }
}
