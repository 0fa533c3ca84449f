package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Says filters as sentences, with the names of what codes stand for. */
@Component
class Sentences {

    private final Questions questions;

    Sentences(Questions questions) {
        this.questions = questions;
    }

    /** What is said of the field: {@code in the last 3 days}. */
    String words(ListQuestion asked, Filter filter) {
        return filter.words(named(asked, filter));
    }

    /** With the field before it: {@code requested in the last 3 days}. */
    String whole(ListQuestion asked, Filter filter) {
        return filter.sentence(named(asked, filter));
    }

    private UnaryOperator<String> named(ListQuestion asked, Filter filter) {
        var column = asked.list().seen(filter.field().name()).orElseThrow();
        var names = filter instanceof Filter.Among among && column.kind() == FieldKind.CODE
                ? questions.coded(column, among.values()).stream()
                        .collect(Collectors.toMap(Questions.Found::code, Questions.Found::name))
                : Map.<String, String>of();
        return value -> names.getOrDefault(value, column.words(value).toLowerCase(Locale.ROOT));
    }
}
