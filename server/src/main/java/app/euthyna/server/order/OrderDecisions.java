package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Records;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What everybody needs who decides on an order: to lock it, to write what was decided, and to note it. */
@Component
public class OrderDecisions {

    private final OrderStore stored;
    private final Locks locks;
    private final EffectWriter writer;
    private final History history;

    OrderDecisions(OrderStore stored, Locks locks, EffectWriter writer, History history) {
        this.stored = stored;
        this.locks = locks;
        this.writer = writer;
        this.history = history;
    }

    /** An order and its customer, for whoever decides on it. */
    public void lock(String number) {
        locks.customerAndOrder(number);
    }

    /** Writes a decision on orders. */
    public void write(CommandContext context, List<Effect> effects) {
        writer.write(context, effects);
    }

    /** Notes in an order's history what was decided. */
    public void note(CommandContext context, String number, String event, String sentence) {
        history.note(context, number, event, sentence);
    }

    /** Somebody agreed to what an order says: who changed it before may decide on it again, who wrote it may not. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void agreed(String number) {
        var kept = stored.find(number);
        var header = kept.header;
        var writers = Records.lines(header.writers);
        if (!writers.isEmpty()) {
            writers.retainAll(header.splitOf == null ? Set.of() : stored.authors(header.customerId, header.splitOf));
            header.writers = Records.lines(writers);
            stored.save(kept);
        }
    }

    /** The version that an order is at. */
    public long version(String number) {
        return stored.version(number);
    }

    /** Refuses unless the order is still at the version that the user saw. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void requireVersion(String number, long version) {
        stored.requireVersion(number, version);
    }

    /** Moves an order's version where a decision on it leaves no effect. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moveVersion(String number) {
        stored.moveVersion(number);
    }
}
