package app.euthyna.core.flow;

import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class EffectHandlersTests {

    private static final Effect COUNTED =
            new Effect.StockCounted("CT-1001", "QUAY", "RP-112", new Quantity(new BigDecimal("-2")), eur("-4.00"));
    private static final Effect CHANGED = new Effect.CustomerChanged("C101");

    @Test
    void eachTypeHasItsOwnAnswer() {
        var handlers = EffectHandlers.<String, String>answers("nothing")
                .answer(Effect.StockCounted.class, (who, effect) -> who + " counted " + effect.item())
                .answer(Effect.CustomerChanged.class, (who, effect) -> who + " changed " + effect.customer())
                .othersDoNotConcernIt();
        assertThat(handlers.of("Finn", COUNTED)).isEqualTo("Finn counted RP-112");
        assertThat(handlers.of("Morag", CHANGED)).isEqualTo("Morag changed C101");
        assertThat(handlers.of("Finn", new Effect.StockReceived("SR-1001", "QUAY", "RP-112", q(1), eur("2.00"))))
                .isEqualTo("nothing");
    }

    @Test
    void deedsAreDoneOnce() {
        var handlers = EffectHandlers.<List<String>>deeds()
                .on(Effect.StockCounted.class, (told, effect) -> told.add(effect.correction()))
                .othersDoNotConcernIt();
        var told = new ArrayList<String>();
        handlers.of(told, COUNTED);
        handlers.of(told, CHANGED);
        assertThat(told).containsExactly("CT-1001");
    }

    /** A new effect stops whoever has an answer to all of them, before it ever comes. */
    @Test
    void tableThatForgetsAnEffectIsNeverMade() {
        var all = EffectHandlers.types(Effect.class);
        assertThat(all).hasSize(40).contains(Effect.StockCounted.class, Effect.InvoicePosted.class);
        var table = EffectHandlers.<String>deeds();
        all.stream()
                .filter(type -> type != Effect.RefundGiven.class)
                .forEach(type -> table.nothing(type.asSubclass(Effect.class)));
        assertThatThrownBy(table::complete)
                .isInstanceOf(IllegalStateException.class)
                .hasMessage("effects without an answer: [RefundGiven]");
        assertThat(table.nothing(Effect.RefundGiven.class).complete()).isNotNull();
    }

    @Test
    void noTypeHasTwoAnswers() {
        assertThatThrownBy(() -> EffectHandlers.<String>deeds()
                        .nothing(Effect.StockCounted.class)
                        .on(Effect.StockCounted.class, (who, effect) -> {}))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessage("two handlers for StockCounted");
    }
}
