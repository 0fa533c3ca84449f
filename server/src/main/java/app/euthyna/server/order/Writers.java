package app.euthyna.server.order;

import app.euthyna.server.platform.Records;
import java.util.List;

/** Whose order somebody may decide on, as a condition of lists: none that they wrote (section 6). */
public final class Writers {

    /** Of an order {@code o}; {@code :me} is a user name, {@code :myLine} what {@link #line} makes of it. */
    public static final String NOT_MINE = "o.author <> :me and position(:myLine in o.writers) = 0";

    private Writers() {}

    /** A name as it stands among the writers of an order. */
    public static String line(String username) {
        return Records.lines(List.of(username));
    }
}
