package app.euthyna.core.check;

import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The figures that made a check fire. */
public sealed interface Evidence
        permits PoEvidence,
                PriceEvidence,
                Evidence.LinesNamed,
                Evidence.OverLimit,
                Evidence.Blocked,
                Evidence.InvoicesOverdue,
                Evidence.Unlicensed,
                Evidence.StockShortage,
                Evidence.QuotaPassed,
                Evidence.WrongDates,
                Evidence.Unusual {

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
