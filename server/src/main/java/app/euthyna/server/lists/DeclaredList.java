package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A list, declared once: screen, interface, export and totals read this and nothing else.
 *
 * @param name as it is written in addresses: {@code orders}
 * @param title its heading
 * @param one what a row is, and {@code many} what several are
 * @param base the entity whose rows it shows, with its alias
 * @param key the alias and field of the row's id, which decides between equals: {@code o.id}
 * @param joins what else columns read; by alias
 * @param readers the roles that read it
 * @param sorting in what sequence it is shown unless asked otherwise
 */
public record DeclaredList(
        String name,
        String title,
        String one,
        String many,
        String base,
        String key,
        List<Join> joins,
        Set<Role> readers,
        Sorting sorting,
        List<Column> columns) {

    /**
     * What is joined for columns that name its alias.
     *
     * @param hql the whole of it, from {@code left join} on
     */
    public record Join(String alias, String hql) {}

    /** By a column, or by the key where it is empty. */
    public record Sorting(Optional<String> column, boolean descending) {
        public static final Sorting NEWEST_FIRST = new Sorting(Optional.empty(), true);
    }

    public DeclaredList {
        joins = List.copyOf(joins);
        readers = Set.copyOf(readers);
        columns = List.copyOf(columns);
    }

    /** Whether whoever is signed in reads it. */
    boolean isRead() {
        return Reading.isOne(readers);
    }

    /** Refused where it is not for whoever is signed in. */
    void checkRead() {
        Reading.check("read this list", readers);
    }

    /** The column that holds the number of the document that a row opens. */
    Optional<Column> opened() {
        return columns.stream()
                .filter(column ->
                        column.kind() == FieldKind.TEXT && column.opens().isPresent())
                .findFirst();
    }

    /** The columns that whoever asks may see; for the others they are not there. */
    List<Column> seen() {
        return columns.stream().filter(Column::isReadByWhoeverAsks).toList();
    }

    Optional<Column> seen(String column) {
        return seen().stream().filter(one -> one.name().equals(column)).findFirst();
    }
}
