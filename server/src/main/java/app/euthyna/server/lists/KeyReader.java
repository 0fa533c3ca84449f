package app.euthyna.server.lists;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Reads the keys of rows in the sequence that is asked for, over as few tables as conditions and sequence need. */
@Component
class KeyReader {

    /** What is joined first, with its alias. */
    private static final Pattern THROUGH = Pattern.compile("^join (\\w+ \\w+) on ");

    private final Questions questions;

    KeyReader(Questions questions) {
        this.questions = questions;
    }

    /**
     * A row that was found.
     *
     * @param sorted what it is sorted by
     * @param read what was read of it at once; empty where it is read afterwards
     */
    record Key(long id, String sorted, List<Object> read) {

        static Key of(String sorted, long id) {
            return new Key(id, sorted, List.of());
        }
    }

    /**
     * Which rows are looked for.
     *
     * @param read what is read of each at once, see {@link Key#read}
     * @param after behind which row; null from the beginning
     * @param most so many at most
     * @param looked so many are looked at at most where nothing leads to them
     */
    record Wanted(
            ListQuestion asked, List<String> read, @Nullable String after, int most, int looked) {

        /** By what they are sorted: HQL. */
        String by() {
            return asked.sortedBy().map(Column::sortedBy).orElse(asked.list().key());
        }

        boolean isDown() {
            return asked.sorting().descending();
        }

        Wanted most(int other) {
            return new Wanted(asked, read, after, other, looked);
        }

        /** From the beginning. */
        Wanted first() {
            return new Wanted(asked, read, null, most, looked);
        }

        /** Nothing but their keys. */
        Wanted alone() {
            return new Wanted(asked, List.of(), after, most, looked);
        }

        Wanted behind(Key last) {
            return new Wanted(asked, read, Pages.cursor(cursor(asked, last)), most, looked);
        }
    }

    /**
     * Rows that were found.
     *
     * @param until the last row that was looked at, where there may be more behind it; empty where so many were found
     *     as were wanted, or all that there are
     * @param looked how many were looked at, where there may be more
     */
    record Looked(List<Key> rows, Optional<Key> until, int looked) {
        static Looked all(List<Key> rows) {
            return new Looked(rows, Optional.empty(), 0);
        }
    }

    /** The first rows behind another one that meet some conditions, in the sequence of an index. */
    List<Key> read(Wanted wanted, Conditions conditions) {
        return read(wanted, conditions, wanted.by(), conditions.fixed(), 0);
    }

    /** The same, where rows shall not be looked for in that sequence: they are sorted. */
    List<Key> sorted(Wanted wanted, Conditions conditions) {
        return read(wanted, conditions, "coalesce(%1$s, %1$s)".formatted(wanted.by()), List.of(), 0);
    }

    /** Of the rows behind another one the last of so many; empty where there are fewer. */
    Optional<Key> last(Wanted wanted, Conditions conditions, int many) {
        return read(wanted.alone().most(1), conditions, wanted.by(), conditions.fixed(), many - 1).stream()
                .findFirst();
    }

    /** @param leading what they are sorted by first, and {@code left} how many of them are left out */
    private List<Key> read(Wanted wanted, Conditions conditions, String by, List<String> leading, int left) {
        var asked = wanted.asked();
        var list = asked.list();
        if (wanted.after() != null) {
            behind(asked, conditions, by, Pages.key(wanted.after()));
        }
        var down = wanted.isDown() ? " desc" : "";
        var read = Stream.concat(Stream.of(list.key(), wanted.by()), wanted.read().stream())
                .toList();
        var text = "select %s from %s order by %s"
                .formatted(
                        String.join(", ", read),
                        Questions.from(list, conditions, read.stream()),
                        Stream.concat(leading.stream(), Stream.of(by, list.key()))
                                .distinct()
                                .map(path -> path + down)
                                .collect(Collectors.joining(", ")));
        return questions
                .query(asked, text, conditions)
                .setFirstResult(left)
                .setMaxResults(wanted.most())
                .getResultList()
                .stream()
                .map(row -> new Key(
                        (Long) row[0],
                        String.valueOf(row[1]),
                        Arrays.asList(row).subList(2, row.length)))
                .toList();
    }

    /** The keys of all rows that a way leads to, where they are no more than so many; empty where they are. */
    Optional<Long[]> led(ListQuestion asked, Indexes.Leading way, Conditions conditions, int most) {
        var joined = conditions.joins().stream().map(join -> " " + join).collect(Collectors.joining());
        var text = "select %s, 1 from %s%s where (%s)"
                .formatted(way.key(), way.from(), joined, String.join(") and (", conditions.texts()));
        var found = Optional.of(
                questions.query(asked, text, conditions).setMaxResults(most + 1).getResultList());
        for (var step : way.steps()) {
            found = found.filter(rows -> rows.size() <= most).map(rows -> stepped(step, keys(rows), most));
        }
        return found.filter(rows -> rows.size() <= most).map(KeyReader::keys);
    }

    /** So many keys are asked for at once: each row is compared with each of them. */
    static final int TOGETHER = 128;

    /** The rows that some keys lead to; one more than so many where there are more. */
    private List<Object[]> stepped(Indexes.Step step, Long[] keys, int most) {
        var text = "select %s, 1 from %s where :ids contains %s and (%s)"
                .formatted(step.key(), step.from(), step.by(), step.within());
        var found = new ArrayList<Object[]>();
        for (int at = 0; at < keys.length && found.size() <= most; at += TOGETHER) {
            found.addAll(questions
                    .query(text)
                    .setParameter("ids", Arrays.copyOfRange(keys, at, Math.min(at + TOGETHER, keys.length)))
                    .setMaxResults(most + 1 - found.size())
                    .getResultList());
        }
        return found;
    }

    /** Whether there are no more rows than so many. */
    boolean areFew(ListQuestion asked, Conditions conditions, int most) {
        var list = asked.list();
        var text = "select %s, 1 from %s".formatted(list.key(), Questions.from(list, conditions, Stream.of()));
        var one = questions.query(asked, text, conditions).setFirstResult(most).setMaxResults(1);
        return one.getResultList().isEmpty();
    }

    /** Whether what leads to rows from another table is no more than so many itself. */
    boolean mayBeFew(ListQuestion asked, DeclaredList.Part through, int most) {
        var entity = THROUGH.matcher(through.join());
        if (!entity.find()) {
            return true;
        }
        var text = "select 1, 1 from %s where %s".formatted(entity.group(1), through.condition());
        var one = questions.query(asked, text, Conditions.none(asked.list()));
        return one.setFirstResult(most).setMaxResults(1).getResultList().isEmpty();
    }

    /** How many rows there are. */
    long count(ListQuestion asked, Conditions conditions) {
        var list = asked.list();
        var text = "select count(%s), 1 from %s".formatted(list.key(), Questions.from(list, conditions, Stream.of()));
        return (Long) questions.query(asked, text, conditions).getSingleResult()[0];
    }

    private static Long[] keys(List<Object[]> rows) {
        return Many.ids(rows.stream().map(row -> (Long) row[0]).toList());
    }

    /**
     * The first rows behind another one and up to a last one. Those that are sorted as it is are asked for by
     * themselves: they can be most of all, and an index leads to the first of them by their key.
     */
    List<Key> upTo(Wanted wanted, Supplier<Conditions> conditions, Key last) {
        var asked = wanted.asked();
        var by = wanted.by();
        var key = asked.list().key();
        var down = wanted.isDown();
        var alike = conditions.get();
        alike.add("%s %s %s".formatted(key, down ? ">=" : "<=", alike.parameter(last.id())));
        if (asked.sortedBy().isEmpty()) {
            return read(wanted, alike);
        }
        var sorted = value(asked.sortedBy().get(), new Pages.Key(cursor(asked, last)));
        alike.add("%s = %s".formatted(by, alike.parameter(sorted)));
        var begun = Optional.ofNullable(wanted.after())
                .map(Pages::key)
                .filter(after -> after.text(1).equals(last.sorted()));
        var found = new ArrayList<Key>();
        if (begun.isPresent()) {
            alike.add("%s %s %s"
                    .formatted(
                            key, down ? "<" : ">", alike.parameter(begun.get().number(2))));
        } else {
            var before = conditions.get();
            before.add("%s %s %s".formatted(by, down ? ">" : "<", before.parameter(sorted)));
            found.addAll(read(wanted, before));
        }
        if (found.size() < wanted.most()) {
            found.addAll(read(wanted.first().most(wanted.most() - found.size()), alike));
        }
        return found;
    }

    /** A row as a cursor names it. */
    static List<String> cursor(ListQuestion asked, Key last) {
        return List.of(asked.sort(), last.sorted(), String.valueOf(last.id()));
    }

    /** Goes on behind the last row of the page before. */
    private static void behind(ListQuestion asked, Conditions conditions, String by, Pages.Key last) {
        if (!last.text(0).equals(asked.sort())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from a page sorted alike"));
        }
        var than = asked.sorting().descending() ? "<" : ">";
        var key = asked.list().key();
        var id = conditions.parameter(last.number(2));
        if (asked.sortedBy().isEmpty()) {
            conditions.add("%s %s %s".formatted(key, than, id));
            return;
        }
        var value = conditions.parameter(value(asked.sortedBy().get(), last));
        conditions.add("%1$s %2$s= %3$s and (%1$s %2$s %3$s or %4$s %2$s %5$s)".formatted(by, than, value, key, id));
    }

    private static Object value(Column column, Pages.Key last) {
        return switch (column.kind()) {
            case TEXT, CODE -> last.text(1);
            case CHOICE -> choice(column, last.text(1));
            case FLAG, MOMENT, AS_OF -> throw new IllegalStateException("nothing is sorted by " + column.kind());
            case DAY -> last.date(1);
            case COUNT -> last.number(1);
            case AMOUNT, QUANTITY -> last.figure(1);
        };
    }

    private static Object choice(Column column, String name) {
        if (!column.field().choices().contains(name)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from an earlier page"));
        }
        return column.kept(name);
    }
}
