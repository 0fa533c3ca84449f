package app.euthyna.server.lists;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** How many rows are looked at for a page at most, so that a page is there soon however long the list is. */
@Component
class Bounds {

    private static final int FEW = 20;
    private static final int ASKED = 10;
    private static final int NAMING = 10;

    private final int most;

    Bounds(@Value("${euthyna.lists.most-looked:20000}") int most) {
        this.most = most;
    }

    int most() {
        return most;
    }

    /** So many are few: they are sorted rather than looked for. */
    int few() {
        return Math.max(1, most / FEW);
    }

    /** Where rows are read name by name. */
    int naming() {
        return Math.max(1, most / NAMING);
    }

    /** Where these are asked of each row: fewer where each is a question of its own. */
    int of(Conditions asked) {
        return asked.texts().stream().anyMatch(text -> text.contains("(select")) ? Math.max(1, most / ASKED) : most;
    }
}
