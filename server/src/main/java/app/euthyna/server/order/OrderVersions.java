package app.euthyna.server.order;

import app.euthyna.server.platform.CommandContext;
import java.time.LocalDate;
import java.util.List;
import org.springframework.stereotype.Component;

/** Keeps each change of an order, drafts included: who, when, and what became different. */
@Component
class OrderVersions {

    private static final int LONGEST = 8000;

    private final OrderQueries queries;

    OrderVersions(OrderQueries queries) {
        this.queries = queries;
    }

    /** The day of an order's newest version. */
    LocalDate lastOf(OrderEntity order) {
        var last = queries.lastVersion(order.id);
        return last == null ? order.orderedOn : last;
    }

    /** The order as it was written is version 1; each change adds one. */
    void keep(CommandContext context, long order, List<String> differences) {
        var version = new OrderVersionEntity();
        version.orderId = order;
        version.versionNo = Math.toIntExact(queries.versionsOf(order)) + 2;
        version.changedOn = context.date();
        version.changedBy = context.person().username();
        var text = String.join("\n", differences);
        version.differences = text.length() > LONGEST ? text.substring(0, LONGEST) : text;
        queries.session().insert(version);
    }
}
