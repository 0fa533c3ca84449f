package app.euthyna.server.lists;

import jakarta.persistence.EntityManagerFactory;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.engine.spi.SessionFactoryImplementor;
import org.hibernate.metamodel.mapping.EntityMappingType;
import org.hibernate.metamodel.mapping.SelectableMapping;
import org.springframework.stereotype.Component;

/**
 * What an index of the database begins with: few rows of a value are found through it without looking at the others.
 */
@Component
class Indexes {

    private static final Pattern PATH = Pattern.compile("([a-z]\\w*)\\.(\\w+)");
    /** What is joined by its id. */
    private static final Pattern NAMED = Pattern.compile("^(\\w+\\.id) = (\\w+\\.\\w+)$");

    private static final Pattern BASE = Pattern.compile("(\\w+) (\\w+)");

    private final StatelessSession session;
    private final EntityManagerFactory factory;
    /** By table, the first column and the first two of each index; what the database is does not change while open. */
    private final Map<String, Set<String>> first = new ConcurrentHashMap<>();

    Indexes(StatelessSession session, EntityManagerFactory factory) {
        this.session = session;
        this.factory = factory;
    }

    /** Whether rows of a list are read in the sequence of a path, or found by its value, in their own table. */
    boolean isOwn(DeclaredList list, String path) {
        return leading(list, path).filter(way -> way.steps().isEmpty()).isPresent();
    }

    /** Whether rows of a list that are alike in one path of their own table are read in the sequence of another. */
    boolean isOwn(DeclaredList list, String alike, String path) {
        var base = BASE.matcher(list.base());
        var first = PATH.matcher(alike);
        var then = PATH.matcher(path);
        return base.matches()
                && first.matches()
                && then.matches()
                && then.group(1).equals(base.group(2))
                && isFirst(base.group(1), first.group(2), then.group(2));
    }

    /**
     * From the rows that have a value to those of the list.
     *
     * @param from the entity that has it, with its alias
     * @param steps each by the ids found before; none where it is the list's own
     */
    record Leading(String from, String key, List<Step> steps) {}

    /**
     * Rows of an entity are found by what names others.
     *
     * @param key the path of what is found of them, and {@code by} the one by which they are
     * @param within which of them are meant at all; true of all where that is told by others
     */
    record Step(String from, String key, String by, String within) {}

    /**
     * How rows of a list are found by a value: along indexes alone. Empty where there is no such way.
     *
     * @param path HQL over the aliases of the list
     */
    Optional<Leading> leading(DeclaredList list, String path) {
        var parts = PATH.matcher(path);
        if (!parts.matches()) {
            return Optional.empty();
        }
        var alias = parts.group(1);
        var base = BASE.matcher(list.base());
        if (base.matches() && base.group(2).equals(alias)) {
            return Optional.of(new Leading(list.base(), list.key(), List.of()))
                    .filter(own -> isFirst(base.group(1), parts.group(2)));
        }
        return list.joins().stream()
                .filter(join -> join.alias().equals(alias) && isFirst(join.entity(), parts.group(2)))
                .flatMap(join -> NAMED.matcher(join.condition())
                        .results()
                        .flatMap(named -> leading(list, named.group(2))
                                .map(next -> new Leading(
                                        "%s %s".formatted(join.entity(), alias),
                                        named.group(1),
                                        Stream.concat(
                                                        Stream.of(step(list, next, named.group(2))),
                                                        next.steps().stream())
                                                .toList()))
                                .stream()))
                .findFirst();
    }

    private static Step step(DeclaredList list, Leading next, String by) {
        var own = list.within()
                .map(within -> within.today().condition())
                .filter(within -> next.steps().isEmpty()
                        && PATH.matcher(within)
                                .results()
                                .allMatch(path -> list.key().startsWith(path.group(1) + ".")));
        return new Step(
                next.from(),
                next.key(),
                by,
                own.map("case when %s then 1 else 0 end = 1"::formatted).orElse("true = true"));
    }

    /** Whether an index begins with these columns, or it is the key. */
    private boolean isFirst(String entity, String... attributes) {
        var described = described(entity);
        var isKey = attributes.length == 1
                && described.getIdentifierMapping().getAttributeName().equals(attributes[0]);
        var columns = Stream.of(attributes)
                .map(described::findAttributeMapping)
                .filter(SelectableMapping.class::isInstance)
                .map(column ->
                        ((SelectableMapping) column).getSelectionExpression().toLowerCase(Locale.ROOT))
                .toList();
        return isKey
                || (columns.size() == attributes.length
                        && firstOf(described.getMappedTableDetails().getTableName())
                                .contains(String.join(",", columns)));
    }

    private EntityMappingType described(String entity) {
        var metamodel = factory.unwrap(SessionFactoryImplementor.class).getMappingMetamodel();
        return metamodel.getEntityDescriptor(metamodel.getImportedName(entity));
    }

    private Set<String> firstOf(String table) {
        return first.computeIfAbsent(table, name -> session.doReturningWork(connection -> read(connection, name)));
    }

    private static Set<String> read(Connection connection, String table) throws SQLException {
        var columns = new HashSet<String>();
        var about = connection.getMetaData();
        var name = about.storesUpperCaseIdentifiers() ? table.toUpperCase(Locale.ROOT) : table;
        try (var indexes = about.getIndexInfo(null, connection.getSchema(), name, false, true)) {
            // one index after the other, each by its positions
            for (var first = ""; indexes.next(); ) {
                var position = indexes.getShort("ORDINAL_POSITION");
                if (position > 0 && position <= 2 && indexes.getString("FILTER_CONDITION") == null) {
                    var column = indexes.getString("COLUMN_NAME").toLowerCase(Locale.ROOT);
                    first = position == 1 ? column : first;
                    columns.add(position == 1 ? column : first + "," + column);
                }
            }
        }
        return columns;
    }
}
