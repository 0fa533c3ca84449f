package app.euthyna.core.check;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Clearing several orders at once, in a sequence (section 4): what was open on an order by itself is waived; what
 * opens, or gets worse, because of those cleared before it holds the order, unless that was shown and accepted too.
 */
public final class Clearing {

    private Clearing() {}

    /**
     * The checks whose findings are waived.
     *
     * @param alone the order's findings before any of the others was cleared
     * @param now its findings behind those
     * @param accepted what may pass although it grew
     */
    public static Set<Check> passing(List<Finding> alone, List<Finding> now, Set<Check> accepted) {
        var grown = grown(alone, now);
        return now.stream()
                .filter(Finding::isOpen)
                .map(Finding::check)
                .filter(check -> !grown.contains(check) || accepted.contains(check))
                .collect(Collectors.toSet());
    }

    /** What is open only, or is worse, because others went first. */
    public static Set<Check> grown(List<Finding> alone, List<Finding> now) {
        return Checks.worse(alone, now).stream().map(Finding::check).collect(Collectors.toSet());
    }
}
