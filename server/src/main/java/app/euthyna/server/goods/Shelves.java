package app.euthyna.server.goods;

import app.euthyna.core.goods.Shelf;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;

/** Shelves as rows, locked before anything is decided on them. */
@Component
class Shelves {

    private final EntityManager entities;
    private final Ids ids;
    private final Company company;
    private final Locks locks;

    Shelves(EntityManager entities, Ids ids, Company company, Locks locks) {
        this.locks = locks;
        this.entities = entities;
        this.ids = ids;
        this.company = company;
    }

    /** The shelf, locked; set up empty where the item never lay there. */
    Shelf lock(String site, String item) {
        locks.taken(Locks.Rank.SHELVES);
        return entity(site, item).toCore(site, item, company.currency());
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
    }

    private ShelfEntity entity(String site, String item) {
        var siteId = ids.site(site);
        var itemId = ids.item(item);
        var found = entities.createQuery(
                        "select s from ShelfEntity s where s.siteId = :site and s.itemId = :item", ShelfEntity.class)
                .setParameter("site", siteId)
                .setParameter("item", itemId)
                .setLockMode(LockModeType.PESSIMISTIC_WRITE)
                .getResultStream()
                .findFirst();
        if (found.isPresent()) {
            return found.get();
        }
        var added = new ShelfEntity();
        added.siteId = siteId;
        added.itemId = itemId;
        entities.persist(added);
        entities.flush();
        return added;
    }
}
