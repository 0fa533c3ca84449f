package app.euthyna.server.flow;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.Locks;
import java.util.Collection;
import java.util.List;
import org.springframework.stereotype.Component;

/** The chains that a document belongs to: of all orders that have a part in it. */
@Component
public class DocumentChains {

    private final DocumentOrders orders;
    private final Locks locks;
    private final ChainReader chains;

    DocumentChains(DocumentOrders orders, Locks locks, ChainReader chains) {
        this.orders = orders;
        this.locks = locks;
        this.chains = chains;
    }

    /** The orders that have a part in a document. */
    public List<String> orders(DocumentKind kind, String number) {
        return orders.of(kind, number);
    }

    public Chain ofOrder(String order) {
        return chains.chain(order);
    }

    public Collection<Chain> of(DocumentKind kind, String number) {
        return chains.chains(orders.of(kind, number)).values();
    }

    /** The chains of a document, their customers and themselves locked. */
    public Collection<Chain> locked(DocumentKind kind, String number) {
        return locked(orders.of(kind, number));
    }

    /** The chains of orders, their customers and themselves locked. */
    public Collection<Chain> locked(Collection<String> numbers) {
        locks.customersAndOrders(numbers);
        return chains.chains(numbers).values();
    }
}
