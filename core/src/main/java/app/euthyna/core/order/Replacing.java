package app.euthyna.core.order;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A replacement names its return or dispatch, and takes at most what that has, less what others replaced of it. */
public final class Replacing {

    private Replacing() {}

    /**
     * A return or dispatch that is replaced.
     *
     * @param quantities that came back, or are authorised to, or departed; by item
     * @param taken by other replacements of it
     */
    public record Replaced(
            DocumentRef document, String customer, Map<String, Quantity> quantities, Map<String, Quantity> taken) {

        Quantity left(String item) {
            return quantities
                    .getOrDefault(item, Quantity.ZERO)
                    .minus(taken.getOrDefault(item, Quantity.ZERO))
                    .max(Quantity.ZERO);
        }
    }

    /** What speaks against an order that replaces goods of a document. */
    public static List<Refusal> refusals(Order order, Replaced of) {
        if (!order.customer().equals(of.customer())) {
            return List.of(new CommonRefusal.WrongCustomer(of.document().capital(), of.customer(), order.customer()));
        }
        var asked = new LinkedHashMap<String, Quantity>();
        order.lines().stream()
                .filter(line -> line.kind().isBilled())
                .forEach(line -> asked.merge(line.item(), line.quantity(), Quantity::plus));
        var refusals = new ArrayList<Refusal>();
        asked.forEach((item, quantity) -> {
            if (quantity.exceeds(of.left(item))) {
                refusals.add(new MoreThanReplaced(of.document(), item, quantity, of.left(item)));
            }
        });
        return refusals;
    }

    /** More than there is to replace. */
    record MoreThanReplaced(DocumentRef document, String item, Quantity asked, Quantity left) implements Refusal {
        @Override
        public String code() {
            return document.kind() == DocumentKind.RETURN ? "more-than-returnable" : "more-than-dispatched";
        }
    }
}
