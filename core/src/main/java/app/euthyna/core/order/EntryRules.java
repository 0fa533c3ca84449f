package app.euthyna.core.order;

import app.euthyna.core.shared.CommonRefusal.Missing;
import java.util.ArrayList;
import java.util.List;

/**
 * What the company asks of every order beside customer and lines.
 *
 * @param units parts of the company that revenue counts for; where there are some, an order names one of them, the
 *     first when it says nothing
 */
public record EntryRules(List<Unit> units, List<CompanyField> fields) {

    /** A part of the company that revenue counts for. */
    public record Unit(String code, String name) {}

    public static final EntryRules NONE = new EntryRules(List.of(), List.of());

    public EntryRules {
        units = List.copyOf(units);
        fields = List.copyOf(fields);
    }

    /** The unit of an order that names none. */
    public String standardUnit() {
        return units.isEmpty() ? "" : units.get(0).code();
    }

    /** What is missing on an order. */
    List<Missing> missing(Details details) {
        var missing = new ArrayList<Missing>();
        if (!units.isEmpty() && details.revenueUnit().isBlank()) {
            missing.add(new Missing("revenueUnit", "one of the company's revenue units"));
        }
        for (var field : fields) {
            if (field.required()
                    && details.fields().getOrDefault(field.code(), "").isBlank()) {
                missing.add(new Missing("fields." + field.code(), field.label()));
            }
        }
        return missing;
    }

    /** Values that can't be kept, each with what is expected instead. */
    public List<Missing> bad(Details details) {
        var bad = new ArrayList<Missing>();
        if (!details.revenueUnit().isBlank()
                && units.stream().noneMatch(unit -> unit.code().equals(details.revenueUnit()))) {
            bad.add(new Missing(
                    "revenueUnit",
                    "one of " + String.join(", ", units.stream().map(Unit::code).toList())));
        }
        details.fields()
                .forEach((code, value) -> fields.stream()
                        .filter(field -> field.code().equals(code))
                        .findFirst()
                        .ifPresentOrElse(
                                field -> field.expectedInstead(value)
                                        .ifPresent(expected -> bad.add(new Missing("fields." + code, expected))),
                                () -> bad.add(new Missing("fields." + code, "one of the company fields"))));
        return bad;
    }
}
