package app.euthyna.core.check;

import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Money;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Optional;

/** The same customer's PO number must not be ordered twice by mistake (section 5). */
final class DuplicatePo {

    private DuplicatePo() {
    }

    static Optional<Finding> look(Order order, Surroundings around) {
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return Optional.empty();
        }
        var policy = around.customer().po();
        return policy.ceiling().isPresent() ? ceiling(order, around, policy.ceiling().get()) : matches(po, around, policy);
    }

    private static Optional<Finding> matches(PoNumber po, Surroundings around, PoPolicy policy) {
        var matches = new ArrayList<Evidence.PoMet.Match>();
        var severity = Severity.OFF;
        for (var use : around.poUses()) {
            var kind = use.po().equals(po.text()) ? Evidence.PoMet.Kind.SAME : Evidence.PoMet.Kind.ALIKE;
            var weight = kind == Evidence.PoMet.Kind.SAME ? policy.same() : policy.alike();
            if (weight != Severity.OFF) {
                matches.add(new Evidence.PoMet.Match(kind, use));
                severity = weight.compareTo(severity) > 0 ? weight : severity;
            }
        }
        matches.sort(Comparator.comparing(Evidence.PoMet.Match::kind).thenComparing(m -> m.use().order()));
        return matches.isEmpty() ? Optional.empty()
                : Optional.of(Finding.open(severity, new Evidence.PoMet(po.text(), matches), around.businessDate()));
    }

    private static Optional<Finding> ceiling(Order order, Surroundings around, Money ceiling) {
        var together = around.poUses().stream().map(PoUse::net).reduce(order.totals().net(), Money::plus);
        return together.compareTo(ceiling) <= 0 ? Optional.empty()
                : Optional.of(Finding.open(Severity.STOP,
                        new Evidence.PoCeilingPassed(order.po(), together, ceiling, around.poUses()), around.businessDate()));
    }
}
