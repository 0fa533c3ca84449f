package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Base64;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.regex.Pattern;

/** Pages of a list by key: a cursor names the last row seen, so a page costs the same wherever it lies. */
public final class Pages {

    public static final int SIZE = 100;

    private static final Pattern FIGURE = Pattern.compile("-?\\d{1,19}(\\.\\d{1,19})?");

    private Pages() {}

    /** Rows with the cursor of the next page, or null when there is none. */
    public record Page<T>(List<T> rows, String next) {}

    /** Cuts a page out of one row more than it holds. */
    public static <T> Page<T> of(List<T> rows, Function<T, List<String>> key) {
        return of(rows, SIZE, key);
    }

    /** The same with pages of another size. */
    public static <T> Page<T> of(List<T> rows, int size, Function<T, List<String>> key) {
        if (rows.size() <= size) {
            return new Page<>(rows, null);
        }
        var shown = rows.subList(0, size);
        return new Page<>(List.copyOf(shown), cursor(key.apply(shown.get(size - 1))));
    }

    /** The cursor that names a key. */
    public static String cursor(List<String> key) {
        return Base64.getUrlEncoder()
                .withoutPadding()
                .encodeToString(String.join("\n", key).getBytes(StandardCharsets.UTF_8));
    }

    /** The key that a cursor names, part by part; refused when it is none of ours. */
    public static Key key(String cursor) {
        return new Key(told(() ->
                List.of(new String(Base64.getUrlDecoder().decode(cursor), StandardCharsets.UTF_8).split("\n", -1))));
    }

    /** The parts of a cursor. */
    public record Key(List<String> parts) {

        /** A text; one that no column could hold is none of ours. */
        public String text(int at) {
            return told(() -> {
                if (parts.get(at).chars().anyMatch(Character::isISOControl)
                        || parts.get(at).indexOf('\uFFFD') >= 0) {
                    throw new IllegalArgumentException("not a key");
                }
                return parts.get(at);
            });
        }

        public long number(int at) {
            return told(() -> Long.valueOf(parts.get(at)));
        }

        public LocalDate date(int at) {
            return told(() -> {
                // ten characters: the years that every database knows
                if (parts.get(at).length() != 10) {
                    throw new IllegalArgumentException("not a key");
                }
                return LocalDate.parse(parts.get(at));
            });
        }

        public BigDecimal figure(int at) {
            return told(() -> {
                if (!FIGURE.matcher(parts.get(at)).matches()) {
                    throw new IllegalArgumentException("not a key");
                }
                return new BigDecimal(parts.get(at));
            });
        }
    }

    private static <T> T told(Supplier<T> read) {
        try {
            return read.get();
        } catch (IllegalArgumentException | DateTimeException | IndexOutOfBoundsException notOurs) {
            throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from an earlier page"));
        }
    }
}
