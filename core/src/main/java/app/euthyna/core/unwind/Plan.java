package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Locale;

/**
 * How something is undone: steps in the order in which they are carried out.
 *
 * @param words what carrying it out will do
 */
public record Plan(String words, List<Step> steps) {

    /** One step with its effects; they are complete, so folding them over the chain is the preview. */
    public record Step(Kind kind, String sentence, Timing timing, List<Role> by, List<Effect> effects) {
        public Step {
            by = List.copyOf(by);
            effects = List.copyOf(effects);
        }
    }

    /** What a step does. */
    public enum Kind {
        RECALL, RELEASE_RESERVATION, VOID_STAGED, CANCEL_QUANTITY;

        public String code() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** When a step can be done. */
    public enum Timing {
        /** With the plan, by whoever carries it out. */
        NOW,
        /** Somebody else must do it. */
        SOMEBODY_ELSE,
        /** Something physical must happen first. */
        WAITS
    }

    public Plan {
        steps = List.copyOf(steps);
    }

    public List<Effect> effects() {
        return steps.stream().flatMap(step -> step.effects().stream()).toList();
    }
}
