package app.euthyna.server.goods;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Shipped;
import app.euthyna.server.lists.Registers;
import app.euthyna.server.masterdata.MasterColumns;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The register of what left. */
@Configuration(proxyBeanMethods = false)
class GoodsLists {

    @Bean
    static DeclaredList dispatchRegister() {
        return Registers.of(
                        Register.DISPATCHES,
                        Reading.BUSINESS,
                        "dispatch-register",
                        "Register of dispatches",
                        "line or reversal",
                        "lines and reversals",
                        "DispatchRegisterEntity",
                        List.of(new Join("o", "left join OrderEntity o on o.id = r.orderId")),
                        Column.number("number", "Dispatch", "r.number", "DISPATCH"),
                        MasterColumns.customer("r.customerId"),
                        Column.number("order", "Order", "o.number", "ORDER").with(Trait.SHOWN),
                        MasterColumns.item("r.itemId"),
                        MasterColumns.site("r.siteId").with(Trait.SHOWN),
                        Column.quantity("quantity", "Quantity", "r.quantity").with(Trait.SHOWN, Trait.SUMMED),
                        Registers.amount("cost", "Cost").readBy(ReadBy.Group.COSTS))
                .shipping(
                        Shipped.of("by-item", "Shipped this month by item", "item:quantity", "enteredOn:in:this-month"),
                        Shipped.of(
                                "by-month",
                                "Shipped this year by month",
                                "enteredOn.month:count",
                                "enteredOn:in:this-year"));
    }
}
