package app.euthyna.core.billing;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;

/**
 * Which reminder an invoice past due calls for: a reminder, a second one, a last one before it goes to a lawyer (common
 * practice).
 */
public final class Dunning {

    /** Days past due from which the first, second and last reminder may go. */
    public static final List<Integer> AFTER_DAYS = List.of(7, 21, 35);
    /** No reminder follows another sooner than so many days. */
    public static final int BETWEEN = 10;

    private Dunning() {}

    /**
     * An invoice past due.
     *
     * @param step of the last reminder that named it; zero where none did
     * @param remindedOn when that was; null where none did
     */
    public record Overdue(String invoice, LocalDate dueOn, Money open, int step, LocalDate remindedOn) {

        public long daysLate(LocalDate on) {
            return ChronoUnit.DAYS.between(dueOn, on);
        }

        /** The step that it calls for on a day; none where it is too early, or all three went out. */
        public Optional<Integer> next(LocalDate on) {
            if (step >= AFTER_DAYS.size()
                    || daysLate(on) < AFTER_DAYS.get(step)
                    || (remindedOn != null && remindedOn.plusDays(BETWEEN).isAfter(on))) {
                return Optional.empty();
            }
            return Optional.of(step + 1);
        }
    }

    /**
     * A reminder to a customer: the highest step that one of the invoices calls for, over all that are past due.
     *
     * @param invoices all that it names; each is at the reminder's step from then on
     */
    public record Reminder(int step, List<Overdue> invoices, Money open) {}

    /** The reminder that a customer's overdue invoices call for; none where no invoice calls for one. */
    public static Optional<Reminder> reminder(List<Overdue> overdue, LocalDate on) {
        return overdue.stream()
                .flatMap(invoice -> invoice.next(on).stream())
                .max(Integer::compare)
                .map(step -> new Reminder(
                        step,
                        overdue,
                        overdue.stream().map(Overdue::open).reduce(Money::plus).orElseThrow()));
    }
}
