package app.euthyna.server.lists;

import app.euthyna.core.lists.Filter;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Likes;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;
import org.springframework.stereotype.Component;

/** What is asked of a list as a question to the database. */
@Component
class Questions {

    private static final Pattern ALIAS = Pattern.compile("\\b([a-z]\\w*)\\.");

    /** So many are offered while one types. */
    private static final int OFFERED = 12;

    private record Codes(String entity, List<String> codes) {}

    private final TransactionCache<Codes, List<Found>> coded = TransactionCache.readThrough();
    private final StatelessSession session;
    private final Company company;

    Questions(StatelessSession session, Company company) {
        this.session = session;
        this.company = company;
    }

    /** Its filters, and which rows the list has at all. */
    Conditions conditions(ListQuestion asked) {
        return Conditions.of(asked, calendar(), this::ids);
    }

    private Conditions.Calendar calendar() {
        return new Conditions.Calendar(company.today(), company.zone());
    }

    /** Which rows the list has today, whatever is asked of them. */
    Conditions conditions(DeclaredList list) {
        return conditions(new ListQuestion(list, List.of(), list.sorting(), List.of()));
    }

    /** One filter alone. */
    Conditions conditions(DeclaredList list, Filter filter) {
        return Conditions.of(list, filter, calendar(), this::ids);
    }

    /** For rows that are looked at in the sequence of a path; see {@link Conditions#looking}. */
    Conditions looking(ListQuestion asked, String by, boolean others) {
        return Conditions.looking(asked, by, others, calendar(), this::ids);
    }

    /** What rows of a day gone by are among; see {@link DeclaredList.Within#among}. */
    Conditions among(ListQuestion asked) {
        return Conditions.among(asked, calendar(), this::ids);
    }

    /** For rows that a path leads to, or their keys; see {@link Conditions#led}. */
    Conditions led(ListQuestion asked, String by) {
        return Conditions.led(asked, by, calendar(), this::ids);
    }

    /** The base of a list with what is joined for some paths and the conditions, and these. */
    static String from(DeclaredList list, Conditions conditions, Stream<String> paths) {
        var aliases = new HashSet<String>();
        Stream.concat(paths, conditions.texts().stream()).forEach(path -> aliases.addAll(aliases(path)));
        var named = list.columns().stream()
                .filter(column -> column.named()
                        .map(Column.Named::alias)
                        .filter(aliases::contains)
                        .isPresent())
                .toList();
        named.forEach(column -> aliases.addAll(aliases(column.path())));
        // what a join is told by may be joined itself: it stands before it
        for (int at = list.joins().size() - 1; at >= 0; at--) {
            if (aliases.contains(list.joins().get(at).alias())) {
                aliases.addAll(aliases(list.joins().get(at).condition()));
            }
        }
        var text = new StringBuilder(conditions.base());
        conditions.joins().forEach(join -> text.append(' ').append(join));
        list.joins().stream()
                .filter(join -> aliases.contains(join.alias()))
                .forEach(join -> text.append(' ').append(join.hql()));
        named.forEach(column -> text.append(" left join %s %s on %2$s.id = %s"
                .formatted(column.named().get().entity(), column.named().get().alias(), column.path())));
        if (!conditions.texts().isEmpty()) {
            text.append(" where (")
                    .append(String.join(") and (", conditions.texts()))
                    .append(')');
        }
        return text.toString();
    }

    private static Set<String> aliases(String text) {
        return ALIAS.matcher(text).results().map(found -> found.group(1)).collect(Collectors.toSet());
    }

    /** Of which the caller says what its text names. */
    SelectionQuery<Object[]> query(String text) {
        return session.createSelectionQuery(text, Object[].class);
    }

    /** With all that its text names. */
    SelectionQuery<Object[]> query(ListQuestion asked, String text, Conditions conditions) {
        var query = session.createSelectionQuery(text, Object[].class);
        var named = query.getParameterMetadata().getNamedParameterNames();
        conditions.values().forEach((name, value) -> {
            if (named.contains(name)) {
                query.setParameter(name, value);
            }
        });
        if (named.contains("day")) {
            var today = company.today();
            RefusedException.where(Dating.ahead(asked.asOf(today), today));
            query.setParameter("day", asked.asOf(today));
        }
        if (named.contains("me")) {
            query.setParameter("me", Reading.me());
        }
        if (named.contains("today")) {
            query.setParameter("today", company.today());
        }
        if (named.contains("decimals")) {
            query.setParameter("decimals", company.currency().getDefaultFractionDigits());
        }
        return query;
    }

    /** The ids of what codes name; a code that names nothing is refused. */
    Long[] ids(Column column, List<String> codes) {
        return Many.ids(coded(column, codes).stream().map(Found::id).toList());
    }

    /** What a code names. */
    record Found(long id, String code, String name) {}

    /** What codes of a column name; a code that names nothing is refused. Looked up once for a question. */
    List<Found> coded(Column column, List<String> codes) {
        return coded.get(new Codes(column.named().orElseThrow().entity(), codes), asked -> {
            var found = session.createSelectionQuery(
                            "select x.id, x.code, x.name from %s x where :codes contains x.code"
                                    .formatted(asked.entity()),
                            Found.class)
                    .setParameter("codes", Many.names(codes))
                    .getResultList();
            codes.stream()
                    .filter(code -> found.stream().noneMatch(one -> one.code().equals(code)))
                    .findFirst()
                    .ifPresent(code -> {
                        throw new RefusedException(
                                new CommonRefusal.NotFound(column.field().words(), code));
                    });
            return found;
        });
    }
    /** What begins with a text among what a column can name: the first few by their names. */
    List<Found> offered(Column column, String start) {
        var typed = start.toLowerCase(Locale.ROOT);
        return session.createSelectionQuery(
                        """
                        select x.id, x.code, x.name from %s x
                        where lower(x.name) like :name escape '!' or lower(x.code) like :code escape '!'
                        order by x.name, x.id""".formatted(column.named().orElseThrow().entity()), Found.class)
                .setParameter("name", Likes.containing(typed))
                .setParameter("code", Likes.from(typed))
                .setMaxResults(OFFERED)
                .getResultList();
    }

    /**
     * Of what a column names the next in the sequence of their names.
     *
     * @param last the name that they end with; empty where there are no more
     */
    record Some(List<Long> ids, Optional<String> last) {}

    /** @param begun whether the start itself is meant too */
    Some named(ListQuestion asked, Column column, Optional<String> start, boolean begun, int count) {
        var down = asked.sorting().descending();
        var than = (down ? "<" : ">") + (begun ? "=" : "");
        var entity = column.named().orElseThrow().entity();
        var from = start.isPresent() ? "where x.name %s :start ".formatted(than) : "";
        var names = session.createSelectionQuery(
                "select x.name from %s x %sorder by x.name%s".formatted(entity, from, down ? " desc" : ""),
                String.class);
        start.ifPresent(name -> names.setParameter("start", name));
        var last = names.setFirstResult(count - 1).setMaxResults(1).getResultList().stream()
                .findFirst();
        var to = last.map(name -> "x.name %s :last".formatted(down ? ">=" : "<="))
                .orElse("true = true");
        var ids = session.createSelectionQuery(
                "select x.id from %s x %s %s %s".formatted(entity, from, from.isEmpty() ? "where" : "and", to),
                Long.class);
        start.ifPresent(name -> ids.setParameter("start", name));
        last.ifPresent(name -> ids.setParameter("last", name));
        return new Some(ids.getResultList(), last);
    }
}
