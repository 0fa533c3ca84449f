package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.DocumentKind;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.util.function.SingletonSupplier;

/**
 * The one place through which effects reach the database, so that no capability can forget an entry, a line of history
 * or a re-check.
 */
@Component
public class EffectWriter {

    /** Some of them write effects themselves: they are looked for when the first effect comes, and once. */
    private final Supplier<List<EffectSink>> sinks;

    private final Supplier<List<EffectGate>> gates;
    private final Numbers numbers;

    EffectWriter(ObjectProvider<EffectSink> sinks, ObjectProvider<EffectGate> gates, Numbers numbers) {
        this.numbers = numbers;
        this.gates = SingletonSupplier.of(() -> gates.orderedStream().toList());
        this.sinks = SingletonSupplier.of(() -> sinks.orderedStream().toList());
    }

    /**
     * Stores the effects of a decision and everything that follows from them, in the command's transaction; answers all
     * of them.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<Effect> write(CommandContext context, List<? extends Effect> effects) {
        gates.get().forEach(gate -> gate.check(context, effects));
        var all = new ArrayList<Effect>();
        store(context, List.copyOf(effects), all);
        sinks.get().forEach(sink -> sink.settle(context, all));
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
            sinks.get().forEach(sink -> sink.store(context, effect));
        }
        all.addAll(batch);
        sinks.get()
                .forEach(sink ->
                        sink.follow(context.now(), batch, (given, further) -> store(given, List.copyOf(further), all)));
    }
}
