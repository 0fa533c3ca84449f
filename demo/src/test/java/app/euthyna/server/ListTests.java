package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Figures;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What the engine of lists answers, beside the same asked of all rows by a few lines in Java. */
class ListTests extends OnServer {

    private static final String ORDERS = "/api/lists/orders/rows";
    private static final String ALL =
            "?columns=number,customer,po,state,kind,orderedOn,requestedOn,net,gross,toShip,shipTo";

    private static final String QUAY = """
            "details":{"shipTo":{"name":"Quay 4","street":"Mole Road 1","postcode":"9000","town":"Anport"}},""";

    /** All rows that are asked for, page by page. */
    private List<JsonNode> rows(Rest reader, String path) {
        var rows = new ArrayList<JsonNode>();
        var after = "";
        do {
            var page = reader.get(path + after);
            assertThat(page.status()).as("%s: %s", path, page.body()).isEqualTo(200);
            page.body().get("rows").forEach(rows::add);
            after = page.body().get("next").isNull()
                    ? ""
                    : "&after=" + page.body().get("next").asString();
        } while (!after.isEmpty());
        return rows;
    }

    private static String cell(JsonNode row, String column) {
        var value = row.get("cells").get(column);
        return value.isObject() ? value.get("code").asString() : value.asString();
    }

    private static BigDecimal figure(JsonNode row, String column) {
        return new BigDecimal(cell(row, column));
    }

    private static LocalDate day(JsonNode row, String column) {
        return LocalDate.parse(cell(row, column));
    }

    /** Orders of two customers over some days, some cancelled. */
    private String someOrders(Random random) {
        var other = anotherCustomer();
        for (int at = 0; at < 40; at++) {
            var number = clerk.post("/api/orders", """
                    {"customer":"%s","po":"%s-%d","requestedOn":"%s",%s"lines":[{"item":"%s","quantity":%d}]}""".formatted(
                                    at % 3 == 0 ? other : customer,
                                    at % 2 == 0 ? "QXA" : "QXB",
                                    at * 7919,
                                    realToday().plusDays(random.nextInt(9)),
                                    at % 4 == 0 ? QUAY : "",
                                    item,
                                    1 + random.nextInt(6)))
                    .text("number");
            if (at % 5 == 0) {
                var order = "/api/orders/" + number;
                controller.post(
                        order + "/cancellations",
                        "{\"version\":%s,\"reasonCode\":\"CUSTOMER_WISH\",\"reason\":\"no\"}"
                                .formatted(versionOf(order)));
            }
        }
        return other;
    }

    private record Condition(String written, Predicate<JsonNode> holds) {}

    private List<Condition> conditions(Random random, String other) {
        var first = realToday().plusDays(random.nextInt(5));
        var last = first.plusDays(random.nextInt(5));
        var least = BigDecimal.valueOf(12 + random.nextInt(30));
        var span = 1 + random.nextInt(6);
        return List.of(
                new Condition(
                        "customer:any:" + other, row -> cell(row, "customer").equals(other)),
                new Condition(
                        "customer:any:" + other + "," + customer,
                        row -> List.of(other, customer).contains(cell(row, "customer"))),
                new Condition(
                        "customer:none:" + customer,
                        row -> !cell(row, "customer").equals(customer)),
                new Condition("po:starts:qxa-", row -> cell(row, "po").startsWith("QXA-")),
                new Condition(
                        "state:none:CANCELLED,DRAFT",
                        row -> !List.of("CANCELLED", "DRAFT").contains(cell(row, "state"))),
                new Condition("state:any:CLEARED", row -> cell(row, "state").equals("CLEARED")),
                new Condition(
                        "state:any:CLEARED,HELD",
                        row -> List.of("CLEARED", "HELD").contains(cell(row, "state"))),
                new Condition(
                        "requestedOn:between:%s..%s".formatted(first, last),
                        row -> !day(row, "requestedOn").isBefore(first)
                                && !day(row, "requestedOn").isAfter(last)),
                new Condition(
                        "requestedOn:between:%s..".formatted(first),
                        row -> !day(row, "requestedOn").isBefore(first)),
                new Condition(
                        "requestedOn:in:today", row -> day(row, "requestedOn").equals(realToday())),
                new Condition(
                        "requestedOn:in:next-%d-days".formatted(span),
                        row -> !day(row, "requestedOn").isBefore(realToday())
                                && day(row, "requestedOn").isBefore(realToday().plusDays(span))),
                new Condition(
                        "gross:between:%s..60".formatted(least),
                        row -> figure(row, "gross").compareTo(least) >= 0
                                && figure(row, "gross").compareTo(BigDecimal.valueOf(60)) <= 0),
                new Condition("net:between:..30.00", row -> figure(row, "net").compareTo(new BigDecimal("30")) <= 0),
                new Condition(
                        "shipTo:starts:quay 4, mole",
                        row -> cell(row, "shipTo").equals("Quay 4, Mole Road 1, 9000 Anport")),
                new Condition(
                        "shipTo:has:mole road",
                        row -> cell(row, "shipTo").toLowerCase(Locale.ROOT).contains("mole road")),
                new Condition(
                        "shipTo:is:quay 4, mole road 1, 9000 anport",
                        row -> cell(row, "shipTo").equals("Quay 4, Mole Road 1, 9000 Anport")),
                new Condition("shipTo:is:quay 4", row -> cell(row, "shipTo").equals("Quay 4")),
                new Condition("toShip:any:YES", row -> cell(row, "toShip").equals("YES")),
                new Condition("toShip:any:NO", row -> cell(row, "toShip").equals("NO")),
                new Condition("number:starts:so-1", row -> cell(row, "number").startsWith("SO-1")));
    }

    /** In the sequence that is asked for, the key decides between equals. */
    private static Comparator<JsonNode> sequence(String sort) {
        Comparator<JsonNode> by = switch (sort.replace("-", "")) {
            case "requestedOn" -> Comparator.comparing(row -> day(row, "requestedOn"));
            case "gross" -> Comparator.comparing(row -> figure(row, "gross"));
            case "customer" ->
                Comparator.comparing(
                        row -> row.get("cells").get("customer").get("name").asString());
            default -> Comparator.comparing(row -> 0);
        };
        Comparator<JsonNode> whole =
                by.thenComparing(row -> Long.valueOf(row.get("key").asString()));
        return sort.startsWith("-") || sort.isEmpty() ? whole.reversed() : whole;
    }

    @Test
    void holdEachRowThatMeetsAllFiltersOnceAndInTheirSequence() {
        var seed = System.nanoTime();
        System.out.println("ListTests seed " + seed);
        var random = new Random(seed);
        var other = someOrders(random);
        var all = rows(auditor, ORDERS + ALL);
        assertThat(all).hasSizeGreaterThanOrEqualTo(40);
        var sorts = List.of("", "requestedOn", "-requestedOn", "gross", "-gross", "customer", "-customer");
        var met = 0;
        for (int at = 0; at < 120; at++) {
            var conditions = new HashSet<Condition>();
            for (int one = random.nextInt(3); one >= 0; one--) {
                var some = conditions(random, other);
                conditions.add(some.get(random.nextInt(some.size())));
            }
            var sort = sorts.get(random.nextInt(sorts.size()));
            var filters = new StringBuilder();
            conditions.forEach(condition -> filters.append("&filter=").append(condition.written()));
            var expected = all.stream()
                    .filter(row -> conditions.stream().allMatch(c -> c.holds().test(row)))
                    .sorted(sequence(sort))
                    .map(row -> cell(row, "number"))
                    .toList();
            var asked = ORDERS + ALL + filters + (sort.isEmpty() ? "" : "&sort=" + sort);
            assertThat(rows(auditor, asked))
                    .as(asked)
                    .extracting(row -> cell(row, "number"))
                    .containsExactlyElementsOf(expected);
            var totals = auditor.get("/api/lists/orders/totals" + ALL + filters).body();
            assertThat(totals.get("count").asLong()).isEqualTo(expected.size());
            assertThat(new BigDecimal(totals.get("sums").get("gross").asString()))
                    .isEqualByComparingTo(all.stream()
                            .filter(row -> expected.contains(cell(row, "number")))
                            .map(row -> figure(row, "gross"))
                            .reduce(BigDecimal.ZERO, BigDecimal::add));
            met += expected.isEmpty() ? 0 : 1;
        }
        assertThat(met).isGreaterThan(30);
    }

    @Test
    void arePagedByKeyAndGoOnBehindTheLastRow() {
        for (int at = 0; at < 105; at++) {
            clerk.post("/api/orders", order("P-" + at * 7919, 1).replace("{\"customer", "{\"draft\":true,\"customer"));
        }
        var asked = ORDERS + ALL + "&filter=customer:any:" + customer + "&sort=requestedOn";
        var first = auditor.get(asked).body();
        assertThat(first.get("rows").size()).isEqualTo(100);
        var next = first.get("next").asString();
        assertThat(auditor.get(asked + "&after=" + next).body().get("rows").size())
                .isEqualTo(5);
        assertThat(rows(auditor, asked)).extracting(row -> cell(row, "number")).doesNotHaveDuplicates();
        assertThat(auditor.get(asked.replace("sort=", "sort=-") + "&after=" + next)
                        .code())
                .as("a cursor of another sequence")
                .isEqualTo("incomplete");
        assertThat(auditor.get(asked + "&after=bm9uc2Vuc2U").code()).isEqualTo("incomplete");
    }

    @Test
    void sayWhatIsWrongWithWhatWasAsked() {
        assertThat(auditor.get(ORDERS + "?filter=state:any:LOST").code()).isEqualTo("unreadable-filter");
        assertThat(auditor.get(ORDERS + "?filter=gross:between:1,000..").code()).isEqualTo("unreadable-filter");
        assertThat(auditor.get(ORDERS + "?filter=margin:between:1..").code()).isEqualTo("unknown-field");
        assertThat(auditor.get(ORDERS + "?filter=customer:any:nobody").code()).isEqualTo("not-found");
        assertThat(auditor.get(ORDERS + "?columns=number,margin").code()).isEqualTo("unknown-field");
        assertThat(auditor.get(ORDERS + "?sort=po").code()).isEqualTo("not-sortable");
        assertThat(auditor.get("/api/lists/nothing/rows").code()).isEqualTo("not-found");
        assertThat(warehouse.get(ORDERS).code()).isEqualTo("not-authorised");
        assertThat(warehouse.get("/api/lists/orders/file").code()).isEqualTo("not-authorised");
        assertThat(warehouse.get("/api/lists").body())
                .noneMatch(list -> list.get("name").asString().equals("orders"));
    }

    @Test
    void readAsSentences() {
        var page = auditor.get(
                        ORDERS + "?filter=state:none:CANCELLED,CLOSED_SHORT&filter=customer:any:%s".formatted(customer)
                                + "&filter=requestedOn:in:last-3-days")
                .body();
        assertThat(page.get("filters"))
                .extracting(filter -> filter.get("words").asString())
                .containsExactly(
                        "not cancelled, not closed short", "Customer " + customer.substring(2), "in the last 3 days");
    }

    /** RFC 4180, read by commons-csv; a text that begins like a formula is none. */
    @Test
    void areTheSameAsAFile() throws IOException {
        clerk.post("/api/orders", order("=1+1", 3));
        clerk.post("/api/orders", order("a \\\"quoted\\\", PO", 2));
        var asked = "?filter=customer:any:" + customer + "&columns=number,customer,po,requestedOn,gross&sort=gross";
        var rows = rows(auditor, ORDERS + asked);
        var file = new String(auditor.file("/api/lists/orders/file" + asked), StandardCharsets.UTF_8);
        try (var parser = CSVParser.parse(file, CSVFormat.RFC4180)) {
            var records = parser.getRecords();
            assertThat(records.get(0).toList())
                    .containsExactly("Order", "Customer", "Customer name", "Customer PO", "Requested", "Gross");
            assertThat(records).hasSize(rows.size() + 1).hasSize(3);
            for (int at = 0; at < rows.size(); at++) {
                var row = rows.get(at);
                var po = cell(row, "po");
                assertThat(records.get(at + 1).toList())
                        .containsExactly(
                                cell(row, "number"),
                                customer,
                                "Customer " + customer.substring(2),
                                po.startsWith("=") ? "'" + po : po,
                                cell(row, "requestedOn"),
                                cell(row, "gross"));
            }
        }
        assertThat(auditor.file("/api/lists/orders/file" + asked + "&marked=true"))
                .startsWith(0xEF, 0xBB, 0xBF);
    }

    /** ECMA-376, read by another library: figures to the cent, days as days. */
    @Test
    void areTheSameAsAWorkbook() throws IOException {
        clerk.post("/api/orders", order("=1+1", 3));
        clerk.post("/api/orders", order("X-7919", 7));
        var asked = "?filter=customer:any:" + customer + "&columns=number,po,requestedOn,gross&sort=gross";
        var rows = rows(auditor, ORDERS + asked);
        try (var book = new ReadableWorkbook(
                new ByteArrayInputStream(auditor.file("/api/lists/orders/file" + asked + "&format=XLSX")))) {
            var read = book.getFirstSheet().read();
            assertThat(read).hasSize(rows.size() + 1).hasSize(3);
            for (int at = 0; at < rows.size(); at++) {
                var row = rows.get(at);
                assertThat(read.get(at + 1).getCellText(0)).isEqualTo(cell(row, "number"));
                assertThat(read.get(at + 1).getCellAsDate(2).orElseThrow().toLocalDate())
                        .isEqualTo(day(row, "requestedOn"));
                assertThat(read.get(at + 1).getCellAsNumber(3).orElseThrow())
                        .isEqualByComparingTo(figure(row, "gross"));
            }
            assertThat(read.get(1).getCellText(1)).isEqualTo("'=1+1");
        }
    }

    /**
     * ISO 32000, read by PDFBox: title, conditions, headings, each row as it is read, what all add up to, page numbers.
     */
    @Test
    void areTheSameOnPaper() throws IOException {
        clerk.post("/api/orders", order("PAPER <b>7919</b> & more", 3));
        clerk.post("/api/orders", order("PAPER-2", 7));
        var asked = "?filter=customer:any:" + customer + "&columns=number,customer,po,requestedOn,gross&sort=gross";
        var rows = rows(auditor, ORDERS + asked);
        try (var paper = Loader.loadPDF(auditor.file("/api/lists/orders/file" + asked + "&format=PDF"))) {
            var page = paper.getPage(0).getMediaBox();
            assertThat(page.getWidth()).as("across").isGreaterThan(page.getHeight());
            var text = new PDFTextStripper().getText(paper);
            assertThat(text)
                    .contains(
                            "Orders", "customer Customer " + customer.substring(2), "Customer PO", "1 / 1", "2 orders")
                    .contains("PAPER <b>7919</b> & more");
            for (var row : rows) {
                assertThat(text)
                        .contains(cell(row, "number"), Figures.day(day(row, "requestedOn")), cell(row, "gross"));
            }
            assertThat(text)
                    .contains(figure(rows.get(0), "gross")
                            .add(figure(rows.get(1), "gross"))
                            .toPlainString());
        }
        assertThat(warehouse.get("/api/lists/orders/file?format=PDF").code()).isEqualTo("not-authorised");
    }

    @Test
    void offerWhatAColumnCanName() {
        var found = auditor.get("/api/lists/orders/offered?column=customer&q=" + customer.toLowerCase(Locale.ROOT))
                .body();
        assertThat(found).hasSize(1);
        assertThat(found.get(0).get("code").asString()).isEqualTo(customer);
        assertThat(auditor.get("/api/lists/orders/offered?column=po&q=x").code())
                .isEqualTo("unknown-field");
    }

    /**
     * Each group is counted and added up beside the same in a few lines of Java, and its filter opens just its rows.
     */
    @Test
    void arePutTogetherForAChart() {
        var random = new Random(17);
        var other = someOrders(random);
        var base = "filter=customer:any:%s,%s".formatted(customer, other);
        var rows = rows(clerk, ORDERS + ALL + "&" + base);
        var keys = new LinkedHashMap<String, Function<JsonNode, String>>();
        keys.put("state", row -> cell(row, "state"));
        keys.put("customer", row -> cell(row, "customer"));
        keys.put("orderedOn.day", row -> cell(row, "orderedOn"));
        keys.put("requestedOn.month", row -> cell(row, "requestedOn").substring(0, 7));
        keys.put(
                "requestedOn.week",
                row -> day(row, "requestedOn")
                        .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY))
                        .toString());
        keys.forEach((by, key) -> {
            for (var of : List.of("count", "gross")) {
                var expected = new TreeMap<String, BigDecimal>();
                rows.forEach(row -> expected.merge(
                        key.apply(row), of.equals("count") ? BigDecimal.ONE : figure(row, of), BigDecimal::add));
                var groups = clerk.get("/api/lists/orders/groups?chart=%s:%s&%s".formatted(by, of, base))
                        .body();
                var sums = new ArrayList<BigDecimal>();
                for (var group : groups) {
                    if (by.contains(".") && group.get("count").asInt() == 0) {
                        assertThat(new BigDecimal(group.get("measured").asString()))
                                .as("a day on which nothing was")
                                .isZero();
                        continue;
                    }
                    sums.add(new BigDecimal(group.get("measured").asString()));
                    var behind = rows(
                            clerk,
                            ORDERS + ALL + "&" + base + "&filter="
                                    + group.get("filter").asString());
                    assertThat(behind)
                            .as("%s of %s", group, by)
                            .hasSize(group.get("count").asInt());
                    assertThat(behind.stream().map(key))
                            .as("%s of %s", group, by)
                            .containsOnly(key.apply(behind.get(0)));
                    assertThat(expected.get(key.apply(behind.get(0))))
                            .as("%s of %s", group, by)
                            .isEqualByComparingTo(sums.get(sums.size() - 1));
                }
                assertThat(sums).as(by).hasSize(expected.size());
                if (!by.contains(".")) {
                    assertThat(sums).as("the most first").isSortedAccordingTo(Comparator.reverseOrder());
                }
            }
        });
        for (var wrong :
                List.of("state", "salary:count", "state:salary", "state.day:count", "orderedOn:count", "po:count")) {
            assertThat(clerk.get("/api/lists/orders/groups?chart=" + wrong).code())
                    .as(wrong)
                    .isEqualTo("not-charted");
        }
        assertThat(warehouse.get("/api/lists/orders/groups?chart=state:count").code())
                .isEqualTo("not-authorised");
    }
}
