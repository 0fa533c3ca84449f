package app.euthyna.core.check;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Runs the checks over an order with its facts and carries its findings on (section 4). */
public final class Checks {

    private Checks() {}

    /** Why the checks run: it decides which of them have a say. */
    public enum Occasion {
        /** Submitted, or looked at before it is. */
        SUBMITTED,
        /** Its content was changed. */
        CHANGED,
        /** What was agreed with its customer changed: a limit, a block, when invoices count as overdue. */
        CUSTOMER_CHANGED,
        /** Something around it changed: a payment, stock, another order's end. */
        WORLD_CHANGED
    }

    /**
     * The findings after a new run. What fires and was waived stays waived while it is no worse; what no longer fires
     * is settled; an order that has ended has all its findings settled.
     *
     * @param was the order before it changed; only an order that is worth more by its change is measured against the
     *     limit again once cleared, since the exposure that later orders add never reaches back to it, and dates that
     *     nobody touched are not asked again
     */
    public static List<Finding> run(
            Chain chain, CheckContext checkContext, List<Finding> before, Occasion occasion, Optional<Chain> was) {
        if (chain.order().state().isEnded()) {
            return before.stream()
                    .map(f -> f.state() == Finding.State.SETTLED ? f : f.settled())
                    .toList();
        }
        var asked = asked(chain, before, occasion, was);
        var fresh = new EnumMap<Check, Finding>(Check.class);
        for (var check : asked) {
            look(check, chain, checkContext, untouched(chain, was, before))
                    .ifPresent(finding -> fresh.put(check, finding));
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

    /** The findings after a new run for nothing but what happened around the order meanwhile. */
    public static List<Finding> again(Chain chain, CheckContext checkContext, List<Finding> before) {
        return run(chain, checkContext, before, Occasion.WORLD_CHANGED, Optional.empty());
    }

    /** What opened or grew since someone saw the findings before. */
    public static List<Finding> worse(List<Finding> before, List<Finding> after) {
        return after.stream()
                .filter(Finding::isOpen)
                .filter(now -> before.stream()
                        .filter(was -> was.check() == now.check() && was.isOpen())
                        .noneMatch(was -> !now.evidence().isWorseThan(was.evidence())))
                .toList();
    }

    /**
     * What a customer's orders draw on together. A new one changes nothing else for those before it: it takes its PO
     * number after them.
     */
    public static final Set<Check> SHARED = Collections.unmodifiableSet(EnumSet.of(Check.CREDIT_LIMIT, Check.QUOTA));

    /** What is looked at only when someone writes the order: passing days must not hold it. */
    private static final Set<Check> OF_WRITING = EnumSet.of(Check.DATES, Check.UNUSUAL);

    /** The checks that have a say: what the others look at need not be gathered. */
    public static Set<Check> asked(Chain chain, List<Finding> before, Occasion occasion, Optional<Chain> was) {
        if (chain.order().state().isEnded()) {
            return EnumSet.noneOf(Check.class);
        }
        var cleared = chain.order().state().isCleared();
        if (occasion == Occasion.SUBMITTED || (!cleared && occasion == Occasion.CHANGED)) {
            return EnumSet.allOf(Check.class);
        }
        if (!cleared) {
            return EnumSet.complementOf(EnumSet.copyOf(OF_WRITING));
        }
        if (occasion == Occasion.WORLD_CHANGED) {
            // a caution that is open shows the figures of now; nothing else is asked of a cleared order again
            var asked = EnumSet.of(Check.UNRESERVED);
            before.stream().filter(Finding::isOpen).map(Finding::check).forEach(asked::add);
            asked.removeAll(OF_WRITING);
            return asked;
        }
        if (occasion == Occasion.CUSTOMER_CHANGED) {
            return chain.stillToLeave()
                    ? EnumSet.of(Check.BLOCKED, Check.CREDIT_LIMIT, Check.OVERDUE, Check.LICENCE)
                    : EnumSet.noneOf(Check.class);
        }
        var worthMore = was.map(earlier -> chain.openGross().compareTo(earlier.openGross()) > 0)
                .orElse(true);
        return worthMore ? EnumSet.allOf(Check.class) : EnumSet.complementOf(EnumSet.of(Check.CREDIT_LIMIT));
    }

    /** Lines whose date the change left as it was and whose date was found right. */
    private static Set<Integer> untouched(Chain chain, Optional<Chain> was, List<Finding> before) {
        var wrong = before.stream()
                .filter(f -> f.check() == Check.DATES && f.state() != Finding.State.SETTLED)
                .flatMap(f -> ((Evidence.WrongDates) f.evidence()).lines().stream())
                .map(Evidence.WrongDates.DatedLine::line)
                .collect(Collectors.toSet());
        return was.map(earlier -> chain.order().lines().stream()
                        .filter(line -> !wrong.contains(line.no())
                                && earlier.order().hasLine(line.no())
                                && earlier.order().line(line.no()).requestedOn().equals(line.requestedOn()))
                        .map(OrderLine::no)
                        .collect(Collectors.toSet()))
                .orElse(Set.of());
    }

    private static Finding carryOn(Finding before, Finding again) {
        return switch (before.state()) {
            case OPEN ->
                new Finding(again.severity(), Finding.State.OPEN, again.evidence(), before.since(), Optional.empty());
            case WAIVED -> again.evidence().isWorseThan(before.evidence()) ? again : before;
            case SETTLED -> again;
        };
    }

    private static Optional<Finding> look(
            Check check, Chain chain, CheckContext checkContext, Set<Integer> datesUntouched) {
        if (check == Check.DUPLICATE_PO) {
            return DuplicatePo.look(chain, checkContext);
        }
        var severity = checkContext.policy().of(check, chain.order().kind());
        if (severity == Severity.OFF) {
            return Optional.empty();
        }
        var evidence = switch (check) {
            case BLOCKED -> checkContext.customer().block().<Evidence>map(Evidence.Blocked::new);
            case CREDIT_LIMIT -> overLimit(chain, checkContext);
            case OVERDUE -> overdue(checkContext);
            case PRICE_FLOOR -> belowFloor(chain, checkContext);
            case ZERO_PRICE -> wrongPrice(chain);
            case MISSING_PO -> missingPo(chain, checkContext);
            case MARGIN -> thinMargin(chain, checkContext);
            case LICENCE -> unlicensed(chain, checkContext);
            case QUOTA -> overQuota(chain, checkContext);
            case UNRESERVED -> shortOfStock(chain, checkContext);
            case DATES -> wrongDates(chain, checkContext, datesUntouched);
            case UNUSUAL -> unusual(chain, checkContext);
            case DUPLICATE_PO -> throw new IllegalStateException("per customer policy");
        };
        return evidence.map(found -> Finding.open(severity, found, checkContext.businessDate()));
    }

    private static Optional<Evidence> overLimit(Chain chain, CheckContext checkContext) {
        if (checkContext.customer().creditLimit().isEmpty()) {
            return Optional.empty();
        }
        var limit = checkContext.customer().creditLimit().get();
        var thisOrder = chain.openGross();
        var exposure = checkContext.position().exposure().plus(thisOrder);
        return exposure.compareTo(limit) <= 0
                ? Optional.empty()
                : Optional.of(new Evidence.OverLimit(
                        checkContext.position(), thisOrder, exposure, limit, exposure.minus(limit)));
    }

    private static Optional<Evidence> overdue(CheckContext checkContext) {
        return checkContext.customer().overdue().flatMap(granted -> {
            var late = checkContext.dueInvoices().stream()
                    .filter(i -> i.dueOn().plusDays(granted.days()).isBefore(checkContext.businessDate())
                            && i.open().compareTo(granted.above()) > 0)
                    .toList();
            return late.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Evidence.InvoicesOverdue(
                            checkContext.businessDate(), granted.days(), granted.above(), late));
        });
    }

    private static Optional<Evidence> belowFloor(Chain chain, CheckContext checkContext) {
        var below = billed(chain)
                .filter(line -> checkContext
                        .item(line.item())
                        .floor()
                        .filter(floor -> line.price().afterDiscount().compareTo(floor) < 0)
                        .isPresent())
                .map(line -> new PriceEvidence.BelowFloor.FloorLine(
                        line.no(),
                        line.item(),
                        line.description(),
                        line.price().afterDiscount(),
                        checkContext.item(line.item()).floor().get()))
                .toList();
        var mostOff = checkContext
                .authorRole()
                .map(role -> checkContext.policy().figures().discountUpTo().get(role));
        var tooMuch = mostOff.stream()
                .flatMap(most -> billed(chain)
                        .filter(line -> line.price().discountPercent().compareTo(most) > 0)
                        .map(line -> new PriceEvidence.BelowFloor.DiscountLine(
                                line.no(),
                                line.item(),
                                line.description(),
                                line.price().discountPercent(),
                                most,
                                checkContext.authorRole().get())))
                .toList();
        return below.isEmpty() && tooMuch.isEmpty()
                ? Optional.empty()
                : Optional.of(new PriceEvidence.BelowFloor(below, tooMuch));
    }

    private static Stream<OrderLine> billed(Chain chain) {
        return chain.order().lines().stream().filter(line -> line.kind().isBilled());
    }

    private static Optional<Evidence> missingPo(Chain chain, CheckContext checkContext) {
        return checkContext.customer().po().required() && !chain.order().hasPo()
                ? Optional.of(new PoEvidence.PoMissing(checkContext.customer().code()))
                : Optional.empty();
    }

    /** Lines at no price are for the check of prices to find. */
    private static Optional<Evidence> thinMargin(Chain chain, CheckContext checkContext) {
        return checkContext.policy().figures().minimumMargin().flatMap(least -> {
            var thin = billed(chain)
                    .filter(line -> !line.price().isFree())
                    .flatMap(line -> checkContext.item(line.item()).unitCost().stream()
                            .map(cost -> PriceEvidence.ThinMargin.MarginLine.of(line, cost)))
                    .filter(line -> line.isBelow(least))
                    .toList();
            return thin.isEmpty() ? Optional.empty() : Optional.of(new PriceEvidence.ThinMargin(least, thin));
        });
    }

    private static Optional<Evidence> overQuota(Chain chain, CheckContext checkContext) {
        var passed = new ArrayList<Evidence.QuotaPassed.Passed>();
        for (var quota : checkContext.quotas()) {
            var asked = Quantity.sum(chain.flows().stream()
                    .filter(flow -> flow.line().item().equals(quota.item()))
                    .map(flow -> flow.ordered().minus(flow.cancelled()))
                    .toList());
            if (asked.isPositive() && quota.used().plus(asked).exceeds(quota.granted())) {
                passed.add(new Evidence.QuotaPassed.Passed(quota, asked));
            }
        }
        return passed.isEmpty() ? Optional.empty() : Optional.of(new Evidence.QuotaPassed(passed));
    }

    /** Too early for the company, on the day on which somebody looks. */
    private static Optional<Evidence> wrongDates(Chain chain, CheckContext checkContext, Set<Integer> untouched) {
        var wrong = new ArrayList<Evidence.WrongDates.DatedLine>();
        for (var line : chain.order().lines()) {
            var days = checkContext.item(line.item()).leadDays();
            var earliest = checkContext.businessDate().plusDays(days);
            if (line.kind().isBilled()
                    && line.requestedOn().isBefore(earliest)
                    && !untouched.contains(line.no())
                    && chain.flow(line.no()).open().isPositive()) {
                wrong.add(new Evidence.WrongDates.DatedLine(
                        line.no(), line.item(), line.description(), line.requestedOn(), earliest, days));
            }
        }
        return wrong.isEmpty()
                ? Optional.empty()
                : Optional.of(new Evidence.WrongDates(checkContext.businessDate(), wrong));
    }

    private static Optional<Evidence> unusual(Chain chain, CheckContext checkContext) {
        var limit = checkContext.policy().figures().unusualScore();
        var value = RobustScore.of(
                        chain.order().totals().net().amount(),
                        checkContext.past().values().stream().map(Money::amount).toList())
                .filter(score -> score.isAbove(limit));
        var lines = new ArrayList<Evidence.Unusual.UnusualLine>();
        billed(chain)
                .forEach(line -> RobustScore.of(
                                line.quantity().value(),
                                checkContext.past().quantities().getOrDefault(line.item(), List.of()).stream()
                                        .map(Quantity::value)
                                        .toList())
                        .filter(score -> score.isAbove(limit))
                        .ifPresent(score -> lines.add(
                                new Evidence.Unusual.UnusualLine(line.no(), line.item(), line.description(), score))));
        return value.isEmpty() && lines.isEmpty()
                ? Optional.empty()
                : Optional.of(
                        new Evidence.Unusual(value, checkContext.past().values().size(), limit, lines));
    }

    private static Optional<Evidence> wrongPrice(Chain chain) {
        var shouldBeFree = chain.order().kind().atNoCharge();
        var wrong = chain.order().lines().stream()
                .filter(line -> line.kind().isBilled() && line.price().isFree() != shouldBeFree)
                .map(line -> new PriceEvidence.WrongPrice.PricedLine(
                        line.no(),
                        line.item(),
                        line.description(),
                        line.price().unit().toPlainString()))
                .toList();
        return wrong.isEmpty() ? Optional.empty() : Optional.of(new PriceEvidence.WrongPrice(shouldBeFree, wrong));
    }

    private static Optional<Evidence> unlicensed(Chain chain, CheckContext checkContext) {
        var gaps = new ArrayList<Evidence.Unlicensed.LicenceGap>();
        for (var line : chain.order().lines()) {
            var licenceClass = checkContext.item(line.item()).regulated().orElse(null);
            if (licenceClass == null || !chain.flow(line.no()).open().isPositive()) {
                continue;
            }
            var licence = checkContext.licences().getOrDefault(licenceClass, LicenceFact.none(licenceClass));
            if (!isValid(licence, checkContext.businessDate())) {
                gaps.add(new Evidence.Unlicensed.LicenceGap(line.no(), line.item(), line.description(), licence));
            }
        }
        return gaps.isEmpty()
                ? Optional.empty()
                : Optional.of(new Evidence.Unlicensed(checkContext.businessDate(), gaps));
    }

    private static boolean isValid(LicenceFact licence, LocalDate on) {
        return licence.answer() == LicenceFact.Answer.FOUND
                && !licence.validTo().isBefore(on);
    }

    /**
     * Lines are covered by free stock in the order in which they would be reserved: by requested date, then as they
     * stand.
     */
    private static Optional<Evidence> shortOfStock(Chain chain, CheckContext checkContext) {
        var free = new HashMap<>(checkContext.free());
        var lines = new ArrayList<Evidence.StockShortage.ShortLine>();
        var flows = chain.flows().stream()
                .filter(flow -> flow.line().kind().isShipped())
                .sorted(Comparator.comparing((LineFlow flow) -> flow.line().requestedOn())
                        .thenComparing(flow -> flow.line().no()))
                .toList();
        for (var flow : flows) {
            var item = flow.line().item();
            var place = chain.order().place(flow.line());
            var available = free.getOrDefault(place, Quantity.ZERO).max(Quantity.ZERO);
            var taken = flow.unreserved().min(available);
            free.put(place, available.minus(taken));
            var waiting = flow.unreserved().minus(taken);
            if (waiting.isPositive() && flow.line().shortage() == Shortage.WAIT) {
                lines.add(new Evidence.StockShortage.ShortLine(
                        flow.line().no(),
                        item,
                        flow.line().description(),
                        flow.toShip(),
                        flow.toShip().minus(waiting),
                        waiting));
            }
        }
        lines.sort(Comparator.comparing(Evidence.StockShortage.ShortLine::line));
        return lines.isEmpty() ? Optional.empty() : Optional.of(new Evidence.StockShortage(lines));
    }

    /**
     * The state that the findings give an order that was submitted: held while a stop is open, else what its documents
     * say.
     */
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
