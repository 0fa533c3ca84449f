package app.euthyna.core.check;

import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The figures that made a check fire. */
public sealed interface Evidence {

    Check check();

    /** The finding in a few words, for lists. */
    String brief();

    /** The finding as a part of a sentence about the order: "the customer would be EUR 12.00 over the limit". */
    String sentence();

    /** Whether this is worse than what was waived, so that the waiver no longer covers it (section 4). */
    boolean isWorseThan(Evidence waived);

    /** The same for those who may not read floor prices, costs and margins: it names only the lines (section 15). */
    default Evidence withoutCosts() {
        return this;
    }

    /** Lines that a check found something on, without the figures. It is only shown, never kept. */
    record LinesNamed(Check check, String brief, List<NamedLine> lines) implements Evidence {

        public record NamedLine(int line, String item, String description) {}

        public LinesNamed {
            lines = List.copyOf(lines);
        }

        @Override
        public String sentence() {
            return "%s %s: %s"
                    .formatted(
                            lines.size() == 1 ? "line" : "lines",
                            lines.stream().map(l -> String.valueOf(l.line())).collect(Collectors.joining(", ")),
                            brief);
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            throw new UnsupportedOperationException("only shown: " + this);
        }
    }

    /**
     * Exposure = unpaid + dispatched, not invoiced + cleared, not dispatched + this order − unapplied; it is above the
     * limit.
     */
    record OverLimit(CustomerPosition position, Money thisOrder, Money exposure, Money limit, Money excess)
            implements Evidence {
        @Override
        public Check check() {
            return Check.CREDIT_LIMIT;
        }

        @Override
        public String brief() {
            return "over limit";
        }

        @Override
        public String sentence() {
            return "the customer would be %s over the limit".formatted(excess);
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof OverLimit before) || excess.compareTo(before.excess) > 0;
        }
    }

    /** The customer is blocked. */
    record Blocked(CustomerRules.Block block) implements Evidence {
        @Override
        public Check check() {
            return Check.BLOCKED;
        }

        @Override
        public String brief() {
            return "blocked";
        }

        @Override
        public String sentence() {
            return "the customer is blocked by %s: %s".formatted(block.by(), block.why());
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof Blocked before) || !before.block.equals(block);
        }
    }

    /** Invoices are longer past due than the customer is granted, and more is open on them than the floor. */
    record InvoicesOverdue(LocalDate businessDate, int grantedDays, Money above, List<CheckContext.DueInvoice> invoices)
            implements Evidence {
        public InvoicesOverdue {
            invoices = List.copyOf(invoices);
        }

        @Override
        public Check check() {
            return Check.OVERDUE;
        }

        @Override
        public String brief() {
            return "overdue %d days".formatted(days(invoices.get(0)));
        }

        @Override
        public String sentence() {
            var first = invoices.get(0);
            var more = invoices.size() == 1 ? "" : " and %d more".formatted(invoices.size() - 1);
            return "invoice %s with %s open is %d days past due%s"
                    .formatted(first.number(), first.open(), days(first), more);
        }

        /** How long an invoice is past due. */
        public long days(CheckContext.DueInvoice invoice) {
            return ChronoUnit.DAYS.between(invoice.dueOn(), businessDate);
        }

        /** What is open on all of them. */
        public Money together() {
            return invoices.stream()
                    .map(CheckContext.DueInvoice::open)
                    .reduce(Money.zero(above.currency()), Money::plus);
        }

        /** Days that go by do not make it worse: another invoice does, or more open on one. */
        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof InvoicesOverdue before)
                    || invoices.stream()
                            .anyMatch(invoice -> before.invoices.stream()
                                    .noneMatch(i -> i.number().equals(invoice.number())
                                            && invoice.open().compareTo(i.open()) <= 0));
        }
    }

    /** Lines sold below their item's floor. */
    record BelowFloor(List<FloorLine> lines, List<DiscountLine> discounts) implements Evidence {

        /** A line's unit price after discount, and the least it should be; both with four decimals. */
        public record FloorLine(int line, String item, String description, BigDecimal given, BigDecimal floor) {
            LinesNamed.NamedLine named() {
                return new LinesNamed.NamedLine(line, item, description);
            }
        }

        /** A line's discount, and the most that its author's role may give; per cent. */
        public record DiscountLine(
                int line, String item, String description, BigDecimal given, BigDecimal most, Role role) {
            LinesNamed.NamedLine named() {
                return new LinesNamed.NamedLine(line, item, description);
            }
        }

        public BelowFloor {
            lines = List.copyOf(lines);
            discounts = discounts == null ? List.of() : List.copyOf(discounts);
        }

        @Override
        public Check check() {
            return Check.PRICE_FLOOR;
        }

        @Override
        public String brief() {
            return lines.isEmpty() ? "discount too high" : "below floor price";
        }

        @Override
        public String sentence() {
            return Stream.concat(
                            lines.stream()
                                    .map(l -> "line %d is priced at %s, below the floor price of %s"
                                            .formatted(l.line(), Figures.price(l.given()), Figures.price(l.floor()))),
                            discounts.stream()
                                    .map(l -> "line %d has a discount of %s %%, %s may give %s %%"
                                            .formatted(
                                                    l.line(),
                                                    Figures.plain(l.given()),
                                                    l.role().words(),
                                                    Figures.plain(l.most()))))
                    .collect(Collectors.joining("; "));
        }

        @Override
        public Evidence withoutCosts() {
            return new LinesNamed(
                    check(),
                    brief(),
                    Stream.concat(
                                    lines.stream().map(FloorLine::named),
                                    discounts.stream().map(DiscountLine::named))
                            .distinct()
                            .toList());
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof BelowFloor before)
                    || lines.stream()
                            .anyMatch(line -> before.lines.stream()
                                    .noneMatch(l -> l.line() == line.line()
                                            && l.item().equals(line.item())
                                            && line.given().compareTo(l.given()) >= 0))
                    || discounts.stream()
                            .anyMatch(line -> before.discounts.stream()
                                    .noneMatch(l -> l.line() == line.line()
                                            && l.item().equals(line.item())
                                            && line.given().compareTo(l.given()) <= 0));
        }
    }

    /** The PO number was met before. */
    record PoMet(String po, List<Match> matches) implements Evidence {

        /** One earlier use. */
        public record Match(PoNumber.Likeness kind, PoUse use) {}

        public PoMet {
            matches = List.copyOf(matches);
        }

        @Override
        public Check check() {
            return Check.DUPLICATE_PO;
        }

        @Override
        public String brief() {
            var closest = matches.get(0);
            return switch (closest.kind()) {
                case SAME -> "PO used before";
                case ALIKE -> "PO alike " + closest.use().po();
                case NEAR -> "PO near " + closest.use().po();
            };
        }

        @Override
        public String sentence() {
            var first = matches.get(0);
            var reads = switch (first.kind()) {
                case SAME -> "is also on %s";
                case ALIKE -> "matches %2$s on %1$s";
                case NEAR -> "is a near match of %2$s on %1$s";
            };
            var more = matches.size() == 1 ? "" : " and %d more".formatted(matches.size() - 1);
            return "the PO number "
                    + reads.formatted(first.use().document(), first.use().po()) + more;
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoMet before)
                    || matches.stream()
                            .anyMatch(match -> before.matches.stream()
                                    .noneMatch(m ->
                                            m.use().order().equals(match.use().order())
                                                    && m.kind().compareTo(match.kind()) <= 0));
        }
    }

    /** The orders under one PO together pass the value the customer set for it. */
    record PoCeilingPassed(String po, Money together, Money ceiling, List<PoUse> uses) implements Evidence {
        public PoCeilingPassed {
            uses = List.copyOf(uses);
        }

        @Override
        public Check check() {
            return Check.DUPLICATE_PO;
        }

        @Override
        public String brief() {
            return "PO ceiling exceeded";
        }

        @Override
        public String sentence() {
            return "orders under this PO total %s; its ceiling is %s".formatted(together, ceiling);
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoCeilingPassed before) || together.compareTo(before.together) > 0;
        }
    }

    /** Lines at no price where there should be one, or the other way round. */
    record WrongPrice(boolean shouldBeFree, List<PricedLine> lines) implements Evidence {

        /** A line with its unit price. */
        public record PricedLine(int line, String item, String description, String unitPrice) {}

        public WrongPrice {
            lines = List.copyOf(lines);
        }

        @Override
        public Check check() {
            return Check.ZERO_PRICE;
        }

        @Override
        public String brief() {
            return shouldBeFree ? "price not zero" : "price is zero";
        }

        @Override
        public String sentence() {
            var named = lines.stream().map(l -> String.valueOf(l.line())).collect(Collectors.joining(", "));
            return (lines.size() == 1 ? "line " + named + " has " : "lines " + named + " have ")
                    + (shouldBeFree ? "a price on goods at no charge" : "no price");
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof WrongPrice before)
                    || lines.stream().anyMatch(line -> before.lines.stream().noneMatch(l -> l.equals(line)));
        }
    }

    /** Regulated goods without a licence that the register confirms. */
    record Unlicensed(LocalDate businessDate, List<LicenceGap> gaps) implements Evidence {

        /** A regulated line and what is wrong with the licence for its class. */
        public record LicenceGap(int line, String item, String description, LicenceFact licence) {

            String words(LocalDate on) {
                var of = licence.licenceClass() + " licence";
                return switch (licence.answer()) {
                    case NO_LICENCE -> "there is no " + of;
                    case NOT_FOUND -> "the register does not list the " + of + " " + licence.number();
                    case NO_ANSWER ->
                        "the register did not answer for the " + of + " " + licence.number()
                                + (licence.tries() > 1 ? " in " + licence.tries() + " tries" : "");
                    case FOUND ->
                        "the " + of + " lapsed " + ChronoUnit.DAYS.between(licence.validTo(), on) + " days ago";
                };
            }
        }

        public Unlicensed {
            gaps = List.copyOf(gaps);
        }

        @Override
        public Check check() {
            return Check.LICENCE;
        }

        @Override
        public String brief() {
            return switch (gaps.get(0).licence().answer()) {
                case NO_LICENCE -> "no licence";
                case NOT_FOUND -> "licence not found";
                case NO_ANSWER -> "register did not answer";
                case FOUND -> "licence lapsed";
            };
        }

        @Override
        public String sentence() {
            return gaps.stream().map(gap -> gap.words(businessDate)).distinct().collect(Collectors.joining(" and "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof Unlicensed before)
                    || gaps.stream()
                            .anyMatch(gap -> before.gaps.stream()
                                    .noneMatch(g -> g.item().equals(gap.item())
                                            && g.licence().answer()
                                                    == gap.licence().answer()
                                            && g.licence()
                                                    .number()
                                                    .equals(gap.licence().number())));
        }
    }

    /** Quantity that free stock could not cover. */
    record StockShortage(List<ShortLine> lines) implements Evidence {

        /** A line with what it orders, what is or would be held for it, and what waits. */
        public record ShortLine(
                int line, String item, String description, Quantity toShip, Quantity covered, Quantity waiting) {}

        public StockShortage {
            lines = List.copyOf(lines);
        }

        @Override
        public Check check() {
            return Check.UNRESERVED;
        }

        @Override
        public String brief() {
            var first = lines.get(0);
            return "short %s of %s".formatted(first.waiting(), first.toShip());
        }

        @Override
        public String sentence() {
            return lines.stream()
                    .map(l -> "%s of %s %s are not in stock"
                            .formatted(l.waiting(), l.toShip(), l.description().toLowerCase(Locale.ROOT)))
                    .collect(Collectors.joining(", "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof StockShortage before)
                    || lines.stream()
                            .anyMatch(line -> before.lines.stream()
                                    .noneMatch(l -> l.line() == line.line()
                                            && !line.waiting().exceeds(l.waiting())));
        }
    }

    /** The customer requires a PO number and the order has none. */
    record PoMissing(String customer) implements Evidence {
        @Override
        public Check check() {
            return Check.MISSING_PO;
        }

        @Override
        public String brief() {
            return "no PO";
        }

        @Override
        public String sentence() {
            return "customer " + customer + " requires a PO number and the order has none";
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoMissing);
        }
    }

    /** Lines that leave less than the company's margin: (price after discount − unit cost) ÷ price after discount. */
    record ThinMargin(BigDecimal leastPercent, List<MarginLine> lines) implements Evidence {

        private static final BigDecimal HUNDRED = BigDecimal.valueOf(100);

        /** A line with what a unit brings and costs, and its margin in per cent with one decimal. */
        public record MarginLine(
                int line,
                String item,
                String description,
                BigDecimal given,
                BigDecimal cost,
                BigDecimal marginPercent) {

            LinesNamed.NamedLine named() {
                return new LinesNamed.NamedLine(line, item, description);
            }

            /** Compared as it is, not as it is shown. */
            boolean isBelow(BigDecimal least) {
                return given.subtract(cost).multiply(HUNDRED).compareTo(least.multiply(given)) < 0;
            }

            static MarginLine of(OrderLine line, BigDecimal cost) {
                var price = line.price().afterDiscount();
                return new MarginLine(
                        line.no(),
                        line.item(),
                        line.description(),
                        price,
                        cost,
                        price.subtract(cost).multiply(HUNDRED).divide(price, 1, RoundingMode.HALF_UP));
            }
        }

        public ThinMargin {
            lines = List.copyOf(lines);
        }

        @Override
        public Check check() {
            return Check.MARGIN;
        }

        @Override
        public String brief() {
            return "margin too low";
        }

        @Override
        public Evidence withoutCosts() {
            return new LinesNamed(
                    check(), brief(), lines.stream().map(MarginLine::named).toList());
        }

        private MarginLine worst() {
            return lines.stream()
                    .min(Comparator.comparing(MarginLine::marginPercent))
                    .orElseThrow();
        }

        @Override
        public String sentence() {
            var worst = worst();
            return "line %d has a margin of %s %%, the minimum is %s %%%s"
                    .formatted(
                            worst.line(),
                            Figures.grouped(worst.marginPercent()),
                            Figures.plain(leastPercent),
                            lines.size() == 1 ? "" : ", and " + (lines.size() - 1) + " more");
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof ThinMargin before)
                    || lines.stream()
                            .anyMatch(line -> before.lines.stream()
                                    .noneMatch(l -> l.line() == line.line()
                                            && l.item().equals(line.item())
                                            && line.marginPercent().compareTo(l.marginPercent()) >= 0));
        }
    }

    /** A season's quota would be passed: used + asked > granted. */
    record QuotaPassed(List<Passed> quotas) implements Evidence {

        /** A quota with what the order asks of its item. */
        public record Passed(Quota quota, Quantity asked) {

            /** By how much it would be passed. */
            public Quantity excess() {
                return quota.used().plus(asked).minus(quota.granted());
            }
        }

        public QuotaPassed {
            quotas = List.copyOf(quotas);
        }

        @Override
        public Check check() {
            return Check.QUOTA;
        }

        @Override
        public String brief() {
            return "over quota by " + quotas.get(0).excess();
        }

        @Override
        public String sentence() {
            return quotas.stream()
                    .map(p -> "%s %s may have %s of %s this season, has %s and asks for %s"
                            .formatted(
                                    p.quota().scope().words(),
                                    p.quota().key(),
                                    p.quota().granted(),
                                    p.quota().item(),
                                    p.quota().used(),
                                    p.asked()))
                    .collect(Collectors.joining("; "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof QuotaPassed before)
                    || quotas.stream()
                            .anyMatch(now -> before.quotas.stream()
                                    .noneMatch(b ->
                                            b.quota().item().equals(now.quota().item())
                                                    && b.quota().scope()
                                                            == now.quota().scope()
                                                    && b.quota()
                                                            .key()
                                                            .equals(now.quota().key())
                                                    && !now.excess().exceeds(b.excess())));
        }
    }

    /** Lines wanted in the past, or sooner than the company can have their goods. */
    record WrongDates(LocalDate businessDate, List<DatedLine> lines) implements Evidence {

        /** A line with the day it is wanted and the first that is possible. */
        public record DatedLine(
                int line, String item, String description, LocalDate requestedOn, LocalDate earliest, int leadDays) {}

        public WrongDates {
            lines = List.copyOf(lines);
        }

        private static String in(long days) {
            return days == 0 ? "today" : days == 1 ? "tomorrow" : "in " + days + " days";
        }

        @Override
        public Check check() {
            return Check.DATES;
        }

        @Override
        public String brief() {
            return lines.stream().anyMatch(l -> l.requestedOn().isBefore(businessDate))
                    ? "date has passed"
                    : "before lead time";
        }

        @Override
        public String sentence() {
            return lines.stream()
                    .map(l -> l.requestedOn().isBefore(businessDate)
                            ? "line %d was requested for %d days ago"
                                    .formatted(l.line(), ChronoUnit.DAYS.between(l.requestedOn(), businessDate))
                            : "line %d is requested %s, its lead time is %d"
                                    .formatted(
                                            l.line(),
                                            in(ChronoUnit.DAYS.between(businessDate, l.requestedOn())),
                                            l.leadDays()))
                    .collect(Collectors.joining("; "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof WrongDates before)
                    || lines.stream()
                            .anyMatch(line -> before.lines.stream()
                                    .noneMatch(l -> l.line() == line.line()
                                            && !line.requestedOn().isBefore(l.requestedOn())));
        }
    }

    /**
     * Value or quantity far outside what the customer ordered before.
     *
     * @param value of the whole order, where that is unusual
     * @param orders so many earlier ones were looked at
     */
    record Unusual(Optional<RobustScore> value, int orders, BigDecimal limit, List<UnusualLine> lines)
            implements Evidence {

        /** A line whose quantity is unusual. */
        public record UnusualLine(int line, String item, String description, RobustScore quantity) {}

        public Unusual {
            lines = List.copyOf(lines);
        }

        @Override
        public Check check() {
            return Check.UNUSUAL;
        }

        @Override
        public String brief() {
            return value.isPresent() ? "unusual value" : "unusual quantity";
        }

        @Override
        public String sentence() {
            return Stream.concat(
                            value.stream()
                                    .map(v -> "its net of %s is far from the usual %s"
                                            .formatted(
                                                    Figures.grouped(v.figure()),
                                                    Figures.grouped(v.median()
                                                            .setScale(v.figure().scale(), RoundingMode.HALF_UP)))),
                            lines.stream()
                                    .map(l -> "line %d orders %s; usual is %s"
                                            .formatted(
                                                    l.line(),
                                                    new Quantity(l.quantity().figure()),
                                                    new Quantity(l.quantity()
                                                            .median()
                                                            .setScale(Quantity.DECIMALS, RoundingMode.HALF_UP)))))
                    .collect(Collectors.joining("; "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof Unusual before)
                    || (value.isPresent()
                            && before.value
                                    .filter(v -> !value.get().isFurtherThan(v))
                                    .isEmpty())
                    || lines.stream()
                            .anyMatch(line -> before.lines.stream()
                                    .noneMatch(l -> l.item().equals(line.item())
                                            && line.quantity()
                                                            .figure()
                                                            .subtract(
                                                                    l.quantity().median())
                                                            .abs()
                                                            .compareTo(l.quantity()
                                                                    .figure()
                                                                    .subtract(l.quantity()
                                                                            .median())
                                                                    .abs())
                                                    <= 0));
        }
    }
}
