package app.euthyna.core.approval;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import java.math.BigDecimal;
import java.util.Optional;

/** A rule of the company, or of a customer of its own, that asks for a decision (section 6). */
public sealed interface ApprovalRule {

    Level level();

    /** Why the rule asks for a decision on this order; empty when it does not. */
    Optional<String> asks(Order order, Circumstances circumstances);

    /**
     * What rules look at beside the order.
     *
     * @param firstOrder no order of the customer was cleared before
     * @param stopsWaived a stop of the order was waived
     * @param forNothing what bounds goods that it gives away
     */
    record Circumstances(boolean firstOrder, boolean stopsWaived, GoodsForNothing forNothing) {}

    /** The order's net amount is above a band. */
    record NetAbove(Money amount, Level level) implements ApprovalRule {
        @Override
        public Optional<String> asks(Order order, Circumstances circumstances) {
            var net = order.totals().net();
            return net.compareTo(amount) > 0
                    ? Optional.of("net %s is above %s".formatted(net, amount))
                    : Optional.empty();
        }
    }

    /** A line's discount is above so many per cent. */
    record DiscountAbove(BigDecimal percent, Level level) implements ApprovalRule {
        @Override
        public Optional<String> asks(Order order, Circumstances circumstances) {
            return order.lines().stream()
                    .filter(line -> line.price().discountPercent().compareTo(percent) > 0)
                    .findFirst()
                    .map(line -> "line %d has a discount of %s %%, more than %s %%"
                            .formatted(
                                    line.no(), Figures.plain(line.price().discountPercent()), Figures.plain(percent)));
        }
    }

    /** The order is of a kind. */
    record OfKind(OrderKind kind, Level level) implements ApprovalRule {
        @Override
        public Optional<String> asks(Order order, Circumstances circumstances) {
            return order.kind() == kind ? Optional.of("it is a %s order".formatted(kind.words())) : Optional.empty();
        }
    }

    /** A stop of the order was waived. */
    record StopsWaived(Level level) implements ApprovalRule {
        @Override
        public Optional<String> asks(Order order, Circumstances circumstances) {
            return circumstances.stopsWaived() ? Optional.of("a stop was waived") : Optional.empty();
        }
    }

    /** It is the customer's first order. */
    record FirstOrder(Level level) implements ApprovalRule {
        @Override
        public Optional<String> asks(Order order, Circumstances circumstances) {
            return circumstances.firstOrder() ? Optional.of("it is the customer's first order") : Optional.empty();
        }
    }
}
