package app.euthyna.server.platform;

import app.euthyna.core.shared.DocumentRef;
import java.util.Collection;

/**
 * Many values as one parameter of a question: an array, for {@code :these contains o.id}. Unlike {@code in (:these)}
 * the question stays the same however many they are, and is translated to SQL once.
 */
public final class Many {

    private Many() {}

    public static Long[] ids(Collection<Long> ids) {
        return ids.toArray(Long[]::new);
    }

    public static String[] names(Collection<String> names) {
        return names.toArray(String[]::new);
    }

    /** The numbers of documents; those of two kinds may have the same. */
    public static String[] numbers(Collection<DocumentRef> documents) {
        return documents.stream().map(DocumentRef::number).distinct().toArray(String[]::new);
    }
}
