package app.euthyna.core.unwind;

import app.euthyna.core.shared.DocumentKind;
import java.util.EnumMap;
import java.util.Map;
import java.util.function.Function;

/** Numbers that stand in for those which documents get when a step is carried out. */
public final class Placeholders implements Function<DocumentKind, String> {

    private final Map<DocumentKind, Integer> given = new EnumMap<>(DocumentKind.class);

    @Override
    public String apply(DocumentKind kind) {
        var no = given.merge(kind, 1, Integer::sum);
        return kind.prefix() + "new" + (no == 1 ? "" : "-" + no);
    }
}
