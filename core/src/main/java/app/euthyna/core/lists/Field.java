package app.euthyna.core.lists;

import java.util.List;

/**
 * A field that rows of a list are filtered by.
 *
 * @param name as it is written in addresses
 * @param words as it is called in a sentence: {@code requested}
 * @param choices of a {@link FieldKind#CHOICE} or {@link FieldKind#FLAG}, all that there are, as they are written in
 *     addresses
 */
public record Field(String name, String words, FieldKind kind, List<String> choices) {
    public Field {
        choices = List.copyOf(choices);
    }
}
