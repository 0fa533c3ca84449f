package app.euthyna.server.platform;

/** What came with a request and may be left out. */
public final class Given {

    private Given() {
    }

    /** The text without blanks around it; empty where none was given. */
    public static String text(String given) {
        return given == null ? "" : given.strip();
    }
}
