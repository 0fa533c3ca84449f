package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Orders as they are kept, each with its lines. */
@Component
class OrderStore {

    private final OrderQueries queries;
    private final Ids ids;
    private final Company company;

    OrderStore(OrderQueries queries, Ids ids, Company company) {
        this.queries = queries;
        this.ids = ids;
        this.company = company;
    }

    /** An order by its number; refused when there is none. */
    StoredOrder find(String number) {
        var header = queries.header(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", number)));
        ids.orderIs(number, header.id);
        return new StoredOrder(header, queries.lines(header.id));
    }

    /** An order that is still at the version that the user saw. */
    StoredOrder seen(String number, long version) {
        var stored = find(number);
        requireVersion(number, version, stored.header.version);
        return stored;
    }

    /** Refuses unless an order is still at the version that the user saw. */
    void requireVersion(String number, long version) {
        requireVersion(number, version, version(number));
    }

    long version(String number) {
        return queries.version(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", number)));
    }

    private static void requireVersion(String number, long seen, long stored) {
        if (stored != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Order " + number, seen, stored));
        }
    }

    Order core(StoredOrder stored) {
        return stored.toCore(
                ids.customerCode(stored.header.customerId), ids.siteCode(stored.header.siteId), company.currency());
    }

    /** Writes an order: a new one, or what has changed of it. */
    void save(StoredOrder stored) {
        if (stored.header.id == null) {
            queries.session().insert(stored.header);
            ids.orderIs(stored.number(), stored.header.id);
        } else {
            queries.session().update(stored.header);
        }
        for (var line : stored.takeChanged()) {
            if (line.id == null) {
                line.orderId = stored.header.id;
                queries.session().insert(line);
            } else {
                queries.session().update(line);
            }
        }
    }

    /** Moves an order's version. */
    void moveVersion(String number) {
        queries.moveVersion(number);
    }

    /** The number under which a sender's own reference was imported before. */
    Optional<String> takenIn(String customer, String reference) {
        return queries.takenIn(customer, reference);
    }

    /** Who wrote the orders of a family. */
    List<String> authors(long customer, long family) {
        return queries.authors(customer, family);
    }
}
