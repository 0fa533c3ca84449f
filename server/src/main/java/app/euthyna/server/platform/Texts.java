package app.euthyna.server.platform;

import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Texts on their way into the books. */
public final class Texts {

    private Texts() {}

    /** What came with a request, without blanks around it; empty where it was left out. */
    public static String given(String text) {
        return text == null ? "" : text.strip();
    }

    /** The beginning of a text, as much as its column takes; no character is cut in two. */
    public static String cut(String text, int length) {
        if (text.length() <= length) {
            return text;
        }
        return text.substring(0, Character.isHighSurrogate(text.charAt(length - 1)) ? length - 1 : length);
    }

    /** Those of the texts that say something, one after another. */
    public static String joined(String by, String... parts) {
        return Stream.of(parts).filter(part -> part != null && !part.isBlank()).collect(Collectors.joining(by));
    }
}
