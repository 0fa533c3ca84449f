package app.euthyna.core.check;

import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.check.Remedy.Kind;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Finds what would clear an order's open findings (section 4). Each remedy is tried by running all checks on the order
 * as it would be; one that would open another stop, or make an open one worse, is not offered.
 */
public final class Remedies {

    /** Of a long order, so many lines are looked through, the dearest first. */
    private static final int LINES = 12;

    private static final BigDecimal HUNDRED = BigDecimal.valueOf(100);

    private final Chain chain;
    private final CheckContext checkContext;
    private final List<Finding> findings;
    private final Function<Order, CheckContext> world;
    private final List<Remedy> remedies = new ArrayList<>();

    private Remedies(
            Chain chain, CheckContext checkContext, List<Finding> findings, Function<Order, CheckContext> world) {
        this.chain = chain;
        this.checkContext = checkContext;
        this.findings = findings;
        this.world = world;
    }

    /**
     * All remedies of an order's open findings.
     *
     * @param world what surrounds the order once it is changed
     */
    public static List<Remedy> of(
            Chain chain, CheckContext checkContext, List<Finding> findings, Function<Order, CheckContext> world) {
        var search = new Remedies(chain, checkContext, findings, world);
        findings.stream().filter(Finding::isOpen).forEach(search::look);
        return search.remedies;
    }

    private void look(Finding finding) {
        var evidence = finding.evidence();
        if (evidence instanceof Evidence.OverLimit over) {
            pay(
                    finding.check(),
                    over.excess(),
                    "a payment or deposit of %s brings the exposure to the limit".formatted(over.excess()),
                    checkContext);
            less(finding.check());
        } else if (evidence instanceof Evidence.InvoicesOverdue overdue) {
            pay(
                    finding.check(),
                    overdue.together(),
                    "a payment of %s settles the overdue invoices".formatted(overdue.together()),
                    checkContext.withDueInvoices(List.of()));
        } else if (evidence instanceof PoEvidence.PoCeilingPassed || evidence instanceof Evidence.QuotaPassed) {
            less(finding.check());
        } else if (evidence instanceof PriceEvidence priced) {
            look(finding.check(), priced);
        } else if (evidence instanceof Evidence.Unlicensed unlicensed) {
            without(
                    finding.check(),
                    unlicensed.gaps().stream()
                            .map(Evidence.Unlicensed.LicenceGap::line)
                            .toList());
        } else if (evidence instanceof Evidence.StockShortage shortOf) {
            split(shortOf);
        } else if (evidence instanceof Evidence.WrongDates dates) {
            later(finding.check(), dates);
        }
    }

    private void look(Check check, PriceEvidence evidence) {
        if (evidence instanceof PriceEvidence.WrongPrice wrong) {
            priced(
                    check,
                    wrong.lines().stream()
                            .map(PriceEvidence.WrongPrice.PricedLine::line)
                            .toList(),
                    line -> wrong.shouldBeFree()
                            ? Optional.of(new Price(BigDecimal.ZERO, BigDecimal.ZERO))
                            : listPrice(line));
        } else if (evidence instanceof PriceEvidence.BelowFloor below) {
            priced(
                    check,
                    Stream.concat(
                                    below.lines().stream().map(PriceEvidence.BelowFloor.FloorLine::line),
                                    below.discounts().stream().map(PriceEvidence.BelowFloor.DiscountLine::line))
                            .distinct()
                            .toList(),
                    line -> atLeast(
                            line,
                            floor(line),
                            below.discounts().stream()
                                    .filter(d -> d.line() == line.no())
                                    .map(PriceEvidence.BelowFloor.DiscountLine::most)
                                    .findFirst()));
        } else if (evidence instanceof PriceEvidence.ThinMargin thin) {
            priced(
                    check,
                    thin.lines().stream()
                            .map(PriceEvidence.ThinMargin.MarginLine::line)
                            .toList(),
                    line -> thin.lines().stream()
                            .filter(l -> l.line() == line.no())
                            .findFirst()
                            .flatMap(l -> withMargin(l.cost(), thin.leastPercent()))
                            .flatMap(least -> atLeast(line, least, Optional.empty())));
        }
    }

    /** The days on which everything can be there. */
    private void later(Check check, Evidence.WrongDates dates) {
        var lines = chain.order().lines().stream()
                .map(line -> dates.lines().stream()
                        .filter(l -> l.line() == line.no())
                        .findFirst()
                        .map(l -> line.withRequestedOn(l.earliest()))
                        .orElse(line))
                .toList();
        offer(
                check,
                Kind.DATE,
                dates.lines().stream()
                        .map(l -> "line %d on %s".formatted(l.line(), l.earliest()))
                        .collect(Collectors.joining(", ")),
                chain.order().withLines(lines),
                Optional.empty());
    }

    private void pay(Check check, Money amount, String sentence, CheckContext otherwise) {
        var position = otherwise.position();
        var paid = otherwise.withPosition(new CustomerPosition(
                position.unpaid(),
                position.dispatchedNotInvoiced(),
                position.clearedNotDispatched(),
                new Term(
                        position.unapplied().sum().plus(amount),
                        position.unapplied().documents())));
        tried(check, chain, paid, Optional.empty())
                .ifPresent(left -> remedies.add(new Remedy(
                        check, Kind.PAYMENT, sentence, Optional.empty(), Optional.empty(), Optional.of(amount), left)));
    }

    /** The line on which the least value must go, in quantity or whole; what is staged, gone or given up stays. */
    private void less(Check check) {
        var committed = chain.committed();
        var dearest = chain.order().lines().stream()
                .filter(line ->
                        line.kind().isBilled() && chain.flow(line.no()).open().isPositive())
                .sorted(Comparator.comparing((OrderLine line) -> line.net(
                                chain.flow(line.no()).open(), chain.order().currency()))
                        .reversed())
                .limit(LINES)
                .toList();
        record Found(OrderLine line, Quantity most, Money off) {}
        var found = new ArrayList<Found>();
        for (var line : dearest) {
            var least = committed.get(line.no()).least();
            if (stillOpen(check, with(line.withQuantity(least)))) {
                continue;
            }
            var most = most(check, line, least);
            found.add(new Found(
                    line,
                    most,
                    line.net(line.quantity().minus(most), chain.order().currency())));
        }
        found.sort(Comparator.comparing(Found::off));
        found.stream()
                .filter(f -> f.most().isPositive())
                .findFirst()
                .ifPresent(f -> offer(
                        check,
                        Kind.QUANTITY,
                        "line %d at %s instead of %s %s"
                                .formatted(
                                        f.line().no(),
                                        f.most(),
                                        f.line().quantity(),
                                        f.line().description()),
                        with(f.line().withQuantity(f.most())),
                        Optional.empty()));
        found.stream()
                .filter(f -> committed.get(f.line().no()).least().isZero())
                .min(Comparator.comparing(
                        f -> f.line().net(f.line().quantity(), chain.order().currency())))
                .ifPresent(f -> without(check, List.of(f.line().no())));
    }

    /** The most of a line with which the check does not fire any more; between that and all of it, it does. */
    private Quantity most(Check check, OrderLine line, Quantity least) {
        var step = line.quantity().value().scale() <= 0 && least.value().scale() <= 0 ? 0 : Quantity.DECIMALS;
        var low = least.value().movePointRight(step).toBigIntegerExact();
        var high = line.quantity().value().movePointRight(step).toBigIntegerExact();
        while (high.subtract(low).bitLength() > 1) {
            var middle = low.add(high).shiftRight(1);
            if (stillOpen(check, with(line.withQuantity(new Quantity(new BigDecimal(middle, step)))))) {
                high = middle;
            } else {
                low = middle;
            }
        }
        return new Quantity(new BigDecimal(low, step));
    }

    private Order with(OrderLine changed) {
        return chain.order()
                .withLines(chain.order().lines().stream()
                        .map(line -> line.no() == changed.no() ? changed : line)
                        .toList());
    }

    private void without(Check check, List<Integer> off) {
        var committed = chain.committed();
        var left = chain.order().lines().stream()
                .filter(line -> !off.contains(line.no()))
                .toList();
        if (left.stream().anyMatch(line -> line.kind().isBilled())
                && off.stream().allMatch(no -> committed.get(no).least().isZero())) {
            offer(
                    check,
                    Kind.LINE,
                    off.stream()
                            .map(no -> "line %d removed: %s %s"
                                    .formatted(
                                            no,
                                            chain.order().line(no).quantity(),
                                            chain.order().line(no).description()))
                            .collect(Collectors.joining(", ")),
                    chain.order().withLines(left),
                    Optional.empty());
        }
    }

    /** What is covered stays, the rest gets an order of its own; or the rest is not sold. */
    private void split(Evidence.StockShortage shortOf) {
        var stays = new ArrayList<OrderLine>();
        var rest = new ArrayList<OrderLine>();
        for (var line : chain.order().lines()) {
            var waiting = shortOf.lines().stream()
                    .filter(l -> l.line() == line.no())
                    .map(Evidence.StockShortage.ShortLine::waiting)
                    .findFirst()
                    .orElse(Quantity.ZERO);
            var covered = line.quantity().minus(waiting);
            if (covered.isPositive() || !waiting.isPositive()) {
                stays.add(line.withQuantity(covered));
            }
            if (waiting.isPositive()) {
                rest.add(line.withQuantity(waiting));
            }
        }
        if (stays.stream().noneMatch(line -> line.kind().isBilled())) {
            return;
        }
        var covered = chain.order().withLines(stays);
        var what = rest.stream()
                .map(line -> "%s %s".formatted(line.quantity(), line.description()))
                .collect(Collectors.joining(", "));
        offer(
                Check.UNRESERVED,
                Kind.SPLIT,
                "ship what is reserved; %s on a separate order".formatted(what),
                covered,
                Optional.of(chain.order().withLines(rest)));
        offer(
                Check.UNRESERVED,
                Kind.QUANTITY,
                "ship what is reserved; cancel %s".formatted(what),
                covered,
                Optional.empty());
    }

    private void priced(Check check, List<Integer> nos, Function<OrderLine, Optional<Price>> right) {
        var lines = new ArrayList<OrderLine>();
        var words = new ArrayList<String>();
        for (var line : chain.order().lines()) {
            if (!nos.contains(line.no())) {
                lines.add(line);
                continue;
            }
            var price = right.apply(line);
            if (price.isEmpty()) {
                return;
            }
            lines.add(line.withPrice(price.get()));
            words.add("line %d at %s%s"
                    .formatted(
                            line.no(),
                            Figures.price(price.get().unit()),
                            price.get().discountPercent().signum() == 0
                                    ? ""
                                    : " less " + Figures.plain(price.get().discountPercent()) + " per cent"));
        }
        offer(check, Kind.PRICE, String.join(", ", words), chain.order().withLines(lines), Optional.empty());
    }

    private Optional<Price> listPrice(OrderLine line) {
        return Optional.of(checkContext.item(line.item()).listPrice())
                .filter(price -> price.signum() > 0)
                .map(price -> new Price(price, BigDecimal.ZERO));
    }

    private BigDecimal floor(OrderLine line) {
        return checkContext.item(line.item()).floor().orElse(BigDecimal.ZERO);
    }

    /** Price = cost ÷ (1 − margin), rounded up to a hundredth of the currency unit. */
    private static Optional<BigDecimal> withMargin(BigDecimal cost, BigDecimal percent) {
        return percent.compareTo(HUNDRED) >= 0
                ? Optional.empty()
                : Optional.of(cost.multiply(HUNDRED).divide(HUNDRED.subtract(percent), 2, RoundingMode.UP));
    }

    /** The unit price stays where less discount is enough; else the line goes at {@code least} without any. */
    private static Optional<Price> atLeast(OrderLine line, BigDecimal least, Optional<BigDecimal> mostOff) {
        var unit = line.price().unit();
        if (unit.compareTo(least) < 0) {
            return Optional.of(new Price(least, BigDecimal.ZERO));
        }
        var off = unit.signum() == 0
                ? BigDecimal.ZERO
                : HUNDRED.subtract(least.multiply(HUNDRED).divide(unit, 2, RoundingMode.UP))
                        .max(BigDecimal.ZERO);
        return Optional.of(new Price(
                unit, off.min(mostOff.orElse(HUNDRED)).min(line.price().discountPercent())));
    }

    private void offer(Check check, Kind kind, String sentence, Order changed, Optional<Order> rest) {
        tried(check, changedTo(changed), world.apply(changed), Optional.of(chain))
                .ifPresent(left -> remedies.add(
                        new Remedy(check, kind, sentence, Optional.of(changed), rest, Optional.empty(), left)));
    }

    private Chain changedTo(Order changed) {
        return chain.after(new Effect.OrderChanged(chain.order(), changed, List.of()));
    }

    /** What stays open; empty where the check still fires, another stop opens or an open one gets worse. */
    private Optional<List<Finding>> tried(Check check, Chain changed, CheckContext then, Optional<Chain> was) {
        var open = Checks.run(
                        changed,
                        then,
                        findings,
                        was.isPresent() ? Checks.Occasion.CHANGED : Checks.Occasion.SUBMITTED,
                        was)
                .stream()
                .filter(Finding::isOpen)
                .toList();
        var makesWorse = open.stream()
                .filter(Finding::holds)
                .anyMatch(after -> findings.stream()
                        .filter(Finding::holds)
                        .noneMatch(before -> before.check() == after.check()
                                && !after.evidence().isWorseThan(before.evidence())));
        return makesWorse || open.stream().anyMatch(f -> f.check() == check) ? Optional.empty() : Optional.of(open);
    }

    private boolean stillOpen(Check check, Order changed) {
        return Checks.run(changedTo(changed), checkContext, findings, Checks.Occasion.CHANGED, Optional.of(chain))
                .stream()
                .anyMatch(f -> f.check() == check && f.isOpen());
    }
}
