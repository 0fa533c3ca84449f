package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Unended;
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
 * @param within which rows of the base it has; empty for all. In its texts as in those of columns {@code :today} is the
 *     day, {@code :me} whoever asks
 * @param readers the roles that read it
 * @param sorting in what sequence it is shown unless asked otherwise
 * @param proof what of the ledger its figures account for; empty for a list that is no register
 * @param views that everybody has from the first day on
 * @param derived how its rows are worked out by the database, where they are: they have no index by their key
 * @param kind HQL for the kind of the document that a row opens, where it is not the same in all
 * @param version HQL for the version of what is done something to from the list, which a command is checked against
 * @param own which rows alone some roles read; empty where all readers read all
 */
public record DeclaredList(
        String name,
        String title,
        String one,
        String many,
        String base,
        String key,
        List<Join> joins,
        Optional<Within> within,
        Set<Role> readers,
        Sorting sorting,
        List<Column> columns,
        Optional<Proof> proof,
        Optional<Derived> derived,
        Optional<String> kind,
        Optional<String> version,
        Optional<Own> own,
        List<Shipped> views) {

    /**
     * Stands in the base of a list that is worked out from rows of others, where those are left out that are not asked
     * for.
     */
    public static final String THOSE = "<those>";

    /**
     * Rows that are worked out.
     *
     * @param from HQL where {@link #THOSE} stands: the id that a row will have. Empty where they are not worked out one
     *     by one
     * @param kept where some columns of today's rows stand for each
     */
    public record Derived(Optional<String> from, Optional<Kept> kept) {}

    /**
     * Some columns of rows that are worked out, kept beside what they are worked out from.
     *
     * @param base the entity that keeps them, under the alias and names that they have in the list
     * @param columns what is told of it alone
     */
    public record Kept(String base, Set<String> columns) {}

    /**
     * Rows that are somebody's own.
     *
     * @param roles that read no others
     * @param condition HQL over the aliases of the list, true of those of {@code :me}
     */
    public record Own(Set<Role> roles, String condition) {
        public Own {
            roles = Set.copyOf(roles);
        }
    }

    /**
     * What is joined for columns that name its alias: from the left, so that the base says in which sequence rows are
     * read.
     *
     * @param entity what is joined
     * @param condition HQL over its alias and those before it
     */
    public record Join(String alias, String entity, String condition) {

        String hql() {
            return "left join %s %s on %s".formatted(entity, alias, condition);
        }
    }

    /**
     * HQL over the aliases of the list, true of its rows; {@code :day} is the day at whose end they are told.
     *
     * @param today where that is today: what rows carry need not be worked out
     * @param by the path in whose one value the rows of today are alike: an index begins with it, and goes on with what
     *     they are sorted by
     * @param among what the rows of a day gone by are among, told by attributes of their own: few of these are not
     */
    public record Within(Part today, Part asOf, Optional<String> by, List<String> among) {
        private Within(Part today, Part asOf, Optional<String> by) {
            this(today, asOf, by, List.of());
        }
    }

    /**
     * Some of the rows.
     *
     * @param join from {@code join} on, of what leads to few of them; empty where an index of their own does. It is not
     *     asked whether a row is {@code in} what another question finds: H2 would ask that anew at every row
     * @param condition true of them
     */
    public record Part(String join, String condition) {}

    /** By a column, or by the key where it is empty. */
    public record Sorting(Optional<String> column, boolean descending) {
        public static final Sorting NEWEST_FIRST = new Sorting(Optional.empty(), true);

        /** By a column, the latest first. */
        public static Sorting by(String column) {
            return new Sorting(Optional.of(column), true);
        }
    }

    /**
     * What of the ledger the figures of a register account for.
     *
     * @param day the column whose days the ledger is asked for
     */
    public record Proof(Register register, String day) {}

    /**
     * A view that ships with the application.
     *
     * @param key as it is written in addresses: {@code late}
     * @param chart field:measure; empty for rows alone
     */
    public record Shipped(
            String key, String name, List<String> filters, String sort, List<String> columns, String chart) {
        public Shipped {
            filters = List.copyOf(filters);
            columns = List.copyOf(columns);
        }

        /** With the list's own columns in its own sequence. */
        public static Shipped of(String key, String name, String chart, String... filters) {
            return new Shipped(key, name, List.of(filters), "", List.of(), chart);
        }
    }

    public DeclaredList(
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
        this(
                name,
                title,
                one,
                many,
                base,
                key,
                joins,
                Optional.empty(),
                readers,
                sorting,
                columns,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of());
    }

    /** The same with those rows alone of which something is true. */
    public DeclaredList within(String condition) {
        var part = new Part("", condition);
        return within(part, part);
    }

    /**
     * The same with those rows alone of which something is true.
     *
     * @param flag the attribute that says so: an index begins with it, and goes on with what they are sorted by
     */
    public DeclaredList marked(String flag) {
        var path = own(flag);
        var part = new Part("", path + " = true");
        return with(Optional.of(new Within(part, part, Optional.of(path))), proof, derived, kind, version, own, views);
    }

    /** The same with those rows alone of which something was true at the end of a day. */
    public DeclaredList within(Part today, Part asOf) {
        return with(Optional.of(new Within(today, asOf, Optional.empty())), proof, derived, kind, version, own, views);
    }

    /**
     * The same with those rows alone of which something was open at the end of a day. They carry between which days it
     * may have been, and are found by them.
     *
     * @param from the attribute with the first of these days
     * @param until that with the day from which on nothing is open: {@link Unended#DAY} as long as something is
     * @param figure HQL for what was open; zero where nothing was. It is asked of those rows alone that the days lead
     *     to, else H2 asks it of all first
     */
    public DeclaredList openBetween(String from, String until, String figure) {
        var path = own(until);
        var led = "join (select q.id as id from %s q where q.%s > :day and q.%s <= :day) cand on cand.id = %s"
                .formatted(base.substring(0, base.indexOf(' ')), until, from, key);
        var within = new Within(
                new Part("", "%s = %s".formatted(path, Unended.HQL)),
                new Part(led, "case when cand.id is null then 0 else %s end <> 0".formatted(figure)),
                Optional.of(path),
                List.of(path + " > :day", own(from) + " <= :day"));
        return with(Optional.of(within), proof, derived, kind, version, own, views);
    }

    /** The path of an attribute of the base. */
    private String own(String attribute) {
        return key.substring(0, key.indexOf('.') + 1) + attribute;
    }

    /** The same as a register, whose figures are held against the ledger for the days of a column. */
    public DeclaredList proving(Register register, String day) {
        return with(within, Optional.of(new Proof(register, day)), derived, kind, version, own, views);
    }

    /** The same, of which the rows are worked out by the database. */
    public DeclaredList workedOut() {
        return derived(new Derived(Optional.empty(), Optional.empty()));
    }

    /**
     * The same, of which each row is worked out from rows of others that name it: from those of some alone where no
     * others are asked for.
     *
     * @param from what names it, where {@link #THOSE} stands in the base
     */
    public DeclaredList workedOutFrom(String from) {
        return derived(new Derived(Optional.of(from), Optional.empty()));
    }

    /** The same, of which some columns of today's rows are kept for each; see {@link Kept}. */
    public DeclaredList keptIn(String entity, String... some) {
        var from = derived.flatMap(Derived::from);
        return derived(new Derived(from, Optional.of(new Kept(entity, Set.of(some)))));
    }

    private DeclaredList derived(Derived other) {
        return with(within, proof, Optional.of(other), kind, version, own, views);
    }

    /** The same, of which each row says itself what kind of document it opens. */
    public DeclaredList opening(String kindPath) {
        return with(within, proof, derived, Optional.of(kindPath), version, own, views);
    }

    /** The same, of which each row tells the version of what commands from the list are about. */
    public DeclaredList versioned(String path) {
        return with(within, proof, derived, kind, Optional.of(path), own, views);
    }

    /** The same, of which some roles read but their own rows. */
    public DeclaredList own(Set<Role> roles, String condition) {
        return with(within, proof, derived, kind, version, Optional.of(new Own(roles, condition)), views);
    }

    /** The same with views that everybody has from the first day on. */
    public DeclaredList shipping(Shipped... shipped) {
        return with(within, proof, derived, kind, version, own, List.of(shipped));
    }

    private DeclaredList with(
            Optional<Within> only,
            Optional<Proof> proving,
            Optional<Derived> working,
            Optional<String> opening,
            Optional<String> versioned,
            Optional<Own> owned,
            List<Shipped> shipped) {
        return new DeclaredList(
                name, title, one, many, base, key, joins, only, readers, sorting, columns, proving, working, opening,
                versioned, owned, shipped);
    }

    public DeclaredList {
        joins = List.copyOf(joins);
        readers = Set.copyOf(readers);
        columns = List.copyOf(columns);
        views = List.copyOf(views);
    }

    /** Whether its rows are worked out. */
    boolean isDerived() {
        return derived.isPresent();
    }

    /** The column that names what a row is about, where rows are worked out from others that name it. */
    Optional<Column> owner() {
        return derived.flatMap(Derived::from)
                .flatMap(from -> columns.stream()
                        .filter(column ->
                                column.path().equals(key) && column.named().isPresent())
                        .findFirst());
    }

    /** What is kept of rows that are worked out, as a list of its own. */
    Optional<DeclaredList> kept() {
        return derived.flatMap(Derived::kept)
                .map(some -> new DeclaredList(
                        name,
                        title,
                        one,
                        many,
                        some.base(),
                        key,
                        joins,
                        readers,
                        sorting,
                        columns.stream()
                                .filter(column -> some.columns().contains(column.name()))
                                .toList()));
    }

    /** Whether whoever is signed in reads it. */
    boolean isRead() {
        return Reading.isOne(readers);
    }

    /** True of the rows that whoever is signed in reads, where those are not all. */
    Optional<String> ownRows() {
        return own.filter(one -> Reading.isOneOf(one.roles())).map(Own::condition);
    }

    /** What it is held against, for those who read the ledger and the figures that account for it. */
    Optional<Proof> proofToRead() {
        return proof.filter(one -> ReadBy.Group.BOOKS.isRead()
                && one.register().ties().stream()
                        .allMatch(tie -> seen(tie.figure()).isPresent()));
    }

    /** The views that ship and whoever is signed in may open. */
    List<Shipped> viewsToRead() {
        return views.stream()
                .filter(one -> answers(one.filters(), one.sort(), one.columns(), one.chart()))
                .toList();
    }

    /** Whether whoever is signed in can ask so: what tells by a field that is hidden from them is not theirs. */
    boolean answers(List<String> filters, String sort, List<String> asked, String chart) {
        try {
            checkAnswers(filters, sort, asked, chart);
            return true;
        } catch (RefusedException hidden) {
            return false;
        }
    }

    /** Refused where it can't be asked so, or not by whoever is signed in. */
    void checkAnswers(List<String> filters, String sort, List<String> asked, String chart) {
        ListQuestion.of(this, filters, sort, asked);
        if (!chart.isEmpty()) {
            Grouping.of(this, chart);
        }
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
