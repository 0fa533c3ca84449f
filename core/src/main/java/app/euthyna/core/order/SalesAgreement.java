package app.euthyna.core.order;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What orders are made from: a quote, a blanket order, or a recurring order (*). It posts nothing and reserves nothing.
 *
 * @param from the first day on which an order can be made from it; of a recurring order, the first on which it is due
 * @param until the last such day
 * @param ceiling net that the orders called off a blanket order may come to together
 * @param made how often a recurring order has come due and was made or passed over
 * @param schedule when which quantity of a blanket order is to be called off
 */
public record SalesAgreement(
        String number,
        Kind kind,
        State state,
        String customer,
        LocalDate from,
        LocalDate until,
        Optional<Money> ceiling,
        Optional<Recurrence> recurrence,
        int made,
        Currency currency,
        List<Line> lines,
        List<Call> schedule) {

    /** What it is. */
    public enum Kind {
        QUOTE("quote"),
        BLANKET_ORDER("blanket order"),
        RECURRING_ORDER("recurring order");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** Whether orders can still be made from it; a quote is ORDERED once. */
    public enum State {
        OPEN,
        ORDERED,
        LOST,
        ENDED;

        public String words() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** An item at a price; of a blanket order, all that may be called off. */
    public record Line(int no, String item, String description, Quantity quantity, Price price) {}

    /** A quantity of a line to be called off on a day. */
    public record Call(LocalDate on, int line, Quantity quantity) {}

    /**
     * What orders have taken of a blanket order so far, less what was cancelled of them.
     *
     * @param quantities by line
     */
    public record Taken(Map<Integer, Quantity> quantities, Money net) {
        public Taken {
            quantities = Map.copyOf(quantities);
        }

        Quantity of(int line) {
            return quantities.getOrDefault(line, Quantity.ZERO);
        }
    }

    public SalesAgreement {
        lines = List.copyOf(lines);
        schedule = List.copyOf(schedule);
    }

    /**
     * The day on which an order of it is due next, while it is open: by the schedule of a blanket order, by the
     * recurrence of a recurring one.
     */
    public Optional<LocalDate> dueNext() {
        if (state != State.OPEN) {
            return Optional.empty();
        }
        return kind == Kind.BLANKET_ORDER
                ? schedule.stream().map(Call::on).min(LocalDate::compareTo)
                : recurrence.map(r -> r.due(from, made)).filter(due -> !due.isAfter(until));
    }

    /** Whether an order of it is due on a day. */
    public boolean isDue(LocalDate on) {
        return dueNext().filter(due -> !due.isAfter(on)).isPresent();
    }

    /** What all of its lines come to. */
    public Money net() {
        return lines.stream()
                .map(line -> line.price().net(line.quantity(), currency))
                .reduce(Money.zero(currency), Money::plus);
    }

    /** What can still be called off a line. */
    public Quantity left(Line line, Taken taken) {
        return line.quantity().minus(taken.of(line.no())).max(Quantity.ZERO);
    }

    /** What may still be called off in value. */
    public Optional<Money> left(Taken taken) {
        return ceiling.map(most -> most.minus(taken.net()));
    }

    /**
     * Whether an order of these quantities can be made from it; a blanket order gives no more than is left, the others
     * any quantity.
     *
     * @param asked by line; what is not named is not taken
     */
    public Decision<Map<Integer, Quantity>> take(Map<Integer, Quantity> asked, Taken taken, LocalDate on) {
        if (state != State.OPEN) {
            return Decision.refused(new SalesAgreementRefusal.Closed(number, kind, state));
        }
        if (on.isBefore(from) || on.isAfter(until)) {
            return Decision.refused(new SalesAgreementRefusal.NotValid(number, kind, from, until, on));
        }
        var refusals = asked.isEmpty()
                ? List.<Refusal>of(CommonRefusal.Incomplete.of("lines", "at least one line of " + number))
                : unfit(asked, taken);
        return refusals.isEmpty() ? Decision.of(Map.copyOf(asked)) : Decision.refused(refusals);
    }

    /** What speaks against quantities of its lines, whatever the day. */
    public List<Refusal> unfit(Map<Integer, Quantity> asked, Taken taken) {
        var refusals = new ArrayList<Refusal>();
        var net = Money.zero(currency);
        for (var ask : asked.entrySet()) {
            var line = lines.stream().filter(l -> l.no() == ask.getKey()).findFirst();
            if (line.isEmpty()) {
                refusals.add(new CommonRefusal.NotFound("line", ask.getKey() + " of " + number));
                continue;
            }
            if (!ask.getValue().isPositive()) {
                refusals.add(
                        CommonRefusal.Incomplete.of("lines[" + ask.getKey() + "].quantity", "a quantity above zero"));
                continue;
            }
            net = net.plus(line.get().price().net(ask.getValue(), currency));
            var left = left(line.get(), taken);
            if (kind == Kind.BLANKET_ORDER && ask.getValue().exceeds(left)) {
                refusals.add(new SalesAgreementRefusal.MoreThanLeft(number, ask.getKey(), ask.getValue(), left));
            }
        }
        var leftInValue = left(taken);
        if (kind == Kind.BLANKET_ORDER && leftInValue.isPresent() && net.compareTo(leftInValue.get()) > 0) {
            refusals.add(new SalesAgreementRefusal.MoreThanWorth(number, net, leftInValue.get()));
        }
        return refusals;
    }
}
