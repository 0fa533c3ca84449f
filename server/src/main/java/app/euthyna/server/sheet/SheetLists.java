package app.euthyna.server.sheet;

import app.euthyna.core.order.LineKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of customers, with where they stand, and of items, with what lies of them and waits. */
@Configuration(proxyBeanMethods = false)
class SheetLists {

    /** What customer {@code x} owes or is about to, without what is held; less what of its money is unused. */
    private static final String EXPOSURE = """
            coalesce((select sum(inv.openAmount) from InvoiceEntity inv
                where inv.customerId = x.id and inv.openAmount >= 0.0001bd), 0)
            + coalesce((select sum(ord.unbilledGross) + sum(case when ord.cleared = true then ord.openGross else 0 end)
                from OpenOrderEntity ord where ord.customerId = x.id), 0)
            - coalesce((select sum(pay.leftAmount) from PaymentEntity pay
                where pay.customerId = x.id and pay.leftAmount >= 0.0001bd), 0)""";

    /** Of item {@code x} over all stores. */
    private static String shelves(String figure) {
        return "coalesce((select sum(%s) from ShelfEntity shf where shf.itemId = x.id), 0)".formatted(figure);
    }

    @Bean
    static DeclaredList customersList() {
        return new DeclaredList(
                "customers",
                "Customers",
                "customer",
                "customers",
                "CustomerEntity x",
                "x.id",
                List.of(),
                Reading.SETTINGS,
                new Sorting(Optional.of("name"), false),
                List.of(
                        Column.number("number", "Code", "x.code", "CUSTOMER").with(Trait.SHOWN),
                        Column.text("name", "Name", "x.name")
                                .folded("x.searchKey", MasterData::searchKey)
                                .with(Trait.SHOWN, Trait.SORTED, Trait.SEARCHED),
                        Column.text("street", "Street", "x.street"),
                        Column.text("postcode", "Postcode", "x.postcode"),
                        Column.text("town", "Town", "x.town").with(Trait.SHOWN),
                        Column.text("country", "Country", "x.country"),
                        Column.text("class", "Class", "x.customerClass"),
                        Column.text("region", "Region", "x.region"),
                        Column.amount("creditLimit", "Credit limit", "x.creditLimit")
                                .readBy(ReadBy.Group.TERMS)
                                .with(Trait.SHOWN),
                        Column.amount("exposure", "Exposure", EXPOSURE)
                                .readBy(ReadBy.Group.SELLING)
                                .with(Trait.SHOWN),
                        Column.count("open", "Open orders", """
                                        (select count(ord.orderId) from OpenOrderEntity ord where ord.customerId = x.id)""")
                                .readBy(ReadBy.Group.SELLING)
                                .with(Trait.SHOWN),
                        Column.count("held", "Held", """
                                        (select count(ord.orderId) from OpenOrderEntity ord
                                            join OrderEntity hld on hld.id = ord.orderId
                                            where ord.customerId = x.id and hld.state = 'HELD')""")
                                .readBy(ReadBy.Group.SELLING)
                                .with(Trait.SHOWN),
                        Column.count("termsDays", "Days to pay", "x.termsDays"),
                        Column.flag("blocked", "Blocked", "x.blockedOn is not null")
                                .with(Trait.SHOWN),
                        Column.day("blockedOn", "Blocked since", "x.blockedOn"),
                        Column.text("contact", "Person to call", "x.contact"),
                        Column.text("phone", "Phone", "x.phone"),
                        Column.text("mail", "Mail", "x.email"),
                        Column.text("vatId", "VAT number", "x.vatId")));
    }

    @Bean
    static DeclaredList itemsList() {
        return new DeclaredList(
                "items",
                "Items",
                "item",
                "items",
                "ItemEntity x",
                "x.id",
                List.of(),
                Reading.ALL,
                new Sorting(Optional.of("name"), false),
                List.of(
                        Column.number("number", "Code", "x.code", "ITEM").with(Trait.SHOWN),
                        Column.text("name", "Name", "x.name")
                                .folded("x.searchKey", MasterData::searchKey)
                                .with(Trait.SHOWN, Trait.SORTED, Trait.SEARCHED),
                        Column.choice("kind", "Kind", "x.kind", LineKind.class).with(Trait.SHOWN),
                        Column.text("class", "Class", "x.itemClass"),
                        Column.text("unit", "Unit", "x.unit").with(Trait.SHOWN),
                        Column.amount("price", "List price", "x.price")
                                .readBy(ReadBy.Group.TERMS)
                                .with(Trait.SHOWN),
                        Column.amount("floor", "Floor price", "x.floorPrice").readBy(ReadBy.Group.COSTS),
                        Column.quantity("onHand", "On hand", shelves("shf.onHand"))
                                .with(Trait.SHOWN),
                        Column.quantity("free", "Free", shelves("shf.onHand - shf.reserved"))
                                .with(Trait.SHOWN),
                        Column.quantity("waits", "Waits", """
                                        coalesce((select sum(clm.waiting) from StockClaimEntity clm
                                            where clm.itemId = x.id and clm.waits = true), 0)""").with(Trait.SHOWN),
                        Column.quantity("minStock", "Minimum stock", "x.minStock"),
                        Column.count("leadDays", "Lead days", "x.leadDays"),
                        Column.quantity("weight", "Weight kg", "x.weight"),
                        Column.quantity("volume", "Volume m³", "x.volume"),
                        Column.text("regulated", "Licence needed", "x.regulated")
                                .with(Trait.SHOWN)));
    }
}
