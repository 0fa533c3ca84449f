package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.math.BigDecimal;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** The figures that made a check fire. */
public sealed interface Evidence {

    Check check();

    /** The finding in a few words, for lists. */
    String brief();

    /** The finding as a part of a sentence about the order: "the customer would be EUR 12.00 over the limit". */
    String sentence();

    /** Whether this is worse than what was waived, so that the waiver no longer covers it (section 4). */
    boolean isWorseThan(Evidence waived);

    /** Exposure = unpaid + dispatched, not invoiced + cleared, not dispatched + this order − unapplied; it is above the limit. */
    record OverLimit(CustomerPosition position, Money thisOrder, Money exposure, Money limit, Money excess) implements Evidence {
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
    record InvoicesOverdue(LocalDate businessDate, int grantedDays, Money above, List<Surroundings.DueInvoice> invoices) implements Evidence {
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
            return "invoice %s with %s open is %d days past due%s".formatted(first.number(), first.open(), days(first), more);
        }

        /** How long an invoice is past due. */
        public long days(Surroundings.DueInvoice invoice) {
            return ChronoUnit.DAYS.between(invoice.dueOn(), businessDate);
        }

        /** Days that go by do not make it worse: another invoice does, or more open on one. */
        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof InvoicesOverdue before) || invoices.stream().anyMatch(invoice -> before.invoices.stream()
                    .noneMatch(i -> i.number().equals(invoice.number()) && invoice.open().compareTo(i.open()) <= 0));
        }
    }

    /** Lines sold below their item's floor. */
    record BelowFloor(List<FloorLine> lines) implements Evidence {

        /** A line's unit price after discount, and the least it should be; both with four decimals. */
        public record FloorLine(int line, String item, String description, BigDecimal given, BigDecimal floor) {
        }

        public BelowFloor {
            lines = List.copyOf(lines);
        }

        @Override
        public Check check() {
            return Check.PRICE_FLOOR;
        }

        @Override
        public String brief() {
            return "below floor price";
        }

        @Override
        public String sentence() {
            return lines.stream().map(l -> "line %d goes at %s, its floor is %s".formatted(l.line(), plain(l.given()), plain(l.floor())))
                    .collect(Collectors.joining("; "));
        }

        private static String plain(BigDecimal price) {
            var stripped = price.stripTrailingZeros();
            return (stripped.scale() < 2 ? stripped.setScale(2) : stripped).toPlainString();
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof BelowFloor before) || lines.stream().anyMatch(line -> before.lines.stream()
                    .noneMatch(l -> l.line() == line.line() && l.item().equals(line.item()) && line.given().compareTo(l.given()) >= 0));
        }
    }

    /** The PO number was met before. */
    record PoMet(String po, List<Match> matches) implements Evidence {

        /** One earlier use. */
        public record Match(PoNumber.Likeness kind, PoUse use) {
        }

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
                case SAME -> "is also on order %s";
                case ALIKE -> "reads like %2$s on order %1$s";
                case NEAR -> "is one slip away from %2$s on order %1$s";
            };
            var more = matches.size() == 1 ? "" : " and %d more".formatted(matches.size() - 1);
            return "the PO number " + reads.formatted(first.use().order(), first.use().po()) + more;
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoMet before) || matches.stream().anyMatch(match -> before.matches.stream()
                    .noneMatch(m -> m.use().order().equals(match.use().order()) && m.kind().compareTo(match.kind()) <= 0));
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
            return "PO ceiling passed";
        }

        @Override
        public String sentence() {
            return "the orders under this PO come to %s, its ceiling is %s".formatted(together, ceiling);
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoCeilingPassed before) || together.compareTo(before.together) > 0;
        }
    }

    /** Lines at no price where there should be one, or the other way round. */
    record WrongPrice(boolean shouldBeFree, List<PricedLine> lines) implements Evidence {

        /** A line with its unit price. */
        public record PricedLine(int line, String item, String description, String unitPrice) {
        }

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
                    + (shouldBeFree ? "a price though the goods go out at no charge" : "no price");
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
                    case NOT_FOUND -> "the register does not know the " + of + " " + licence.number();
                    case NO_ANSWER -> "the register gave no answer on the " + of + " " + licence.number();
                    case FOUND -> "the " + of + " lapsed " + ChronoUnit.DAYS.between(licence.validTo(), on)
                            + " days ago";
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
                case NO_ANSWER -> "register silent";
                case FOUND -> "licence lapsed";
            };
        }

        @Override
        public String sentence() {
            return gaps.stream().map(gap -> gap.words(businessDate)).distinct().collect(Collectors.joining(" and "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof Unlicensed before) || gaps.stream().anyMatch(gap -> before.gaps.stream()
                    .noneMatch(g -> g.item().equals(gap.item()) && g.licence().answer() == gap.licence().answer()
                            && g.licence().number().equals(gap.licence().number())));
        }
    }

    /** Quantity that free stock could not cover. */
    record Short(List<ShortLine> lines) implements Evidence {

        /** A line with what it orders, what is or would be held for it, and what waits. */
        public record ShortLine(int line, String item, String description, Quantity toShip, Quantity covered, Quantity waiting) {
        }

        public Short {
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
            return lines.stream().map(l -> "%s of %s %s are not in the house".formatted(l.waiting(), l.toShip(),
                    l.description().toLowerCase(Locale.ROOT))).collect(Collectors.joining(", "));
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof Short before) || lines.stream().anyMatch(line -> before.lines.stream()
                    .noneMatch(l -> l.line() == line.line() && !line.waiting().exceeds(l.waiting())));
        }
    }
}
