package app.euthyna.server.platform;

import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.Person;
import java.time.LocalDate;

/**
 * Who gives a command, on which day, with which date on the document, and why.
 *
 * @param today the day on which it is given: what checks, deputies and licences go by
 * @param date that the document carries; today unless the person says otherwise
 * @param reason as the person gave it; empty where none is asked for
 */
public record CommandContext(Person person, LocalDate today, LocalDate date, String reason, DatingRule rule) {

    /** A command of today. */
    public CommandContext(Person person, LocalDate today, String reason) {
        this(person, today, today, reason, () -> Dating.DAYS_BACK);
    }

    public CommandContext because(String given) {
        return new CommandContext(person, today, date, given == null ? "" : given, rule);
    }

    /** The same with the date and the reason that came with a request; each may be left out. */
    public CommandContext given(LocalDate date, String reason) {
        return because(Texts.given(reason)).on(date);
    }

    /** The same with the date that the person gives the document, as far as they may; null leaves it as it is. */
    public CommandContext on(LocalDate given) {
        if (given == null || given.equals(date)) {
            return this;
        }
        RefusedException.where(Dating.refusal(given, today, rule.daysBack(), person, reason));
        return dated(given);
    }

    /** The same with a date that follows from documents; it lies in the future never. */
    public CommandContext dated(LocalDate day) {
        return new CommandContext(person, today, day.isAfter(today) ? today : day, reason, rule);
    }

    /** The same with today's date: what follows from a command is done now. */
    public CommandContext now() {
        return dated(today);
    }

    /** How far back the company lets its people date. */
    public interface DatingRule {
        int daysBack();
    }
}
