package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What is typed in the box of a list, read as filters: numbers, PO numbers and names that begin so. */
@Component
class Finding {

    /** So many of what one column names are offered. */
    private static final int OF_ONE = 4;

    private final ListReader reader;
    private final Questions questions;
    private final Sentences sentences;

    Finding(ListReader reader, Questions questions, Sentences sentences) {
        this.questions = questions;
        this.reader = reader;
        this.sentences = sentences;
    }

    /**
     * A filter that finds something.
     *
     * @param written as it stands in an address
     * @param words the sentence
     */
    record Found(String written, String words) {}

    /** What a column can name and begins or is called so. */
    List<Questions.Found> offered(Column column, String typed) {
        return questions.offered(column, typed);
    }

    /** Filters of which each has rows, or at least something to name; in the sequence of the columns. */
    List<Found> of(DeclaredList list, String typed) {
        var found = new ArrayList<Found>();
        for (var column : list.seen()) {
            if (column.kind() == FieldKind.CODE) {
                questions.offered(column, typed).stream()
                        .limit(OF_ONE)
                        .map(one -> "%s:any:%s".formatted(column.name(), one.code()))
                        .forEach(written -> asked(list, written).map(this::told).ifPresent(found::add));
            } else {
                operator(column)
                        .flatMap(
                                operator -> asked(list, "%s:%s:%s".formatted(column.name(), operator.written(), typed)))
                        .filter(reader::isAny)
                        .map(this::told)
                        .ifPresent(found::add);
            }
        }
        return found;
    }

    private static Optional<Filter.Operator> operator(Column column) {
        if (column.kind() != FieldKind.TEXT) {
            return Optional.empty();
        }
        if (column.traits().contains(Trait.SEARCHED)) {
            return Optional.of(Filter.Operator.HAS);
        }
        return column.opens().isPresent() || column.traits().contains(Trait.LOOKED_UP)
                ? Optional.of(Filter.Operator.STARTS)
                : Optional.empty();
    }

    /** Empty where what was typed can't be asked so. */
    private static Optional<ListQuestion> asked(DeclaredList list, String written) {
        try {
            return Optional.of(ListQuestion.of(list, List.of(written), null, null));
        } catch (RefusedException unreadable) {
            return Optional.empty();
        }
    }

    private Found told(ListQuestion asked) {
        var filter = asked.filters().get(0);
        return new Found(filter.written(), sentences.whole(asked, filter));
    }
}
