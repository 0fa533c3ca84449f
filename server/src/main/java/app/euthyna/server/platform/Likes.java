package app.euthyna.server.platform;

/** Patterns for {@code like} with the escape character {@code !}. */
public final class Likes {

    private Likes() {}

    /** Texts that contain this one. */
    public static String containing(String text) {
        return "%" + from(text);
    }

    /** Texts that begin like this one. */
    public static String from(String start) {
        return start.replace("!", "!!").replace("%", "!%").replace("_", "!_") + "%";
    }
}
