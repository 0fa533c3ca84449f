package app.euthyna.server.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;

/**
 * The clock of the company: today is the calendar day in its time zone. What goes by real time (sessions, throttles,
 * the life of idempotency keys, whether a job is alive) does not ask it. An instance that was started for worked cases
 * can have it set, and a demo company is lived through with it; everywhere else it shows the time.
 */
public class CompanyClock extends Clock {

    private static final LocalTime MORNING = LocalTime.of(9, 0);

    private final Company company;
    private volatile Duration ahead = Duration.ZERO;

    CompanyClock(Company company) {
        this.company = company;
    }

    public LocalDate today() {
        return LocalDate.ofInstant(instant(), getZone());
    }

    /** Lets it show the morning of a day and run on from there. */
    public void set(LocalDate day) {
        ahead = Duration.between(
                Instant.now(), day.atTime(MORNING).atZone(getZone()).toInstant());
    }

    /** Lets it show the time again. */
    public void reset() {
        ahead = Duration.ZERO;
    }

    @Override
    public ZoneId getZone() {
        return company.zone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return Clock.offset(Clock.system(zone), ahead);
    }

    @Override
    public Instant instant() {
        return Instant.now().plus(ahead);
    }
}
