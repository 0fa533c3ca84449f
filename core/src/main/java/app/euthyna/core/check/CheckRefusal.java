package app.euthyna.core.check;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Refusal;
import java.util.List;
import java.util.stream.Collectors;

/** Why a check does not let an order be saved at all. */
public sealed interface CheckRefusal extends Refusal {

    /** The company's policy refuses a PO number that was used before. */
    @Code("duplicate-po")
    record DuplicatePo(String po, List<PoUse> matches) implements CheckRefusal {
        /** Where it was used. */
        String uses() {
            return matches.stream()
                    .map(use -> "%s as %s on %s".formatted(use.document(), use.po(), Figures.day(use.on())))
                    .collect(Collectors.joining("; "));
        }
    }
}
