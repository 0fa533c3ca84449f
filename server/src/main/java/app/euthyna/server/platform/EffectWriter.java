package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one place through which effects reach the database, so that no capability can forget an entry, a line of history
 * or a re-check.
 */
@Component
public class EffectWriter {

    private final ObjectProvider<EffectSink> sinks;
    private final EntityManager entities;

    EffectWriter(ObjectProvider<EffectSink> sinks, EntityManager entities) {
        this.sinks = sinks;
        this.entities = entities;
    }

    /**
     * Stores the effects of a decision and everything that follows from them, in the command's transaction; answers all
     * of them.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Effect> write(CommandContext context, List<? extends Effect> effects) {
        var all = new ArrayList<Effect>();
        store(context, List.copyOf(effects), all);
        sinks.orderedStream().forEach(sink -> sink.settle(context, all));
        entities.flush();
        return all;
    }

    private void store(CommandContext context, List<Effect> batch, List<Effect> all) {
        if (batch.isEmpty()) {
            return;
        }
        for (var effect : batch) {
            sinks.orderedStream().forEach(sink -> sink.store(context, effect));
        }
        entities.flush();
        all.addAll(batch);
        sinks.orderedStream()
                .forEach(sink -> sink.follow(
                        context,
                        batch,
                        (reason, further) -> store(
                                reason.isEmpty() ? context : context.because(reason), List.copyOf(further), all)));
    }
}
