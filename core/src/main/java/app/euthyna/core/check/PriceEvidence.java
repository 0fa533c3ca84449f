package app.euthyna.core.check;

import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What speaks against the prices of an order. */
public sealed interface PriceEvidence extends Evidence {

    /** Lines sold below their item's floor. */
    record BelowFloor(List<FloorLine> lines, List<DiscountLine> discounts) implements PriceEvidence {

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

    /** Lines at no price where there should be one, or the other way round. */
    record WrongPrice(boolean shouldBeFree, List<PricedLine> lines) implements PriceEvidence {

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

    /** Lines that leave less than the company's margin: (price after discount − unit cost) ÷ price after discount. */
    record ThinMargin(BigDecimal leastPercent, List<MarginLine> lines) implements PriceEvidence {

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
}
