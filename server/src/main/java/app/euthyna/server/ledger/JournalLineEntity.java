package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "journal_line")
public class JournalLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long entryId;
    int lineNo;
    String role;
    String account;
    BigDecimal amount;
    LocalDate entryDate;
    String explained;
}
