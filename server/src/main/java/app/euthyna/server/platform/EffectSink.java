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

    /** Answers a batch once all of it is stored: a clearing reserves stock, a payment lets held orders go. */
    default void follow(CommandContext context, List<Effect> batch, Further further) {}

    /** Brings the documents' versions up to date when the command has had all its effects. */
    default void settle(CommandContext context, List<Effect> all) {}

    /** Writes effects that follow from others, at once and with all that follows from them in turn. */
    interface Further {
        default void write(List<? extends Effect> effects) {
            write("", effects);
        }

        /** Likewise, for a reason of their own; an empty one is the command's. */
        void write(String reason, List<? extends Effect> effects);
    }
}
