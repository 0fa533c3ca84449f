package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "journal_entry")
public class JournalEntryEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    LocalDate entryDate;
    String event;
    String documentKind;
    String documentNumber;
    Long customerId;
    Instant postedAt;
    String postedBy;
    String previousHash;
    String hash;

    /** The number of the entry that this one undoes. */
    String mirrors;

    /** Why it was made manually. */
    String remark = "";

    /** The day on which it was posted, in the company's calendar. */
    LocalDate writtenOn;
}
