package app.euthyna.server.masterdata;

import app.euthyna.core.check.PoNumber;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;

/** Columns of lists that name a customer, an item or a store. */
public final class MasterColumns {

    private MasterColumns() {}

    /** The customer, by whose name rows can be sorted. */
    public static Column customer(String idPath) {
        return customerIfAny(idPath).with(Trait.SORTED);
    }

    /** The customer, where there may be none. */
    public static Column customerIfAny(String idPath) {
        return Column.code("customer", "Customer", idPath, "CustomerEntity", "c", "CUSTOMER")
                .with(Trait.SHOWN);
    }

    public static Column item(String idPath) {
        return Column.code("item", "Item", idPath, "ItemEntity", "m", "ITEM").with(Trait.SHOWN);
    }

    public static Column site(String idPath) {
        return Column.code("site", "Store", idPath, "SiteEntity", "s", "SITE");
    }

    /** The customer's own number of an order, found however it is written. */
    public static Column po(String alias) {
        return Column.text("po", "Customer PO", alias + ".po")
                .folded(alias + ".poNormal", asked -> PoNumber.of(asked).normal())
                .with(Trait.SHOWN, Trait.LOOKED_UP);
    }
}
