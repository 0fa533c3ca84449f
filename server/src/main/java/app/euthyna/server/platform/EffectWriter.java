package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.DocumentKind;
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
    private final ObjectProvider<EffectGate> gates;
    private final Numbers numbers;

    EffectWriter(ObjectProvider<EffectSink> sinks, ObjectProvider<EffectGate> gates, Numbers numbers) {
        this.numbers = numbers;
        this.gates = gates;
        this.sinks = sinks;
    }

    /**
     * Stores the effects of a decision and everything that follows from them, in the command's transaction; answers all
     * of them.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Effect> write(CommandContext context, List<? extends Effect> effects) {
        gates.forEach(gate -> gate.check(context, effects));
        var all = new ArrayList<Effect>();
        store(context, List.copyOf(effects), all);
        sinks.orderedStream().forEach(sink -> sink.settle(context, all));
        return all;
    }

    /** The number of a document that an effect is about to make. */
    public String number(DocumentKind kind) {
        return numbers.next(kind);
    }

    /** The number of an invoice that an effect is about to make. */
    public String invoiceNumber(CommandContext context) {
        return numbers.nextInvoice(context);
    }

    /** The number of a credit note that an effect is about to make. */
    public String creditNoteNumber(CommandContext context) {
        return numbers.nextCreditNote(context);
    }

    private void store(CommandContext context, List<Effect> batch, List<Effect> all) {
        if (batch.isEmpty()) {
            return;
        }
        for (var effect : batch) {
            sinks.orderedStream().forEach(sink -> sink.store(context, effect));
        }
        all.addAll(batch);
        sinks.orderedStream()
                .forEach(sink ->
                        sink.follow(context.now(), batch, (given, further) -> store(given, List.copyOf(further), all)));
    }
}
