package app.euthyna.server.platform;

import java.time.LocalDate;

/** The day on which what goes on ends: it is found through an index, and later than any other. */
public final class Unended {

    public static final LocalDate DAY = LocalDate.of(9999, 12, 31);

    /** The same in HQL. */
    public static final String HQL = "date 9999-12-31";

    private Unended() {}
}
