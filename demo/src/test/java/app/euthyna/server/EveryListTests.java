package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Dunning;
import app.euthyna.server.billing.InvoiceReminders;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeSet;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/**
 * Every list that is declared, over a company that has documents of every kind: each filter, sequence, sum, chart, view
 * and file of it beside the same made of all of its rows.
 */
class EveryListTests extends OnLists {

    @Autowired
    private InvoiceReminders reminders;

    @Test
    void thereAreManyAndAllHaveRows() {
        assertThat(lists).hasSizeGreaterThan(25);
        var empty = new TreeSet<String>();
        for (var list : lists) {
            var rows = all(list);
            assertThat(keys(rows)).as(name(list)).doesNotHaveDuplicates();
            if (rows.isEmpty()) {
                empty.add(name(list));
            }
        }
        assertThat(empty).as("what the demo company has nothing of").isSubsetOf("billed-not-shipped", "on-account");
    }

    /** A value of each column as a filter: just the rows that have it. */
    @Test
    void everyColumnIsFilteredBy() {
        var seed = System.nanoTime();
        System.out.println("EveryListTests seed " + seed);
        var random = new Random(seed);
        for (var list : lists) {
            var rows = all(list);
            for (var column : list.get("columns")) {
                if (rows.isEmpty() || column.get("kind").asString().equals("AS_OF")) {
                    continue;
                }
                var value = cell(rows.get(random.nextInt(rows.size())), name(column));
                if (value.isEmpty()) {
                    continue;
                }
                var filter = filter(kind(list, column), value);
                assertThat(keys(rows(list, "&filter=%s:%s".formatted(name(column), filter))))
                        .as("%s %s:%s", name(list), name(column), filter)
                        .containsExactlyElementsOf(keys(rows.stream()
                                .filter(row -> holds(kind(list, column), cell(row, name(column)), value))
                                .toList()));
            }
        }
    }

    /** The step that stands in the list is the one with which a reminder would be written, of each customer. */
    @Test
    void remindersDueAreThoseThatWouldBeWritten() {
        var today = LocalDate.parse(lead.get("/api/session").text("today"));
        var steps = List.of("NONE", "FIRST", "SECOND", "FINAL");
        var ageing = list("ageing");
        var due = 0;
        for (var day : List.of(today, today.minusDays(20))) {
            for (var row : rows(ageing, "&filter=asOf:at:" + day)) {
                var step = reminders.due(row.get("opens").asString(), day).map(Dunning.Reminder::step);
                assertThat(cell(row, "reminder"))
                        .as("%s on %s", row.get("opens"), day)
                        .isEqualTo(steps.get(step.orElse(0)));
                due += step.isPresent() ? 1 : 0;
            }
        }
        assertThat(due).isPositive();
    }

    @Test
    void totalsAndChartsAreWhatAllRowsAddUpTo() {
        var measured = 0;
        for (var list : lists) {
            var rows = all(list);
            var totals = ok("/api/lists/%s/totals?columns=%s".formatted(name(list), String.join(",", columns(list))));
            assertThat(totals.get("count").asInt()).as(name(list)).isEqualTo(rows.size());
            for (var column : list.get("columns")) {
                var measure = column.get("measure").asString("");
                if (!measure.isEmpty() && !measure.equals("RATE")) {
                    measured++;
                    var told = totals.get("sums").path(name(column)).asString("");
                    assertThat(told.isEmpty() ? null : new BigDecimal(told))
                            .as("%s of %s", name(column), name(list))
                            .usingComparator(Comparator.nullsFirst(Comparator.<BigDecimal>naturalOrder()))
                            .isEqualTo(of(measure, rows, name(column)));
                }
                if (column.get("isGrouped").asBoolean()) {
                    charted(list, column, rows);
                }
            }
        }
        assertThat(measured).isGreaterThan(60);
    }

    /** Of some rows, by their keys: what their cells say, also where they are told as of a day that is over. */
    @Test
    void selectedRowsAddUpToWhatTheyShow() {
        var added = new TreeSet<String>();
        for (var list : lists) {
            for (var day : days(list)) {
                var path = "/api/lists/" + name(list) + "/%s?columns=" + String.join(",", columns(list)) + day;
                var shown = ok(path.formatted("rows")).get("rows");
                var rows = shown.valueStream().skip(1).limit(7).toList();
                var told = ok(path.formatted("selected") + "&keys=" + String.join(",", keys(rows)));
                assertThat(told.get("count").asInt()).as(name(list) + day).isEqualTo(rows.size());
                for (var column : list.get("columns")) {
                    if (column.get("measure").asString("").equals("SUM") && !rows.isEmpty()) {
                        added.add(day);
                        var sum = told.get("sums").get(name(column)).asString();
                        assertThat(new BigDecimal(sum))
                                .as("%s of %s%s", name(column), name(list), day)
                                .isEqualByComparingTo(sum(rows, name(column)));
                    }
                }
            }
        }
        assertThat(added).hasSize(2);
    }

    /** Where there are few rows, all of it at once; where there are many, that there are more. */
    @Test
    void fewAreCountedAndOfManyItIsSaid() {
        var whole = new TreeSet<Boolean>();
        for (var list : lists) {
            var path = "/api/lists/%s/totals?columns=%s".formatted(name(list), String.join(",", columns(list)));
            var rows = all(list);
            for (var filter : rows.isEmpty() ? List.of("") : List.of("", few(list, rows))) {
                var exact = ok(path + filter);
                var capped = ok(path + filter + "&capped=true");
                whole.add(capped.get("isWhole").asBoolean());
                if (capped.get("isWhole").asBoolean()) {
                    assertThat(capped).as("%s %s", name(list), filter).isEqualTo(exact);
                } else {
                    assertThat(capped.get("sums")).as(name(list)).isEmpty();
                    assertThat(capped.get("count").asInt())
                            .as(name(list))
                            .isLessThanOrEqualTo(exact.get("count").asInt());
                }
            }
        }
        assertThat(whole).containsExactly(false, true);
    }

    /** A filter that leaves those rows that have what the first has in the last column. */
    private static String few(JsonNode list, List<JsonNode> rows) {
        var column = list.get("columns").get(list.get("columns").size() - 1);
        var value = cell(rows.get(0), name(column));
        return value.isEmpty() || column.get("kind").asString().equals("AS_OF")
                ? ""
                : "&filter=%s:%s"
                        .formatted(name(column), filter(column.get("kind").asString(), value));
    }

    private static BigDecimal of(String measure, List<JsonNode> rows, String column) {
        if (!measure.equals("MEDIAN")) {
            return sum(rows, column);
        }
        var values = rows.stream()
                .map(row -> cell(row, column))
                .filter(value -> !value.isEmpty())
                .map(BigDecimal::new)
                .sorted()
                .toList();
        return values.isEmpty()
                ? null
                : values.get((values.size() - 1) / 2)
                        .add(values.get(values.size() / 2))
                        .divide(BigDecimal.valueOf(2));
    }

    private static BigDecimal sum(List<JsonNode> rows, String column) {
        return rows.stream()
                .map(row -> cell(row, column))
                .filter(value -> !value.isEmpty())
                .map(BigDecimal::new)
                .reduce(BigDecimal.ZERO, BigDecimal::add);
    }

    private void charted(JsonNode list, JsonNode by, List<JsonNode> rows) {
        var measures = new ArrayList<>(List.of("count"));
        list.get("columns")
                .valueStream()
                .filter(column -> column.get("measure").asString("").equals("SUM"))
                .map(EveryListTests::name)
                .forEach(measures::add);
        for (var measure : measures) {
            var step = by.get("kind").asString().equals("DAY") ? ".month" : "";
            var groups = ok("/api/lists/%s/groups?chart=%s%s:%s".formatted(name(list), name(by), step, measure));
            assertThat(groups.valueStream()
                            .map(group -> new BigDecimal(group.get("measured").asString()))
                            .reduce(BigDecimal.ZERO, BigDecimal::add))
                    .as("%s of %s by %s", measure, name(list), name(by))
                    .isEqualByComparingTo(
                            measure.equals("count") ? BigDecimal.valueOf(rows.size()) : sum(rows, measure));
        }
    }

    private BigDecimal total(String list, String column, String asked) {
        var told = ok("/api/lists/%s/totals?columns=%s%s".formatted(list, column, asked))
                .get("sums")
                .path(column)
                .asString("");
        return told.isEmpty() ? null : new BigDecimal(told);
    }

    private static BigDecimal share(BigDecimal of, BigDecimal per) {
        return of.multiply(BigDecimal.valueOf(100)).divide(per, 1, RoundingMode.HALF_UP);
    }

    /** A rate is that of what all rows add up to, over all and in each bar of a chart. */
    @Test
    void ratesAreThoseOfTheSums() {
        var returned = total("dispatch-lines", "returnedCost", "");
        assertThat(returned).isPositive();
        assertThat(total("dispatch-lines", "returnRate", ""))
                .isEqualByComparingTo(share(returned, total("dispatch-lines", "cost", "")));
        var told = 0;
        for (var group : ok("/api/lists/dispatch-lines/groups?chart=item:returnRate")) {
            if (!group.get("filter").asString().isEmpty()) {
                told++;
                var only = "&filter=" + group.get("filter").asString();
                assertThat(new BigDecimal(group.get("measured").asString()))
                        .isEqualByComparingTo(share(
                                total("dispatch-lines", "returnedCost", only), total("dispatch-lines", "cost", only)));
            }
        }
        assertThat(told).isGreaterThan(5);
        assertThat(total("invoice-lines", "marginPercent", ""))
                .isEqualByComparingTo(share(
                        total("invoice-lines", "margin", ""),
                        total("invoice-lines", "net", "").subtract(deferred())));
    }

    /** Of no goods: what is billed ahead has no margin yet. */
    private BigDecimal deferred() {
        return sum(all(list("invoice-lines")), "net")
                .subtract(total("invoice-lines", "cost", ""))
                .subtract(total("invoice-lines", "margin", ""));
    }

    /** What was billed in a month is what the sales register says, and what was owed at its end the open invoices. */
    @Test
    void daysSalesOutstandingFollowFromTheRegisterAndTheOpenInvoices() {
        var months = 0;
        for (var row : ok("/api/lists/receivables-months/rows").get("rows")) {
            months++;
            var month = cell(row, "month");
            var last = LocalDate.parse(month).plusMonths(1).minusDays(1);
            assertThat(new BigDecimal(cell(row, "billed")))
                    .isEqualByComparingTo(total(
                            "sales-register", "gross", "&filter=enteredOn:between:%s..%s".formatted(month, last)));
            assertThat(new BigDecimal(cell(row, "owed")))
                    .isEqualByComparingTo(total("open-invoices", "still", "&filter=asOf:at:" + last));
            if (new BigDecimal(cell(row, "billed")).signum() > 0) {
                assertThat(new BigDecimal(cell(row, "dso")))
                        .isEqualByComparingTo(new BigDecimal(cell(row, "owed"))
                                .multiply(BigDecimal.valueOf(last.getDayOfMonth()))
                                .divide(new BigDecimal(cell(row, "billed")), 1, RoundingMode.HALF_UP));
            }
        }
        assertThat(months).isGreaterThan(2);
    }

    @Test
    void viewsThatShipAreAnsweredAsTheyStand() {
        var shipped = 0;
        for (var list : lists) {
            for (var view : list.get("views")) {
                shipped++;
                var asked = new StringBuilder("?sort=" + view.get("sort").asString());
                view.get("filter").forEach(filter -> asked.append("&filter=").append(filter.asString()));
                ok("/api/lists/" + name(list) + "/rows" + asked);
                if (!view.get("chart").asString().isEmpty()) {
                    ok("/api/lists/" + name(list) + "/groups" + asked + "&chart="
                            + view.get("chart").asString());
                }
            }
        }
        assertThat(shipped).isGreaterThan(40);
    }

    @Test
    void filesHaveEveryRow() throws IOException {
        for (var list : lists) {
            var file = new String(lead.file("/api/lists/" + name(list) + "/file"), StandardCharsets.UTF_8);
            try (var parser = CSVParser.parse(file, CSVFormat.RFC4180)) {
                assertThat(parser.getRecords()).as(name(list)).hasSize(all(list).size() + 1);
            }
        }
    }

    /** A register proves itself over all that the demo company did, and as of today. */
    @Test
    void whatTiesDoes() {
        var tied = 0;
        for (var list : lists) {
            if (list.get("isRegister").asBoolean()) {
                for (var figure :
                        ok("/api/lists/" + name(list) + "/totals").get("proof").get("figures")) {
                    tied++;
                    assertThat(figure.get("agrees").asBoolean())
                            .as("%s: %s", name(list), figure)
                            .isTrue();
                }
            }
        }
        assertThat(tied).isGreaterThan(14);
    }

    /** Looked for in every corner: column, filter, sequence, sum, chart, file. */
    @Test
    void whatSomebodyMayNotSeeIsNotThere() {
        var hidden = 0;
        for (var role : Map.of(
                        "clerk", "CLERK", "warehouse", "WAREHOUSE", "receivables", "RECEIVABLES", "admin", "ADMIN")
                .entrySet()) {
            var reader = new Rest(mvc, role.getKey(), role.getValue());
            var read = new LinkedHashMap<String, JsonNode>();
            reader.get("/api/lists").body().forEach(list -> read.put(name(list), list));
            for (var list : lists) {
                var theirs = read.get(name(list));
                for (var column : list.get("columns")) {
                    if (theirs != null && columns(theirs).contains(name(column))) {
                        continue;
                    }
                    hidden++;
                    var code = theirs == null ? "not-authorised" : "unknown-field";
                    var path = "/api/lists/" + name(list);
                    for (var asked : List.of(
                            "/rows?columns=" + name(column),
                            "/rows?sort=" + name(column),
                            "/rows?filter=%s:%s"
                                    .formatted(
                                            name(column),
                                            filter(column.get("kind").asString(), "1")),
                            "/totals?columns=" + name(column),
                            "/file?columns=" + name(column))) {
                        assertThat(reader.get(path + asked).code())
                                .as("%s as %s", path + asked, role)
                                .isEqualTo(code);
                    }
                    assertThat(reader.get(path + "/groups?chart=%s:count".formatted(name(column)))
                                    .status())
                            .isNotEqualTo(200);
                }
                if (theirs != null) {
                    reader.get("/api/lists/" + name(list) + "/rows")
                            .body()
                            .get("rows")
                            .forEach(row -> assertThat(columns(theirs))
                                    .containsAll(row.get("cells").propertyNames()));
                }
            }
        }
        assertThat(hidden).isGreaterThan(50);
    }
}
