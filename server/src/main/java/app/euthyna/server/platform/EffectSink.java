package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import java.util.List;

/**
 * A capability that keeps something of effects, or answers them. Sinks are asked in the order of their capabilities,
 * given by {@code @Order}.
 */
public interface EffectSink {

    /** Stores what the capability keeps of one effect. */
    default void store(CommandContext context, Effect effect) {}

    /**
     * Answers a batch once all of it is stored: a clearing reserves stock, a payment lets held orders go.
     *
     * @param context dated today, whatever the date of what is answered
     */
    default void follow(CommandContext context, List<Effect> batch, Further further) {}

    /** Brings the documents' versions up to date when the command has had all its effects. */
    default void settle(CommandContext context, List<Effect> all) {}

    /** Writes effects that follow from others, at once and with all that follows from them in turn. */
    interface Further {
        /** What follows is done now, or on a date that follows from its documents. */
        void write(CommandContext context, List<? extends Effect> effects);
    }
}
