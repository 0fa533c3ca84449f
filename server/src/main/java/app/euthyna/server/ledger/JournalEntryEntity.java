package app.euthyna.server.ledger;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.hibernate.annotations.Immutable;

/** A journal entry as it is stored: inserted once, never changed. */
@Entity
@Immutable
@Table(name = "journal_entry")
class JournalEntryEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "entry_date")
    LocalDate entryDate;

    String event;

    @Column(name = "document_kind")
    String documentKind;

    @Column(name = "document_number")
    String documentNumber;

    @Column(name = "customer_id")
    Long customerId;

    /** The day on which it was posted, in the company's calendar. */
    @Column(name = "written_on")
    LocalDate writtenOn;

    @Column(name = "posted_at")
    Instant postedAt;

    @Column(name = "posted_by")
    String postedBy;

    @Column(name = "previous_hash")
    String previousHash;

    String hash;
    /** The number of the entry that this one undoes. */
    String mirrors;
    /** Why it was made manually. */
    String remark = "";

    @ElementCollection
    @CollectionTable(name = "journal_line", joinColumns = @JoinColumn(name = "entry_id"))
    List<Line> lines = new ArrayList<>();

    @Embeddable
    record Line(
            @Column(name = "line_no") int lineNo,
            String role,
            String account,
            BigDecimal amount,
            @Column(name = "entry_date") LocalDate entryDate,
            String explained) {}
}
