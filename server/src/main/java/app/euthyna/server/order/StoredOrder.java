package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;

/** An order as it is kept: its row and those of its lines, removed ones too. */
final class StoredOrder {

    final OrderEntity header;
    private final List<OrderLineEntity> lines;
    private final Set<OrderLineEntity> changed = new LinkedHashSet<>();

    StoredOrder(OrderEntity header, List<OrderLineEntity> lines) {
        this.header = header;
        this.lines = new ArrayList<>(lines);
    }

    String number() {
        return header.number;
    }

    /** The first order of its family: itself, where it was not split off one. */
    long family() {
        return header.splitOf == null ? header.id : header.splitOf;
    }

    int lastLine() {
        return lines.stream().mapToInt(line -> line.lineNo).max().orElse(0);
    }

    List<OrderLineEntity> lines() {
        return List.copyOf(lines);
    }

    /** The lines that are to be written; they are taken for written from now on. */
    List<OrderLineEntity> takeChanged() {
        var taken = List.copyOf(changed);
        changed.clear();
        return taken;
    }

    /** Changes a line. */
    void change(OrderLineEntity line, Consumer<OrderLineEntity> change) {
        change.accept(line);
        changed.add(line);
    }

    Order toCore(String customer, String site, Currency currency) {
        return header.toCore(
                customer,
                site,
                currency,
                lines.stream()
                        .filter(line -> !line.removed)
                        .map(OrderLineEntity::toCore)
                        .toList());
    }

    /** Takes over the content of an order; customer, store and state stay as they are. */
    void write(Order order) {
        header.write(order);
        lines.stream()
                .filter(line -> !line.removed && !order.hasLine(line.lineNo))
                .forEach(line -> change(line, one -> one.removed = true));
        for (var line : order.lines()) {
            var stored = lines.stream()
                    .filter(one -> one.lineNo == line.no())
                    .findFirst()
                    .orElseGet(() -> added(line));
            if (stored.id == null || stored.removed || !stored.toCore().equals(line)) {
                change(stored, one -> one.write(line));
            }
        }
    }

    private OrderLineEntity added(OrderLine line) {
        var added = new OrderLineEntity();
        added.lineNo = line.no();
        lines.add(added);
        return added;
    }

    /** What was wanted on the day of the order is wanted at once: on the day on which it is submitted. */
    void wantAtOnce(LocalDate today) {
        if (header.orderedOn.isBefore(today)) {
            lines.stream()
                    .filter(line -> line.requestedOn.equals(header.orderedOn))
                    .forEach(line -> change(line, one -> one.requestedOn = today));
            if (header.requestedOn.equals(header.orderedOn)) {
                header.requestedOn = today;
            }
        }
    }
}
