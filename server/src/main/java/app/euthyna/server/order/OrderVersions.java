package app.euthyna.server.order;

import app.euthyna.server.platform.CommandContext;
import jakarta.persistence.EntityManager;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Keeps each change of an order, drafts included: who, when, and what became different. */
@Component
class OrderVersions {

    private static final int LONGEST = 8000;

    private final EntityManager entities;

    OrderVersions(EntityManager entities) {
        this.entities = entities;
    }

    /** The day of an order's newest version. */
    LocalDate lastOf(OrderEntity order) {
        return entities.createQuery(
                        "select max(v.changedOn) from OrderVersionEntity v where v.orderId = :order", LocalDate.class)
                .setParameter("order", order.id)
                .getResultStream()
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(order.orderedOn);
    }

    /** The order as it was written is version 1; each change adds one. */
    void keep(CommandContext context, long order, List<String> differences) {
        var version = new OrderVersionEntity();
        version.orderId = order;
        version.versionNo =
                entities.createQuery("select count(v) from OrderVersionEntity v where v.orderId = :order", Long.class)
                                .setParameter("order", order)
                                .getSingleResult()
                                .intValue()
                        + 2;
        version.changedOn = context.date();
        version.changedBy = context.person().username();
        var text = String.join("\n", differences);
        version.differences = text.length() > LONGEST ? text.substring(0, LONGEST) : text;
        entities.persist(version);
    }
}
