package app.euthyna.core.order;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.CommonRefusal.Missing;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.List;

/** What must be there before an order can be submitted; until then it stays a draft (section 3). */
public final class OrderEntry {

    private OrderEntry() {}

    /**
     * The mandatory entries that are missing, each named by its field.
     *
     * @param poRequired the customer's own rule
     * @param rules what the company asks of every order
     */
    public static List<Missing> missing(Order order, boolean poRequired, EntryRules rules) {
        var missing = new ArrayList<Missing>();
        if (poRequired && !order.hasPo()) {
            missing.add(new Missing("po", "customer " + order.customer() + " requires a PO number"));
        }
        if (order.kind() == OrderKind.REPLACEMENT && order.details().replaces().isEmpty()) {
            missing.add(new Missing("replaces", "the return or dispatch that it replaces"));
        }
        missing.addAll(rules.missing(order.details()));
        if (order.lines().stream().noneMatch(line -> line.kind().isBilled())) {
            missing.add(new Missing("lines", "at least one line with an item"));
        }
        for (var line : order.lines()) {
            if (line.kind().isBilled() && !line.quantity().isPositive()) {
                missing.add(new Missing("lines[" + line.no() + "].quantity", "a quantity above zero"));
            }
        }
        return missing;
    }

    /** What speaks against handing the order in. */
    public static List<Refusal> refusals(Order order, boolean poRequired, EntryRules rules) {
        var missing = missing(order, poRequired, rules);
        return missing.isEmpty() ? List.of() : List.of(new CommonRefusal.Incomplete(missing));
    }
}
