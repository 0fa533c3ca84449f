package app.euthyna.server.billing;

import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The orders of which something left, or is done, that no invoice is about. */
@Configuration(proxyBeanMethods = false)
class ToBillList {

    @Bean
    static DeclaredList ordersToBillList() {
        return new DeclaredList(
                        "to-bill",
                        "Orders to bill",
                        "order to bill",
                        "orders to bill",
                        "OpenOrderEntity x",
                        "x.orderId",
                        List.of(new Join("o", "OrderEntity", "o.id = x.orderId")),
                        Reading.SELLING,
                        new Sorting(Optional.of("customer"), false),
                        List.of(
                                Column.number("number", "Order", "o.number", "ORDER")
                                        .with(Trait.SHOWN),
                                MasterColumns.customer("x.customerId"),
                                MasterColumns.po("o"),
                                Column.day("since", "Since", "x.billableSince").with(Trait.SHOWN, Trait.SORTED),
                                MasterColumns.site("o.siteId"),
                                Column.day("requestedOn", "Requested", "x.requestedOn"),
                                Column.flag("partShipped", "Part shipped", "x.partShipped = true"),
                                Column.amount("net", "Net to bill", "x.billableNet")
                                        .with(Trait.SHOWN, Trait.SORTED, Trait.SUMMED),
                                Column.amount("gross", "Gross of the order", "o.gross")))
                .within("x.billable = true")
                .shipping(
                        Shipped.of("oldest", "Waiting longest for an invoice", "since.week:net"),
                        Shipped.of("by-customer", "To bill by customer", "customer:net"),
                        Shipped.of("last-months", "To bill since last month", "customer:net", "since:in:last-month"));
    }
}
