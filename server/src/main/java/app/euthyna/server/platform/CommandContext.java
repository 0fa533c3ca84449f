package app.euthyna.server.platform;

import app.euthyna.core.shared.Person;
import java.time.LocalDate;

/**
 * Who gives a command, for which business date, and why.
 *
 * @param reason as the person gave it; empty where none is asked for
 */
public record CommandContext(Person person, LocalDate date, String reason) {

    public CommandContext because(String given) {
        return new CommandContext(person, date, given == null ? "" : given);
    }

    public CommandContext on(LocalDate given) {
        return given == null ? this : new CommandContext(person, given, reason);
    }
}
