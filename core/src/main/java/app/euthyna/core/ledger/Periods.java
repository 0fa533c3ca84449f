package app.euthyna.core.ledger;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.List;
import java.util.Optional;

/**
 * Which dates take entries (section 8): a closed period takes none, until the finance lead opens it again for a reason.
 */
public final class Periods {

    private Periods() {}

    /** The entry would be dated in a closed period. */
    @Code("period-closed")
    public record PeriodClosed(LocalDate date, LocalDate through) implements Refusal.WrongState {}

    /** Why a date takes no entry, if so. */
    public static Optional<Refusal> refusal(LocalDate date, Optional<LocalDate> closedThrough) {
        return closedThrough.filter(through -> !date.isAfter(through)).map(through -> new PeriodClosed(date, through));
    }

    /** The period has not ended yet. */
    @Code("period-not-over")
    public record PeriodNotOver(LocalDate through, LocalDate today) implements Refusal.WrongState {}

    /**
     * Why a period can't be closed through a date, if so: a period is a month, is closed when it is over, and month
     * after month.
     */
    public static Optional<Refusal> closing(
            LocalDate through, LocalDate today, Optional<LocalDate> closedThrough, Person person) {
        if (person.role() != Role.LEAD) {
            return Optional.of(new CommonRefusal.NotAuthorised("close a period", person.role(), List.of(Role.LEAD)));
        }
        if (!through.isBefore(today)) {
            return Optional.of(new PeriodNotOver(through, today));
        }
        if (through.plusDays(1).getDayOfMonth() != 1) {
            return Optional.of(CommonRefusal.Incomplete.of(
                    "through",
                    "the last day of a month, such as %s"
                            .formatted(Figures.day(through.withDayOfMonth(1).minusDays(1)))));
        }
        return closedThrough
                .map(closed -> next(today, Optional.of(closed)))
                .filter(next -> !next.equals(through))
                .map(next -> CommonRefusal.Incomplete.of(
                        "through", "%s: months are closed one after the other".formatted(Figures.day(next))));
    }

    /** The last day of the period that is closed next: the month after what is closed, else the last that is over. */
    public static LocalDate next(LocalDate today, Optional<LocalDate> closedThrough) {
        return closedThrough
                .map(closed -> YearMonth.from(closed.plusDays(1)).atEndOfMonth())
                .orElseGet(() -> YearMonth.from(today).minusMonths(1).atEndOfMonth());
    }

    /** Why the period that was closed last can't be opened again, if so. */
    public static Optional<Refusal> reopening(Optional<LocalDate> closedThrough, Person person, String reason) {
        if (person.role() != Role.LEAD) {
            return Optional.of(new CommonRefusal.NotAuthorised("reopen a period", person.role(), List.of(Role.LEAD)));
        }
        if (closedThrough.isEmpty()) {
            return Optional.of(new CommonRefusal.NotFound("closed period", ""));
        }
        return reason.isBlank()
                ? Optional.of(CommonRefusal.Incomplete.of("reason", "a reason for reopening"))
                : Optional.empty();
    }
}
