package app.euthyna.server.platform;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.hibernate.StatelessSession;

/**
 * A question in HQL whose conditions depend on what was asked for; each condition is a constant text, its value a
 * parameter.
 *
 * @param <R> a record with the selected columns in their sequence
 */
public final class Listing<R> {

    private static final Pattern PARAMETER = Pattern.compile(":(\\w+)");

    private final StatelessSession session;
    private final Class<R> row;
    private final StringBuilder text;
    private final Map<String, Object> values = new LinkedHashMap<>();
    private boolean isBounded;

    private Listing(StatelessSession session, Class<R> row, String text) {
        this.session = session;
        this.row = row;
        this.text = new StringBuilder(text.strip());
    }

    /** Begins with everything up to the conditions. */
    public static <R> Listing<R> of(StatelessSession session, Class<R> row, String select) {
        return new Listing<>(session, row, select);
    }

    /** A condition with one parameter; left out where its value is null. */
    public Listing<R> where(String condition, Object value) {
        if (value != null) {
            where(condition);
            var names = PARAMETER.matcher(condition);
            names.find();
            values.put(names.group(1), value);
        }
        return this;
    }

    /** A condition that is a matter of yes or no. */
    public Listing<R> whereIf(boolean isAsked, String condition) {
        return isAsked ? where(condition) : this;
    }

    /** A condition that always holds. */
    public Listing<R> where(String condition) {
        text.append(isBounded ? " and " : " where ")
                .append('(')
                .append(condition)
                .append(')');
        isBounded = true;
        return this;
    }

    /** Gives a parameter its value that stands elsewhere in the question, or a second time. */
    public Listing<R> with(String name, Object value) {
        values.put(name, value);
        return this;
    }

    /** The same, where a condition with it was asked for. */
    public Listing<R> withIfAsked(String name, Object value) {
        return value == null ? this : with(name, value);
    }

    /** What is asked for after the conditions: a grouping, a sequence. */
    public Listing<R> then(String clause) {
        text.append(' ').append(clause);
        return this;
    }

    /** All rows, at most so many. */
    public List<R> first(int most) {
        return query().setMaxResults(most).getResultList();
    }

    /** One page and the first row of the next. */
    public List<R> page() {
        return first(Pages.SIZE + 1);
    }

    /** All rows. */
    public List<R> all() {
        return query().getResultList();
    }

    /** The one row that there is. */
    public R one() {
        return query().getSingleResult();
    }

    private org.hibernate.query.SelectionQuery<R> query() {
        var query = session.createSelectionQuery(text.toString(), row);
        values.forEach(query::setParameter);
        return query;
    }
}
