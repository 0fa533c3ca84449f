package app.euthyna.server.platform;

import java.time.LocalDate;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Through which day the books are closed. */
@Component
public class ClosedPeriods {

    private final JdbcClient jdbc;

    ClosedPeriods(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** The last day of the closed periods; empty where none is closed. */
    public Optional<LocalDate> through() {
        return jdbc
                .sql("select max(through) from period_closing where reopened_at is null")
                .query((r, n) -> Optional.ofNullable(r.getObject(1, LocalDate.class)))
                .list()
                .stream()
                .flatMap(Optional::stream)
                .findFirst();
    }
}
