package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * What the entries of a day moved: by role and account, and by what was posted. Written with each entry; the proof
 * holds it against the lines.
 */
@Entity
@IdClass(JournalDayEntity.Key.class)
@Table(name = "journal_day")
public class JournalDayEntity {
    @Id
    String role;

    @Id
    LocalDate entryDate;

    @Id
    String documentKind;

    @Id
    String event;

    @Id
    String account;

    BigDecimal debit;
    BigDecimal credit;

    public record Key(String role, LocalDate entryDate, String documentKind, String event, String account) {}
}
