package app.euthyna.core.check;

import app.euthyna.core.shared.Refusal;
import java.util.List;
import java.util.stream.Collectors;

/** Why a check does not let an order be saved at all. */
public sealed interface CheckRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** The company's policy refuses a PO number that was used before. */
    record DuplicatePo(String po, List<PoUse> matches) implements CheckRefusal {
        @Override
        public String code() {
            return "duplicate-po";
        }

        @Override
        public String sentence() {
            return "The PO number %s was used before: %s."
                    .formatted(
                            po,
                            matches.stream()
                                    .map(use -> "%s as %s on %s".formatted(use.document(), use.po(), use.on()))
                                    .collect(Collectors.joining("; ")));
        }

        @Override
        public String instead() {
            return "Give the order its own PO number, or have it entered by a user who may waive this.";
        }
    }
}
