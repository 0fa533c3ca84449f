package app.euthyna.core.check;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The same customer's PO number must not be ordered twice by mistake (section 5). */
public final class DuplicatePo {

    private DuplicatePo() {}

    static Optional<Finding> look(Chain chain, CheckContext checkContext) {
        var order = chain.order();
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return Optional.empty();
        }
        var policy = checkContext.customer().po();
        return policy.ceiling().isPresent()
                ? ceiling(chain, po, checkContext, policy.ceiling().get())
                : matches(po, order.totals().net(), checkContext, policy);
    }

    /** Why a number can't be saved: the policy refuses what it stops, to whoever may not waive it. */
    public static Optional<Refusal> refusal(List<Finding> findings, PoPolicy policy, Person person) {
        return policy.barred() == PoPolicy.Barred.HOLD || person.decides()
                ? Optional.empty()
                : findings.stream()
                        .filter(f -> f.holds() && f.evidence() instanceof PoEvidence.PoMet)
                        .map(f -> (PoEvidence.PoMet) f.evidence())
                        .findFirst()
                        .map(met -> new CheckRefusal.DuplicatePo(
                                met.po(),
                                met.matches().stream()
                                        .map(PoEvidence.PoMet.Match::use)
                                        .toList()));
    }

    private static Optional<Finding> matches(PoNumber po, Money value, CheckContext checkContext, PoPolicy policy) {
        var matches = new ArrayList<PoEvidence.PoMet.Match>();
        var severity = Severity.OFF;
        for (var use : checkContext.poUses()) {
            var likeness = po.likeness(value, PoNumber.of(use.po()), use.net());
            var weight = likeness.map(policy::weight).orElse(Severity.OFF);
            if (weight != Severity.OFF) {
                matches.add(new PoEvidence.PoMet.Match(likeness.get(), use));
                severity = weight.compareTo(severity) > 0 ? weight : severity;
            }
        }
        matches.sort(Comparator.comparing(PoEvidence.PoMet.Match::kind)
                .thenComparing(m -> m.use().order()));
        return matches.isEmpty()
                ? Optional.empty()
                : Optional.of(
                        Finding.open(severity, new PoEvidence.PoMet(po.text(), matches), checkContext.businessDate()));
    }

    /** What was ordered under a number counts less what was cancelled of it. */
    private static Optional<Finding> ceiling(Chain chain, PoNumber po, CheckContext checkContext, Money ceiling) {
        var uses = checkContext.poUses().stream()
                .filter(use -> PoNumber.of(use.po()).normal().equals(po.normal()))
                .toList();
        var together = uses.stream().map(PoUse::left).reduce(left(chain), Money::plus);
        return together.compareTo(ceiling) <= 0
                ? Optional.empty()
                : Optional.of(Finding.open(
                        Severity.STOP,
                        new PoEvidence.PoCeilingPassed(chain.order().po(), together, ceiling, uses),
                        checkContext.businessDate()));
    }

    /** The net of an order without what was cancelled of it. */
    public static Money left(Chain chain) {
        return chain.order()
                .totals(line -> line.quantity().minus(chain.flow(line.no()).cancelled()))
                .net();
    }
}
