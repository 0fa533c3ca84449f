package app.euthyna.server.lists;

import app.euthyna.core.lists.Field;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Measure;
import app.euthyna.server.platform.ReadBy;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A column of a list: what it holds, where it stands, and what can be done by it.
 *
 * @param field as rows are filtered by it
 * @param label its heading
 * @param path HQL over the aliases of the list; of a {@link FieldKind#CODE} the id that it names, of a
 *     {@link FieldKind#FLAG} the condition
 * @param named what a {@link FieldKind#CODE} names
 * @param folding how a text is compared, where it has a path of its own for that
 * @param choices the words of a {@link FieldKind#CHOICE}, where they are not texts that everybody knows beforehand
 * @param group who reads it, where not everybody does who reads the list
 * @param opens what its value opens: ORDER, INVOICE, CUSTOMER
 * @param rate of a share, what of what
 * @param through of a {@link FieldKind#FLAG} what leads to the rows of which it is true, where that is quicker
 */
public record Column(
        Field field,
        String label,
        String path,
        Optional<Named> named,
        Optional<Folding> folding,
        Optional<Choices> choices,
        Optional<ReadBy.Group> group,
        Optional<String> opens,
        Optional<DeclaredList.Part> through,
        Optional<Rate> rate,
        Set<Trait> traits) {

    /** What a column is for, beside being there. */
    public enum Trait {
        /** Shown unless other columns are chosen. */
        SHOWN,
        /** Rows can be sorted by it; it is never empty. */
        SORTED,
        /** Found by how it begins, beside what opens a document. */
        LOOKED_UP,
        /** Found by any letters in it: of few rows. */
        SEARCHED,
        /** Few rows are found by it, though they are worked out: an index of what they are made of begins with it. */
        LEADING,
        /** Rows are put together by it, though it is a text: it has few values. */
        GROUPED,
        /** Added up over all rows. */
        SUMMED,
        /** Of all rows the middle is told. */
        MEDIAN
    }

    /**
     * What a code names: an entity with {@code id}, {@code code} and {@code name}.
     *
     * @param alias under which it is joined
     */
    public record Named(String entity, String alias) {}

    /**
     * A text that is compared as it is kept for that.
     *
     * @param path where it is kept
     * @param fold what is asked for, likewise
     */
    public record Folding(String path, UnaryOperator<String> fold) {}

    /**
     * A share in per cent: of all rows it is told from what the two add up to.
     *
     * @param of HQL for a part, and {@code per} for the whole
     */
    public record Rate(String of, String per) {}

    /** The few values of a {@link FieldKind#CHOICE}. */
    public sealed interface Choices {}

    /** They are constants. */
    record Constants(Class<? extends Enum<?>> type) implements Choices {}

    /**
     * The company says what they are.
     *
     * @param words of each value, as they are now
     */
    record Told(Supplier<Map<String, String>> words) implements Choices {}

    private static final Set<FieldKind> GROUPED = EnumSet.of(FieldKind.CHOICE, FieldKind.CODE, FieldKind.DAY);

    static final String YES = "YES";
    private static final String NO = "NO";

    public Column {
        traits = Set.copyOf(traits);
    }

    private static Column of(String name, String label, FieldKind kind, String path, List<String> choices) {
        // VAT stays VAT
        var words = label.equals(label.toUpperCase(Locale.ROOT))
                ? label
                : label.substring(0, 1).toLowerCase(Locale.ROOT) + label.substring(1);
        return new Column(
                new Field(name, words, kind, choices),
                label,
                path,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Set.of());
    }

    public static Column text(String name, String label, String path) {
        return of(name, label, FieldKind.TEXT, path, List.of())
                .folded("lower(%s)".formatted(path), asked -> asked.toLowerCase(Locale.ROOT));
    }

    /** A number of a document, which is written in capitals, and opens it. */
    public static Column number(String name, String label, String path, String opens) {
        return text(name, label, path)
                .folded(path, asked -> asked.toUpperCase(Locale.ROOT))
                .opening(opens);
    }

    public static Column day(String name, String label, String path) {
        return of(name, label, FieldKind.DAY, path, List.of());
    }

    /** When something was done: told and filtered in the company's calendar. */
    public static Column moment(String name, String label, String path) {
        return of(name, label, FieldKind.MOMENT, path, List.of());
    }

    /** The day at whose end everything in the list is told as it stood: {@code :day} in its texts. */
    public static Column asOf() {
        return of("asOf", "As of", FieldKind.AS_OF, "cast(:day as LocalDate)", List.of());
    }

    public static Column amount(String name, String label, String path) {
        return of(name, label, FieldKind.AMOUNT, path, List.of());
    }

    public static Column quantity(String name, String label, String path) {
        return of(name, label, FieldKind.QUANTITY, path, List.of());
    }

    public static Column count(String name, String label, String path) {
        return of(name, label, FieldKind.COUNT, path, List.of());
    }

    public static <E extends Enum<E>> Column choice(String name, String label, String path, Class<E> choices) {
        var names = Stream.of(choices.getEnumConstants()).map(Enum::name).toList();
        return of(name, label, FieldKind.CHOICE, path, names).among(new Constants(choices));
    }

    /**
     * One of a few words that are no constants: they are told from what a row holds, or kept as texts.
     *
     * @param path of a text
     */
    public static Column words(String name, String label, String path, String... choices) {
        return of(name, label, FieldKind.CHOICE, path, List.of(choices));
    }

    /**
     * One of a few codes for which the company has words of its own, as for reasons.
     *
     * @param path of a text
     * @param known those that are in use now, each with its {@code code} and {@code words}
     */
    public static <R> Column told(
            String name,
            String label,
            String path,
            Supplier<List<R>> known,
            Function<R, String> code,
            Function<R, String> words) {
        return of(name, label, FieldKind.CHOICE, path, List.of())
                .among(new Told(() -> known.get().stream()
                        .collect(Collectors.toMap(code, words, (one, other) -> one, LinkedHashMap::new))));
    }

    private Column among(Choices few) {
        return new Column(field, label, path, named, folding, Optional.of(few), group, opens, through, rate, traits);
    }

    /** A share in per cent, with one decimal; empty of nothing. */
    public static Column rate(String name, String label, String of, String per) {
        var path = "case when (%2$s) = 0 then null else round((%1$s) * 100.0 / (%2$s), 1) end".formatted(of, per);
        return of(name, label, FieldKind.QUANTITY, path, List.of()).rated(new Rate(of, per));
    }

    private Column rated(Rate share) {
        return new Column(
                field, label, path, named, folding, choices, group, opens, through, Optional.of(share), traits);
    }

    /** What all rows come to by it; empty where that is not told. */
    Optional<Measure> measure() {
        return rate.map(one -> Measure.RATE)
                .or(() -> Optional.of(Measure.SUM).filter(one -> traits.contains(Trait.SUMMED)))
                .or(() -> Optional.of(Measure.MEDIAN).filter(one -> traits.contains(Trait.MEDIAN)));
    }

    /**
     * Yes or no.
     *
     * @param condition when it is yes
     */
    public static Column flag(String name, String label, String condition) {
        return of(name, label, FieldKind.FLAG, condition, List.of(YES, NO));
    }

    /**
     * The same, found through another table.
     *
     * @param join from {@code join} on
     * @param condition over its alias, true of the same rows
     */
    public Column through(String join, String condition) {
        return new Column(
                field,
                label,
                path,
                named,
                folding,
                choices,
                group,
                opens,
                Optional.of(new DeclaredList.Part(join, condition)),
                rate,
                traits);
    }

    /** A customer, an item, a store. */
    public static Column code(String name, String label, String idPath, String entity, String alias, String opens) {
        return of(name, label, FieldKind.CODE, idPath, List.of())
                .naming(new Named(entity, alias))
                .opening(opens);
    }

    private Column naming(Named named) {
        return new Column(
                field, label, path, Optional.of(named), folding, choices, group, opens, through, rate, traits);
    }

    public Column folded(String foldedPath, UnaryOperator<String> fold) {
        return new Column(
                field,
                label,
                path,
                named,
                Optional.of(new Folding(foldedPath, fold)),
                choices,
                group,
                opens,
                through,
                rate,
                traits);
    }

    public Column opening(String document) {
        return new Column(
                field, label, path, named, folding, choices, group, Optional.of(document), through, rate, traits);
    }

    public Column readBy(ReadBy.Group readers) {
        return new Column(
                field, label, path, named, folding, choices, Optional.of(readers), opens, through, rate, traits);
    }

    /** What it is for. */
    public Column with(Trait... more) {
        var all = EnumSet.noneOf(Trait.class);
        all.addAll(traits);
        all.addAll(List.of(more));
        return new Column(field, label, path, named, folding, choices, group, opens, through, rate, all);
    }

    /** What the company has words of its own for is read anew each time. */
    @Override
    public Field field() {
        return told().map(words -> new Field(field.name(), field.words(), field.kind(), List.copyOf(words.keySet())))
                .orElse(field);
    }

    private Optional<Map<String, String>> told() {
        return choices.filter(Told.class::isInstance)
                .map(own -> ((Told) own).words().get());
    }

    /** CLOSED_SHORT reads Closed short, credit-limit Credit limit; of what the company has words for, these. */
    String words(String value) {
        return told().map(words -> words.get(value)).orElseGet(() -> {
            var words = value.replace('_', ' ').replace('-', ' ').toLowerCase(Locale.ROOT);
            return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
        });
    }

    /** The constant of that name; the name itself where it is kept as a text. */
    Object kept(String value) {
        return choices.filter(Constants.class::isInstance)
                .<Object>map(own -> Stream.of(((Constants) own).type().getEnumConstants())
                        .filter(constant -> constant.name().equals(value))
                        .findFirst()
                        .orElseThrow())
                .orElse(value);
    }

    /** Whether its values are words of a few. */
    boolean isOneOfAFew() {
        return kind() == FieldKind.CHOICE || kind() == FieldKind.FLAG;
    }

    public String name() {
        return field.name();
    }

    public FieldKind kind() {
        return field.kind();
    }

    /** By what rows are sorted: what a code names by its name. */
    String sortedBy() {
        return named.map(one -> one.alias() + ".name").orElse(path);
    }

    /** What is read for a row. */
    List<String> read() {
        if (kind() == FieldKind.FLAG) {
            return List.of("case when %s then '%s' else '%s' end".formatted(path, YES, NO));
        }
        return named.map(one -> List.of(one.alias() + ".code", one.alias() + ".name"))
                .orElse(List.of(path));
    }

    /**
     * Whether rows are put together by it: each group opens the rows behind it by a filter. Not by what is looked up
     * for each row: H2 does not group by another question.
     */
    boolean isGrouped() {
        return (GROUPED.contains(kind()) || traits.contains(Trait.GROUPED)) && !path.contains("(select");
    }

    boolean isReadByWhoeverAsks() {
        return group.map(ReadBy.Group::isRead).orElse(true);
    }
}
