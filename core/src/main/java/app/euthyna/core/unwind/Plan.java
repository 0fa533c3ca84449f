package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * How something is undone: steps in the order in which they are carried out.
 *
 * @param words what carrying it out will do
 * @param value what is undone, net at the order's prices where it is goods, else the amount
 * @param questions where the person who undoes has a choice
 */
public record Plan(String words, Money value, List<Step> steps, List<Question> questions) {

    /**
     * One step with its effects; they are complete, so folding them over the chain is the preview. Of a step that waits
     * they are what is to be expected if all comes as planned.
     *
     * @param because why whoever undoes can't do it, where somebody else must
     */
    public record Step(
            Kind kind, String sentence, Timing timing, List<Role> by, List<Effect> effects, Optional<Refusal> because) {
        public Step {
            by = List.copyOf(by);
            effects = List.copyOf(effects);
        }

        /** A step that nothing is said against. */
        public Step(Kind kind, String sentence, Timing timing, List<Role> by, List<Effect> effects) {
            this(kind, sentence, timing, by, effects, Optional.empty());
        }
    }

    /** What a step does. */
    public enum Kind {
        RECALL,
        RELEASE_RESERVATION,
        VOID_STAGED,
        REVERSE_DISPATCH,
        UNALLOCATE_PAYMENT,
        UNALLOCATE_CREDIT,
        UNAPPLY_DEPOSIT,
        REVERSE_INVOICE,
        REVERSE_CREDIT,
        REVERSE_WRITE_OFF,
        REVERSE_INSPECTION,
        REVERSE_RECEIPT,
        WITHDRAW_RETURN,
        REVERSE_PAYMENT,
        REVERSE_DEPOSIT,
        REVERSE_REFUND,
        AUTHORISE_RETURN,
        RECEIVE_GOODS,
        INSPECT_GOODS,
        CREDIT,
        REFUND,
        MOVE_TO_CUSTOMER_CREDIT,
        CANCEL_QUANTITY;

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

    /** A choice that makes a difference to this plan, with what each answer does. */
    public record Question(String code, String words, List<Answer> answers) {
        public Question {
            answers = List.copyOf(answers);
        }
    }

    /** One answer to a question. */
    public record Answer(String code, String words) {}

    public Plan {
        steps = List.copyOf(steps);
        questions = List.copyOf(questions);
    }

    /** Of all steps, those that wait included. */
    public List<Effect> effects() {
        return steps.stream().flatMap(step -> step.effects().stream()).toList();
    }

    /** The steps up to the first that waits. */
    public List<Step> now() {
        return steps.stream().takeWhile(step -> step.timing() == Timing.NOW).toList();
    }

    /** The first step that waits, if any does. */
    public Optional<Step> waitsAt() {
        return steps.stream().filter(step -> step.timing() != Timing.NOW).findFirst();
    }
}
