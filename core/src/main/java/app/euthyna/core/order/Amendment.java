package app.euthyna.core.order;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;

/** Whether an order may be changed into another content, and what the change amounts to in words. */
public final class Amendment {

    private Amendment() {}

    /** The changed order with its readable differences, in the order of the fields. */
    public record Change(Order order, List<String> differences) {}

    /**
     * Decides on a change of content.
     *
     * @param committed per line the least quantity that staged, shipped, billed and cancelled goods leave possible
     */
    public static Decision<Change> decide(
            Order before, Order after, Map<Integer, Committed> committed, boolean poRequired, EntryRules rules) {
        if (before.state() == OrderState.AWAITING_APPROVAL) {
            return Decision.refused(new OrderRefusal.Locked(before.number()));
        }
        if (before.state().isEnded()) {
            return Decision.refused(new OrderRefusal.Ended(before.number(), before.state()));
        }
        var refusals = new ArrayList<Refusal>();
        for (var line : before.lines()) {
            var bound = committed.get(line.no());
            if (bound == null || bound.least().isZero()) {
                continue;
            }
            var quantity = after.hasLine(line.no()) ? after.line(line.no()).quantity() : Quantity.ZERO;
            if (bound.least().exceeds(quantity)) {
                refusals.add(new OrderRefusal.BelowCommitted(
                        before.number(), line.no(), quantity, bound.least(), bound.reason()));
            } else if (!after.line(line.no()).item().equals(line.item())) {
                refusals.add(CommonRefusal.Incomplete.of(
                        "lines[" + line.no() + "].item",
                        "the item cannot change once the line is staged, shipped, billed or cancelled"));
            }
        }
        if (before.state() != OrderState.DRAFT) {
            refusals.addAll(OrderEntry.refusals(after, poRequired, rules));
        }
        return refusals.isEmpty()
                ? Decision.of(new Change(after, differences(before, after)))
                : Decision.refused(refusals);
    }

    private static List<String> differences(Order before, Order after) {
        var differences = new ArrayList<String>();
        differ(differences, "PO", before.po(), after.po());
        differ(differences, "requested", before.requestedOn(), after.requestedOn());
        differ(differences, "remark", before.remark(), after.remark());
        differ(
                differences,
                "external reference",
                before.details().externalReference(),
                after.details().externalReference());
        differ(
                differences,
                "revenue unit",
                before.details().revenueUnit(),
                after.details().revenueUnit());
        differ(
                differences,
                "ship-to",
                before.details().shipTo().words(),
                after.details().shipTo().words());
        differ(
                differences,
                "replaces",
                before.details().replaces(),
                after.details().replaces());
        Stream.concat(before.details().fields().keySet().stream(), after.details().fields().keySet().stream())
                .distinct()
                .sorted()
                .forEach(code -> differ(
                        differences,
                        code,
                        before.details().fields().getOrDefault(code, ""),
                        after.details().fields().getOrDefault(code, "")));
        for (var line : before.lines()) {
            if (!after.hasLine(line.no())) {
                differences.add("line %d: %s removed".formatted(line.no(), what(line)));
                continue;
            }
            differ(differences, before, line, after);
        }
        after.lines().stream()
                .filter(line -> !before.hasLine(line.no()))
                .forEach(line -> differences.add("line %d: %s added".formatted(line.no(), what(line))));
        return differences;
    }

    private static void differ(List<String> differences, Order before, OrderLine line, Order after) {
        var changed = after.line(line.no());
        var where = "line " + line.no() + " ";
        differ(differences, where + "item", line.item(), changed.item());
        differ(differences, where + "quantity", line.quantity(), changed.quantity());
        differ(
                differences,
                where + "price",
                line.price().unit().toPlainString(),
                changed.price().unit().toPlainString());
        differ(
                differences,
                where + "discount",
                Figures.plain(line.price().discountPercent()),
                Figures.plain(changed.price().discountPercent()));
        differ(differences, where + "requested", line.requestedOn(), changed.requestedOn());
        differ(differences, where + "store", before.siteOf(line), after.siteOf(changed));
        differ(differences, where + "when short", line.shortage(), changed.shortage());
        if (!line.kind().isBilled()) {
            differ(differences, where + "text", line.description(), changed.description());
        }
    }

    private static void differ(List<String> differences, String field, Object before, Object after) {
        if (!Objects.equals(before, after)) {
            differences.add("%s from %s to %s".formatted(field, words(before), words(after)));
        }
    }

    private static String what(OrderLine line) {
        return line.kind().isBilled()
                ? line.quantity() + " " + line.description()
                : line.kind() == LineKind.SUBTOTAL ? "subtotal" : "text";
    }

    private static String words(Object value) {
        return value.toString().isBlank() ? "nothing" : value.toString();
    }
}
