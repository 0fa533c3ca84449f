package app.euthyna.server.exchange;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;

/** A page of what became of a file, written once. */
@Entity
@Table(name = "import_page")
class ImportPageEntity {

    /** Of which part of a log it is a page. */
    enum Part {
        RESULTS,
        BAD_CELLS
    }

    /** The log, the part and the page, which counts from 1; the log itself holds page 0. */
    @Embeddable
    record Key(
            @Column(name = "import_id") long importId,
            @Enumerated(EnumType.STRING) Part part,
            int no) {}

    @EmbeddedId
    Key key;

    String content;

    protected ImportPageEntity() {}

    ImportPageEntity(Key key, String content) {
        this.key = key;
        this.content = content;
    }
}
