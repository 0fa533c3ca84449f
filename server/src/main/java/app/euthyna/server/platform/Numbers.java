package app.euthyna.server.platform;

import app.euthyna.core.shared.DocumentKind;
import java.time.LocalDate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Document numbers from their series. The series' row is locked until the command ends, so a refused command gives its number back
 * and invoice numbers have no gap.
 */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class Numbers {

    private final JdbcClient jdbc;

    Numbers(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public String next(DocumentKind kind) {
        return kind.prefix() + take(kind.name(), 1001);
    }

    /** Invoice numbers begin anew each year: {@code 2026-00417}. */
    public String nextInvoice(LocalDate on) {
        return "%d-%05d".formatted(on.getYear(), take(DocumentKind.INVOICE.name() + "-" + on.getYear(), 1));
    }

    private long take(String series, long first) {
        var next = jdbc.sql("select next_value from number_series where series = ? for update").param(series)
                .query(Long.class).optional();
        if (next.isEmpty()) {
            jdbc.sql("insert into number_series (series, next_value) values (?, ?)").params(series, first + 1).update();
            return first;
        }
        jdbc.sql("update number_series set next_value = ? where series = ?").params(next.get() + 1, series).update();
        return next.get();
    }
}
