package app.euthyna.core.shared;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Which dates a document may carry (section 14): none in the future, none before what it comes from, and far back only
 * for the finance lead with a reason. What checks look at does not depend on it: they look at today.
 */
public final class Dating {

    /** No document carries an earlier date, whoever writes it: no calendar question, and no year mistyped. */
    public static final LocalDate EARLIEST = LocalDate.of(2000, 1, 1);

    /** Days that a document may be dated back by anybody, where the company has no rule of its own. */
    public static final int DAYS_BACK = 31;

    /** Who dates further back than the company's days, with a reason. */
    public static final List<Role> FAR_BACK = List.of(Role.LEAD);

    private Dating() {}

    /** The date lies after today. */
    @Code("dated-ahead")
    public record DatedAhead(LocalDate on, LocalDate today) implements Refusal {}

    /** The date lies further back than the person may date. */
    @Code("dated-too-far-back")
    public record DatedTooFarBack(LocalDate on, LocalDate earliest, boolean reasonMissing) implements Refusal {
        @Override
        public String variant() {
            return reasonMissing ? "reason-missing" : "";
        }
    }

    /** The document would carry a date before that of something it comes from. */
    @Code("dated-before")
    public record DatedBefore(LocalDate on, String origin, LocalDate originOn) implements Refusal {}

    /** Why a day can't be one that has come, if so. */
    public static Optional<Refusal> ahead(LocalDate on, LocalDate today) {
        return on.isAfter(today) ? Optional.of(new DatedAhead(on, today)) : Optional.empty();
    }

    /**
     * Why a person may not give a document a date, if so.
     *
     * @param daysBack so many days back anybody may date; further back only the finance lead, for a reason
     * @param reason as the person gave it; blank where there is none
     */
    public static Optional<Refusal> refusal(LocalDate on, LocalDate today, int daysBack, Person person, String reason) {
        var ahead = ahead(on, today);
        if (ahead.isPresent()) {
            return ahead;
        }
        var earliest = today.minusDays(daysBack);
        if (!on.isBefore(earliest)) {
            return Optional.empty();
        }
        if (on.isBefore(EARLIEST)) {
            return Optional.of(new DatedTooFarBack(on, EARLIEST, false));
        }
        if (!person.carries(FAR_BACK)) {
            return Optional.of(new DatedTooFarBack(on, earliest, false));
        }
        return reason.isBlank() ? Optional.of(new DatedTooFarBack(on, earliest, true)) : Optional.empty();
    }

    /** Why a day can't be the booking day of a bank entry, if so; its statement may be much older than a month. */
    public static Optional<Refusal> bookingDay(LocalDate on, LocalDate today) {
        var ahead = ahead(on, today);
        if (ahead.isPresent()) {
            return ahead;
        }
        return on.isBefore(EARLIEST) ? Optional.of(new DatedTooFarBack(on, EARLIEST, false)) : Optional.empty();
    }

    /**
     * The year of a numbered series must be this one, or the last while a period of it is open (section 14).
     *
     * @param closedThrough the last day of the closed periods
     */
    public static Optional<Refusal> series(LocalDate on, LocalDate today, Optional<LocalDate> closedThrough) {
        var lastYearOpen = closedThrough
                .filter(through -> !through.isBefore(LocalDate.of(today.getYear() - 1, 12, 31)))
                .isEmpty();
        var earliest = LocalDate.of(lastYearOpen ? today.getYear() - 1 : today.getYear(), 1, 1);
        return on.isBefore(earliest) ? Optional.of(new DatedTooFarBack(on, earliest, false)) : Optional.empty();
    }

    /** A document is dated before another that it comes from. */
    public static Optional<Refusal> before(LocalDate on, String origin, LocalDate originOn) {
        return on.isBefore(originOn) ? Optional.of(new DatedBefore(on, origin, originOn)) : Optional.empty();
    }

    /** A span of days that ends before it begins, as a refusal of the field; each end may be open. */
    public static List<Refusal> span(String fromField, LocalDate from, String toField, LocalDate to) {
        var refusals = new ArrayList<Refusal>();
        if (from != null && to != null && from.isAfter(to)) {
            refusals.add(CommonRefusal.Incomplete.of(
                    toField, "a day on or after %s, which is %s".formatted(fromField, Figures.day(from))));
        }
        return refusals;
    }
}
