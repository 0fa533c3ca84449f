package app.euthyna.core.check;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Runs the checks over an order in its surroundings and carries its findings on (section 4). */
public final class Checks {

    private Checks() {
    }

    /** Why the checks run: it decides which of them have a say. */
    public enum Occasion {
        /** Handed in, or looked at before it is. */
        SUBMITTED,
        /** Its content was changed. */
        CHANGED,
        /** What was agreed with its customer changed: a limit, a block, when invoices count as overdue. */
        CUSTOMER_CHANGED,
        /** Something around it changed: a payment, stock, another order's end. */
        WORLD_CHANGED
    }

    /**
     * The findings after a new run. What fires and was waived stays waived while it is no worse; what no longer fires is settled;
     * an order that has ended has all its findings settled.
     *
     * @param openGrossBefore the order's open value before it changed; only an order that is worth more by its change is measured
     * against the limit again once cleared, since the exposure that later orders add never reaches back to it
     */
    public static List<Finding> run(Chain chain, Surroundings around, List<Finding> before, Occasion occasion,
            Optional<Money> openGrossBefore) {
        if (chain.order().state().isEnded()) {
            return before.stream().map(f -> f.state() == Finding.State.SETTLED ? f : f.settled()).toList();
        }
        var asked = asked(chain, occasion, openGrossBefore);
        var fresh = new EnumMap<Check, Finding>(Check.class);
        for (var check : asked) {
            look(check, chain, around).ifPresent(finding -> fresh.put(check, finding));
        }
        var after = new ArrayList<Finding>();
        for (var finding : before) {
            if (!asked.contains(finding.check())) {
                after.add(finding);
                continue;
            }
            var again = fresh.remove(finding.check());
            if (again == null) {
                after.add(finding.state() == Finding.State.SETTLED ? finding : finding.settled());
            } else {
                after.add(carryOn(finding, again));
            }
        }
        after.addAll(fresh.values());
        after.sort(Comparator.comparing(Finding::check));
        return after;
    }

    private static Set<Check> asked(Chain chain, Occasion occasion, Optional<Money> openGrossBefore) {
        var cleared = chain.order().state().isCleared();
        if (!cleared || occasion == Occasion.SUBMITTED) {
            return EnumSet.allOf(Check.class);
        }
        if (occasion == Occasion.WORLD_CHANGED) {
            return EnumSet.of(Check.UNRESERVED);
        }
        if (occasion == Occasion.CUSTOMER_CHANGED) {
            return chain.stillToLeave() ? EnumSet.of(Check.BLOCKED, Check.CREDIT_LIMIT, Check.OVERDUE) : EnumSet.noneOf(Check.class);
        }
        var worthMore = openGrossBefore.map(was -> chain.openGross().compareTo(was) > 0).orElse(true);
        return worthMore ? EnumSet.allOf(Check.class) : EnumSet.complementOf(EnumSet.of(Check.CREDIT_LIMIT));
    }

    private static Finding carryOn(Finding before, Finding again) {
        return switch (before.state()) {
            case OPEN -> new Finding(again.severity(), Finding.State.OPEN, again.evidence(), before.since(), Optional.empty());
            case WAIVED -> again.evidence().isWorseThan(before.evidence()) ? again : before;
            case SETTLED -> again;
        };
    }

    private static Optional<Finding> look(Check check, Chain chain, Surroundings around) {
        if (check == Check.DUPLICATE_PO) {
            return DuplicatePo.look(chain.order(), around);
        }
        var severity = around.policy().of(check, chain.order().kind());
        if (severity == Severity.OFF) {
            return Optional.empty();
        }
        var evidence = switch (check) {
            case BLOCKED -> around.customer().block().<Evidence>map(Evidence.Blocked::new);
            case CREDIT_LIMIT -> overLimit(chain, around);
            case OVERDUE -> overdue(around);
            case PRICE_FLOOR -> belowFloor(chain, around);
            case ZERO_PRICE -> wrongPrice(chain);
            case LICENCE -> unlicensed(chain, around);
            case UNRESERVED -> shortOfStock(chain, around);
            case DUPLICATE_PO -> throw new IllegalStateException("weighed by the customer's policy");
        };
        return evidence.map(found -> Finding.open(severity, found, around.businessDate()));
    }

    private static Optional<Evidence> overLimit(Chain chain, Surroundings around) {
        if (around.customer().creditLimit().isEmpty()) {
            return Optional.empty();
        }
        var limit = around.customer().creditLimit().get();
        var thisOrder = chain.openGross();
        var exposure = around.position().exposure().plus(thisOrder);
        return exposure.compareTo(limit) <= 0 ? Optional.empty()
                : Optional.of(new Evidence.OverLimit(around.position(), thisOrder, exposure, limit, exposure.minus(limit)));
    }

    private static Optional<Evidence> overdue(Surroundings around) {
        return around.customer().overdue().flatMap(granted -> {
            var late = around.dueInvoices().stream().filter(i -> i.dueOn().plusDays(granted.days()).isBefore(around.businessDate())
                    && i.open().compareTo(granted.above()) > 0).toList();
            return late.isEmpty() ? Optional.empty()
                    : Optional.of(new Evidence.InvoicesOverdue(around.businessDate(), granted.days(), granted.above(), late));
        });
    }

    private static Optional<Evidence> belowFloor(Chain chain, Surroundings around) {
        var below = chain.order().lines().stream().filter(line -> line.kind().isBilled() && around.floors().containsKey(line.item())
                        && line.price().afterDiscount().compareTo(around.floors().get(line.item())) < 0)
                .map(line -> new Evidence.BelowFloor.FloorLine(line.no(), line.item(), line.description(), line.price().afterDiscount(),
                        around.floors().get(line.item()))).toList();
        return below.isEmpty() ? Optional.empty() : Optional.of(new Evidence.BelowFloor(below));
    }

    private static Optional<Evidence> wrongPrice(Chain chain) {
        var shouldBeFree = chain.order().kind().atNoCharge();
        var wrong = chain.order().lines().stream()
                .filter(line -> line.kind().isBilled() && line.price().isFree() != shouldBeFree)
                .map(line -> new Evidence.WrongPrice.PricedLine(line.no(), line.item(), line.description(),
                        line.price().unit().toPlainString()))
                .toList();
        return wrong.isEmpty() ? Optional.empty() : Optional.of(new Evidence.WrongPrice(shouldBeFree, wrong));
    }

    private static Optional<Evidence> unlicensed(Chain chain, Surroundings around) {
        var gaps = new ArrayList<Evidence.Unlicensed.LicenceGap>();
        for (var line : chain.order().lines()) {
            var licenceClass = around.regulated().get(line.item());
            if (licenceClass == null || !chain.flow(line.no()).open().isPositive()) {
                continue;
            }
            var licence = around.licences().getOrDefault(licenceClass, LicenceFact.none(licenceClass));
            if (!isValid(licence, around.businessDate())) {
                gaps.add(new Evidence.Unlicensed.LicenceGap(line.no(), line.item(), line.description(), licence));
            }
        }
        return gaps.isEmpty() ? Optional.empty() : Optional.of(new Evidence.Unlicensed(around.businessDate(), gaps));
    }

    private static boolean isValid(LicenceFact licence, LocalDate on) {
        return licence.answer() == LicenceFact.Answer.FOUND && !licence.validTo().isBefore(on);
    }

    /** Lines are covered by free stock in the order in which they would be reserved: by requested date, then as they stand. */
    private static Optional<Evidence> shortOfStock(Chain chain, Surroundings around) {
        var free = new HashMap<>(around.free());
        var lines = new ArrayList<Evidence.Short.ShortLine>();
        var flows = chain.flows().stream().filter(flow -> flow.line().kind().isShipped())
                .sorted(Comparator.comparing((LineFlow flow) -> flow.line().requestedOn())
                        .thenComparing(flow -> flow.line().no())).toList();
        for (var flow : flows) {
            var item = flow.line().item();
            var available = free.getOrDefault(item, Quantity.ZERO).max(Quantity.ZERO);
            var taken = flow.unreserved().min(available);
            free.put(item, available.minus(taken));
            var waiting = flow.unreserved().minus(taken);
            if (waiting.isPositive()) {
                lines.add(new Evidence.Short.ShortLine(flow.line().no(), item, flow.line().description(), flow.toShip(),
                        flow.toShip().minus(waiting), waiting));
            }
        }
        lines.sort(Comparator.comparing(Evidence.Short.ShortLine::line));
        return lines.isEmpty() ? Optional.empty() : Optional.of(new Evidence.Short(lines));
    }

    /** The state that the findings give an order that was handed in: held while a stop is open, else what its documents say. */
    public static OrderState stateOf(Chain chain, List<Finding> findings) {
        var state = chain.order().state();
        if (state == OrderState.DECLINED || state == OrderState.CANCELLED) {
            return state;
        }
        var settled = chain.settledState();
        if (state == OrderState.DRAFT) {
            return settled == OrderState.CANCELLED ? settled : state;
        }
        return !settled.isEnded() && findings.stream().anyMatch(Finding::holds) ? OrderState.HELD : settled;
    }
}
