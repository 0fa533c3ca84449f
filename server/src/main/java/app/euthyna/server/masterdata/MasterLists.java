package app.euthyna.server.masterdata;

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

/** The list of agreed prices. */
@Configuration(proxyBeanMethods = false)
class MasterLists {

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
