package app.euthyna.server.goods;

import app.euthyna.core.goods.Shelf;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.TransactionCache;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.hibernate.LockMode;
import org.springframework.stereotype.Component;

/** Shelves as rows, locked before anything is decided on them. */
@Component
class Shelves {

    private final ShelfQueries queries;
    private final Ids ids;
    private final Company company;
    private final Locks locks;
    private final TransactionCache<Place, ShelfEntity> locked = TransactionCache.toTheEnd();

    Shelves(ShelfQueries queries, Ids ids, Company company, Locks locks) {
        this.locks = locks;
        this.queries = queries;
        this.ids = ids;
        this.company = company;
    }

    /** The shelf, locked; set up empty where the item never lay there. */
    Shelf lock(String site, String item) {
        locks.taken(Locks.Rank.SHELVES);
        return entity(site, item).toCore(site, item, company.currency());
    }

    /** The shelf as it is, without a lock; empty where the item never lay there. */
    Shelf look(String site, String item) {
        return queries.shelf(ids.site(site), ids.item(item))
                .map(id -> queries.session().get(ShelfEntity.class, id))
                .orElseGet(ShelfEntity::new)
                .toCore(site, item, company.currency());
    }

    /** The same by its ids. */
    Shelf lock(Place place) {
        return lock(ids.siteCode(place.site()), ids.itemCode(place.item()));
    }

    /** Shelves of several items at a site, locked in the order of their ids. */
    Map<String, Shelf> lock(String site, Collection<String> items) {
        var shelves = new HashMap<String, Shelf>();
        items.stream()
                .distinct()
                .sorted(Comparator.comparing(ids::item))
                .forEach(item -> shelves.put(item, lock(site, item)));
        return shelves;
    }

    void change(String site, String item, UnaryOperator<Shelf> change) {
        var entity = entity(site, item);
        entity.write(change.apply(entity.toCore(site, item, company.currency())));
        queries.session().update(entity);
    }

    /** Locked at the first question, and true until the transaction ends: nobody else can change it meanwhile. */
    private ShelfEntity entity(String site, String item) {
        return locked.get(
                new Place(ids.item(item), ids.site(site)),
                place -> queries.shelf(place.site(), place.item())
                        .map(id -> queries.session().get(ShelfEntity.class, id, LockMode.PESSIMISTIC_WRITE))
                        .orElseGet(() -> setUp(place)));
    }

    private ShelfEntity setUp(Place place) {
        var added = new ShelfEntity();
        added.siteId = place.site();
        added.itemId = place.item();
        queries.session().insert(added);
        return added;
    }
}
