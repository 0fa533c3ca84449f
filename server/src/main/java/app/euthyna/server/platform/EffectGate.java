package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import java.util.List;

/** Looks at effects before any of them is written, and refuses what no capability may write. */
public interface EffectGate {

    /** Throws a {@link RefusedException} where the effects may not be written. */
    void check(CommandContext context, List<? extends Effect> effects);
}
