package app.euthyna.server.goods;

import java.util.Comparator;

/** An item at a store, by their ids: the order in which shelves are locked. */
record Place(long item, long site) implements Comparable<Place> {
    @Override
    public int compareTo(Place other) {
        return Comparator.comparing(Place::item).thenComparing(Place::site).compare(this, other);
    }
}
