package app.euthyna.server.masterdata;

/** Patterns for {@code like} with the escape character {@code !}. */
public final class Likes {

    private Likes() {}

    /** Search keys that contain what was typed, whatever its case and accents. */
    public static String anywhere(String typed) {
        return containing(MasterData.searchKey(typed));
    }

    /** Texts that contain this one. */
    static String containing(String text) {
        return "%" + from(text);
    }

    /** Texts that begin like this one. */
    public static String from(String start) {
        return start.replace("!", "!!").replace("%", "!%").replace("_", "!_") + "%";
    }
}
