package app.euthyna.server.lists;

import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** How many rows are looked at at most, so that an answer is there soon however long the list is. */
@Component
class Bounds {

    private static final int FEW = 20;
    private static final int BRIEF = 8;
    private static final int KEYS = 4;
    private static final int PAGE = 16;
    private static final int ASKED = 10;
    private static final int NAMING = 10;
    private static final int WORKED = 2;

    private final int most;

    Bounds(@Value("${euthyna.lists.most-looked:20000}") int most) {
        this.most = most;
    }

    int most() {
        return most;
    }

    /** For one page: the answer says how far it looked, and whoever asks looks on from there. */
    int page() {
        return Math.max(1, most / PAGE);
    }

    /** So many are few: they are sorted rather than looked for. */
    int few() {
        return Math.max(1, most / FEW);
    }

    /** So many are sorted whole where they are all that a list has, rather than gone through name by name. */
    int brief() {
        return Math.max(1, most / BRIEF);
    }

    /** So many keys are sorted at each step, where an index alone is read for them. */
    int keys() {
        return Math.max(1, most / KEYS);
    }

    /** Where rows are read name by name, which takes several times as long for each. */
    static int naming(int looked) {
        return Math.max(1, looked / NAMING);
    }

    /** Where rows are worked out. */
    static int worked(int looked) {
        return Math.max(1, looked / WORKED);
    }

    /** Where these are asked of each row: fewer where each is a question of its own. */
    static int of(Conditions asked, int looked) {
        return asked.texts().stream().anyMatch(text -> text.contains("(select")) ? Math.max(1, looked / ASKED) : looked;
    }
}
