package app.euthyna.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

/** A page of what became of a file, written once. */
@Entity
@IdClass(ImportPageEntity.Key.class)
@Table(name = "import_page")
public class ImportPageEntity {

    /** Of which part of a log it is a page. */
    public enum Part {
        RESULTS,
        BAD_CELLS
    }

    @Id
    long importId;

    @Id
    @Enumerated(EnumType.STRING)
    Part part;

    /** Counts from 1; the log itself holds page 0. */
    @Id
    int no;

    String content;

    /** The log, the part and the page. */
    public record Key(long importId, Part part, int no) {}
}
