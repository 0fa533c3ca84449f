package app.euthyna.server.platform;

import java.time.LocalDate;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Through which day the books are closed. */
@Component
public class ClosedPeriods {

    private final PlatformQueries queries;

    ClosedPeriods(PlatformQueries queries) {
        this.queries = queries;
    }

    /** The last day of the closed periods; empty where none is closed. */
    public Optional<LocalDate> through() {
        return Optional.ofNullable(queries.through());
    }
}
