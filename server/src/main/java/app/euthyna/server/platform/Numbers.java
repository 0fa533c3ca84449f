package app.euthyna.server.platform;

import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.dialect.Dialect;
import org.hibernate.dialect.sequence.SequenceSupport;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Document numbers. Invoices and credit notes are numbered without a gap: their series' row is locked until the command
 * ends, so a refused command gives its number back. All others come from a sequence, so that nobody waits for the end
 * of someone else's long command.
 */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class Numbers {

    private static final Set<DocumentKind> FROM_SEQUENCES =
            EnumSet.complementOf(EnumSet.of(DocumentKind.INVOICE, DocumentKind.CREDIT_NOTE, DocumentKind.ENTRY));

    private final StatelessSession session;
    private final SequenceSupport sequences;
    private final ClosedPeriods closed;
    private final Locks locks;

    Numbers(StatelessSession session, Dialect dialect, ClosedPeriods closed, Locks locks) {
        this.closed = closed;
        this.locks = locks;
        this.session = session;
        this.sequences = dialect.getSequenceSupport();
    }

    /** The next number of a series that may have gaps. */
    public String next(DocumentKind kind) {
        if (!FROM_SEQUENCES.contains(kind)) {
            throw new IllegalArgumentException(kind + " is numbered without a gap");
        }
        var next = session.createNativeQuery(
                        "select %s as next_number"
                                .formatted(sequences.getSelectSequenceNextValString(
                                        kind.name().toLowerCase(Locale.ROOT) + "_number")),
                        Long.class)
                // said beforehand: else what the column is is found out anew each time
                .addScalar("next_number", Long.class)
                .getSingleResult();
        return kind.prefix() + next;
    }

    /** Invoice numbers begin anew each year: {@code 2026-00417}. */
    public String nextInvoice(CommandContext context) {
        var on = inSeries(context);
        return "%d-%05d".formatted(on.getYear(), take(DocumentKind.INVOICE.name() + "-" + on.getYear()));
    }

    /** Credit notes are numbered without a gap too, in a series of their own: {@code C2026-00017}. */
    public String nextCreditNote(CommandContext context) {
        var on = inSeries(context);
        return "C%d-%05d".formatted(on.getYear(), take(DocumentKind.CREDIT_NOTE.name() + "-" + on.getYear()));
    }

    /** A series is open in its own year, and after it while a period of that year is. */
    private LocalDate inSeries(CommandContext context) {
        if (context.date().getYear() != context.today().getYear()) {
            RefusedException.where(Dating.series(context.date(), context.today(), closed.through()));
        }
        return context.date();
    }

    private long take(String series) {
        locks.taken(Locks.Rank.SERIES);
        var last = session.get(NumberSeriesEntity.class, series, LockMode.PESSIMISTIC_WRITE);
        if (last == null) {
            var begun = new NumberSeriesEntity();
            begun.series = series;
            begun.nextValue = 2;
            session.insert(begun);
            return 1;
        }
        last.nextValue++;
        session.update(last);
        return last.nextValue - 1;
    }
}
