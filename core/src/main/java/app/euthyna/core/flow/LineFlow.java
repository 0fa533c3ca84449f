package app.euthyna.core.flow;

import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Quantity;

/**
 * Where the units of one order line are. {@code reserved}, {@code staged} and {@code dispatched} do not overlap: goods
 * that are staged are no longer counted as reserved here, though the shelf still holds them back.
 *
 * @param dispatched net of reversed dispatches
 * @param returned received back, net of what was sent to the customer again
 * @param returnedUnbilled of it, what had not been billed
 * @param billed net of reversed invoices
 * @param ahead billed and not dispatched yet
 * @param credited on credit notes, with goods or without
 * @param atNoCharge nothing is to be billed for the line
 * @param mayWait the order is cleared, so what is not reserved stands in the queue for stock
 */
public record LineFlow(
        OrderLine line,
        Quantity cancelled,
        Quantity reserved,
        Quantity staged,
        Quantity dispatched,
        Quantity returned,
        Quantity returnedUnbilled,
        Quantity billed,
        Quantity ahead,
        Quantity credited,
        boolean atNoCharge,
        boolean mayWait) {

    public Quantity ordered() {
        return line.quantity();
    }

    /** Still to leave: ordered − cancelled − dispatched. Services are never dispatched. */
    public Quantity toShip() {
        return line.kind().isShipped() ? ordered().minus(cancelled).minus(dispatched) : Quantity.ZERO;
    }

    /** Open and not held for the order by anything yet. */
    public Quantity unreserved() {
        return toShip().minus(staged).minus(reserved);
    }

    /** What stands in the queue for stock. */
    public Quantity waiting() {
        return mayWait ? unreserved() : Quantity.ZERO;
    }

    /**
     * Dispatched, not come back and not yet billed; of services and charges all that is not cancelled and not billed.
     */
    public Quantity toBill() {
        return switch (line.kind()) {
            case STOCK ->
                atNoCharge ? Quantity.ZERO : dispatched.minus(returnedUnbilled).minus(billed.minus(ahead));
            case SERVICE, CHARGE -> ordered().minus(cancelled).minus(billed);
            case TEXT, SUBTOTAL -> Quantity.ZERO;
        };
    }

    /**
     * What could be billed if goods need not have left: all that is not cancelled, not billed and did not come back
     * unbilled.
     */
    public Quantity toBillAhead() {
        return line.kind().isShipped() && !atNoCharge
                ? ordered().minus(cancelled).minus(returnedUnbilled).minus(billed)
                : toBill();
    }

    /**
     * What a cancellation could still take: goods neither dispatched nor billed ahead, services that are not billed.
     */
    public Quantity open() {
        return line.kind().isShipped() ? toShip().minus(ahead) : toBill();
    }
}
