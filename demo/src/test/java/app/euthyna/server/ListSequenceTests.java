package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Every list in each of its sequences, with each filter, today and as of a day gone by, beside the same made of all of
 * its rows.
 */
class ListSequenceTests extends OnLists {

    /** The same in each sequence: where rows are found through an index, looked for, or gone through by name or day. */
    @Test
    void everyFilterKeepsEverySequence() {
        var seed = System.nanoTime();
        System.out.println("ListSequenceTests, seed " + seed);
        var random = new Random(seed);
        ended = 0;
        for (var list : lists) {
            for (var sorted : list.get("columns")) {
                if (!sorted.get("isSorted").asBoolean()) {
                    continue;
                }
                var sort = "&sort=%s%s".formatted(random.nextBoolean() ? "-" : "", name(sorted));
                sort += days(list).get(random.nextInt(days(list).size()));
                var rows = rows(list, sort);
                for (var column : list.get("columns")) {
                    var kind = kind(list, column);
                    var value = rows.isEmpty() ? "" : cell(rows.get(random.nextInt(rows.size())), name(column));
                    if (value.isEmpty() || kind.equals("AS_OF")) {
                        continue;
                    }
                    var asked = "&filter=%s:%s%s".formatted(name(column), filter(kind, value), sort);
                    assertThat(keys(rows(list, asked)))
                            .as("%s %s", name(list), asked)
                            .containsExactlyElementsOf(keys(rows.stream()
                                    .filter(row -> holds(kind, cell(row, name(column)), value))
                                    .toList()));
                }
            }
        }
        assertThat(ended).as("pages that ended where no more was looked at").isPositive();
    }

    @Test
    void everySequenceIsKeptBothWays() {
        for (var list : lists) {
            for (var column : list.get("columns")) {
                if (!column.get("isSorted").asBoolean()) {
                    continue;
                }
                for (var day : days(list)) {
                    sequence(list, column, day);
                }
            }
        }
    }

    private void sequence(JsonNode list, JsonNode column, String day) {
        var as = "%s by %s%s".formatted(name(list), name(column), day);
        var up = rows(list, "&sort=" + name(column) + day);
        var down = new ArrayList<>(rows(list, "&sort=-" + name(column) + day));
        Collections.reverse(down);
        assertThat(keys(up)).as(as).isEqualTo(keys(down)).hasSize(count(list, day));
        if (List.of("DAY", "AMOUNT").contains(column.get("kind").asString())) {
            Comparator<String> order = column.get("kind").asString().equals("DAY")
                    ? Comparator.naturalOrder()
                    : Comparator.comparing(BigDecimal::new);
            assertThat(up.stream().map(row -> cell(row, name(column))).toList())
                    .as(as)
                    .isSortedAccordingTo(order);
        }
    }
}
