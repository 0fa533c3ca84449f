package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.function.Function;

/** Pages of a list by key: a cursor names the last row seen, so a page costs the same wherever it lies. */
public final class Pages {

    public static final int SIZE = 100;

    private Pages() {
    }

    /** Rows with the cursor of the next page, or null when there is none. */
    public record Page<T>(List<T> rows, String next) {
    }

    /** Cuts a page out of one row more than it holds. */
    public static <T> Page<T> of(List<T> rows, Function<T, List<String>> key) {
        if (rows.size() <= SIZE) {
            return new Page<>(rows, null);
        }
        var shown = rows.subList(0, SIZE);
        var cursor = String.join("\n", key.apply(shown.get(SIZE - 1)));
        return new Page<>(List.copyOf(shown),
                Base64.getUrlEncoder().withoutPadding().encodeToString(cursor.getBytes(StandardCharsets.UTF_8)));
    }

    /** The key that a cursor names; refused when it is none of ours. */
    public static String[] key(String cursor, int parts) {
        try {
            var key = new String(Base64.getUrlDecoder().decode(cursor), StandardCharsets.UTF_8).split("\n", -1);
            if (key.length == parts) {
                return key;
            }
        } catch (IllegalArgumentException notBase64) {
            // told below like any other cursor that is not ours
        }
        throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from an earlier page"));
    }
}
