package app.euthyna.core.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Person;
import java.time.LocalDate;
import java.util.function.Function;

/**
 * Who undoes what, why and as of when.
 *
 * @param on the date of all that is posted
 * @param reason as it stands on the documents
 * @param reasonCode in the list of reasons; stands on a return
 * @param numbers gives the next number of a kind, asked for once for each document made
 */
public record UnwindRequest(
        Intent intent,
        Choices choices,
        Person person,
        String reason,
        String reasonCode,
        LocalDate on,
        Function<DocumentKind, String> numbers) {}
