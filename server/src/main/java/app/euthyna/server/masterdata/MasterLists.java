package app.euthyna.server.masterdata;

import app.euthyna.core.order.LineKind;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The lists of customers and items. */
@Configuration(proxyBeanMethods = false)
class MasterLists {

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
                Reading.SELLING,
                new Sorting(Optional.of("name"), false),
                List.of(
                        Column.number("number", "Code", "x.code", "CUSTOMER").with(Trait.SHOWN),
                        Column.text("name", "Name", "x.name").with(Trait.SHOWN, Trait.SORTED),
                        Column.text("street", "Street", "x.street"),
                        Column.text("postcode", "Postcode", "x.postcode"),
                        Column.text("town", "Town", "x.town").with(Trait.SHOWN),
                        Column.text("country", "Country", "x.country"),
                        Column.text("class", "Class", "x.customerClass").with(Trait.SHOWN),
                        Column.text("region", "Region", "x.region"),
                        Column.amount("creditLimit", "Credit limit", "x.creditLimit")
                                .readBy(ReadBy.Group.TERMS)
                                .with(Trait.SHOWN),
                        Column.count("termsDays", "Days to pay", "x.termsDays").with(Trait.SHOWN),
                        Column.flag("blocked", "Blocked", "x.blockedOn is not null"),
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
                Reading.BUSINESS,
                new Sorting(Optional.of("name"), false),
                List.of(
                        Column.number("number", "Code", "x.code", "ITEM").with(Trait.SHOWN),
                        Column.text("name", "Name", "x.name").with(Trait.SHOWN, Trait.SORTED),
                        Column.choice("kind", "Kind", "x.kind", LineKind.class).with(Trait.SHOWN),
                        Column.text("class", "Class", "x.itemClass").with(Trait.SHOWN),
                        Column.text("unit", "Unit", "x.unit").with(Trait.SHOWN),
                        Column.amount("price", "List price", "x.price")
                                .readBy(ReadBy.Group.TERMS)
                                .with(Trait.SHOWN),
                        Column.amount("floor", "Floor price", "x.floorPrice").readBy(ReadBy.Group.COSTS),
                        Column.quantity("minStock", "Minimum stock", "x.minStock"),
                        Column.count("leadDays", "Lead days", "x.leadDays"),
                        Column.quantity("weight", "Weight kg", "x.weight"),
                        Column.quantity("volume", "Volume m³", "x.volume"),
                        Column.text("regulated", "Licence needed", "x.regulated")));
    }

    @Bean
    static DeclaredList pricesList() {
        return new DeclaredList(
                        "prices",
                        "Prices by quantity and customer",
                        "price",
                        "prices",
                        "PriceBreakEntity x",
                        "x.id",
                        List.of(),
                        Reading.SELLING,
                        new Sorting(Optional.of("item"), false),
                        List.of(
                                Column.number("number", "Code", "m.code", "ITEM"),
                                MasterColumns.item("x.itemId").with(Trait.SORTED),
                                MasterColumns.customerIfAny("x.customerId"),
                                Column.quantity("from", "From quantity", "x.fromQuantity")
                                        .with(Trait.SHOWN),
                                Column.amount("price", "Unit price", "x.unitPrice")
                                        .readBy(ReadBy.Group.TERMS)
                                        .with(Trait.SHOWN)))
                .shipping(Shipped.of("by-customer", "Agreed prices by customer", "customer:count"));
    }
}
