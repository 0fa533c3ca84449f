package app.euthyna.core.order;

import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.CommonRefusal;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class OrderEntryTests {

    private static final EntryRules RULES = new EntryRules(
            List.of(new EntryRules.Unit("SEA", "At sea"), new EntryRules.Unit("LAND", "On land")),
            List.of(
                    new CompanyField("berth", "Berth", CompanyField.Kind.TEXT, List.of(), true),
                    new CompanyField("draught", "Draught", CompanyField.Kind.NUMBER, List.of(), false),
                    new CompanyField("rig", "Rig", CompanyField.Kind.LIST, List.of("sloop", "ketch"), false)));

    private static List<String> fields(List<CommonRefusal.Missing> missing) {
        return missing.stream().map(CommonRefusal.Missing::field).toList();
    }

    @Test
    void asksForAPoOnlyWhereTheCustomerDoes() {
        var order = order("SO-1", OrderState.DRAFT, stock(1, "A", "1", "1", "21"));
        assertThat(OrderEntry.missing(order, true, EntryRules.NONE)).isEmpty();
        var without = new Order(
                order.number(),
                order.sequence(),
                order.kind(),
                order.state(),
                order.customer(),
                "",
                order.site(),
                order.orderedOn(),
                order.requestedOn(),
                order.remark(),
                order.author(),
                order.lastEditor(),
                order.writers(),
                order.currency(),
                order.details(),
                order.lines());
        assertThat(OrderEntry.missing(without, false, EntryRules.NONE)).isEmpty();
        assertThat(OrderEntry.refusals(without, true, EntryRules.NONE))
                .extracting(refusal -> refusal.sentence())
                .containsExactly("po: customer C requires a PO number.");
    }

    @Test
    void asksForAnItemAndAQuantityOfEachLine() {
        var text = line(1, LineKind.TEXT, "", "0", "0", "0");
        assertThat(fields(OrderEntry.missing(order("SO-1", OrderState.DRAFT, text), false, EntryRules.NONE)))
                .containsExactly("lines");
        assertThat(fields(OrderEntry.missing(
                        order("SO-1", OrderState.DRAFT, text, stock(2, "A", "0", "1", "21")), false, EntryRules.NONE)))
                .containsExactly("lines[2].quantity");
    }

    @Test
    void asksForWhatTheCompanyWantsOfEveryOrder() {
        var order = order("SO-1", OrderState.DRAFT, stock(1, "A", "1", "1", "21"));
        assertThat(fields(OrderEntry.missing(order, false, RULES))).containsExactly("revenueUnit", "fields.berth");
        assertThat(RULES.standardUnit()).isEqualTo("SEA");
        assertThat(EntryRules.NONE.standardUnit()).isEmpty();
    }

    @Test
    void takesOnlyValuesThatAFieldCanHold() {
        var bad =
                new Details("", "AIR", ShipTo.CUSTOMER, Map.of("draught", "deep", "rig", "barque", "mast", "tall"), "");
        assertThat(fields(RULES.bad(bad)))
                .containsExactlyInAnyOrder("revenueUnit", "fields.draught", "fields.rig", "fields.mast");
        var good = new Details("", "LAND", ShipTo.CUSTOMER, Map.of("draught", "2.5", "rig", "ketch"), "");
        assertThat(RULES.bad(good)).isEmpty();
    }
}
