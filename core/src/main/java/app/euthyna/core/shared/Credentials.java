package app.euthyna.core.shared;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** What a user's name and password may be (section 15). */
public final class Credentials {

    /** Small letters, digits, and signs between them: no two names look alike, and none has blanks or hidden signs. */
    private static final Pattern USERNAME = Pattern.compile("[a-z0-9]([a-z0-9._-]{0,58}[a-z0-9])?");

    /** Names under which the application itself acts. */
    private static final Set<String> RESERVED =
            Set.of("clock", "payment-service", "system", "euthyna", "nobody", "anonymous", "anonymoususer", "me");

    public static final int LEAST = 12;

    /** What the hash of a password can hold (bcrypt). */
    public static final int MOST_BYTES = 72;

    private Credentials() {}

    /** Why a new user can't be called so, if so. */
    public static List<Refusal> refusals(String username, String displayName) {
        var refusals = new ArrayList<Refusal>();
        if (!USERNAME.matcher(username).matches()) {
            refusals.add(CommonRefusal.Incomplete.of(
                    "username", "small letters a to z, digits, and . _ - between them; at most 60"));
        } else if (RESERVED.contains(username)) {
            refusals.add(CommonRefusal.Incomplete.of("username", "a name that the application does not act under"));
        }
        if (displayName.isBlank()
                || !displayName.equals(displayName.strip())
                || displayName.codePoints().anyMatch(Credentials::isHidden)) {
            refusals.add(
                    CommonRefusal.Incomplete.of("displayName", "a name without hidden characters or blanks around it"));
        }
        return refusals;
    }

    private static boolean isHidden(int character) {
        return switch (Character.getType(character)) {
            case Character.CONTROL,
                    Character.FORMAT,
                    Character.SURROGATE,
                    Character.PRIVATE_USE,
                    Character.UNASSIGNED,
                    Character.LINE_SEPARATOR,
                    Character.PARAGRAPH_SEPARATOR -> true;
            default -> false;
        };
    }

    /**
     * Why a password can't be used, if so.
     *
     * @param isCommon it is among those that are tried first
     */
    public static List<Refusal> refusals(String username, String password, boolean isCommon) {
        if (password.codePointCount(0, password.length()) < LEAST) {
            return List.of(CommonRefusal.Incomplete.of("password", "at least %d characters".formatted(LEAST)));
        }
        if (password.getBytes(StandardCharsets.UTF_8).length > MOST_BYTES) {
            return List.of(CommonRefusal.Incomplete.of(
                    "password", "at most %d bytes; a letter with an accent counts as two".formatted(MOST_BYTES)));
        }
        if (password.toLowerCase(Locale.ROOT).contains(username.toLowerCase(Locale.ROOT))) {
            return List.of(CommonRefusal.Incomplete.of("password", "a password without the user's name in it"));
        }
        return isCommon
                ? List.of(CommonRefusal.Incomplete.of("password", "one that is not among the first to be tried"))
                : List.of();
    }
}
