package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.platform.Pages;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

class OrderImportTests extends OnServer {

    private String row(String reference, String quantity) {
        return "%s,%s,PO-%s,%s,%s\n".formatted(reference, customer, reference, item, quantity);
    }

    @Test
    void takesEveryOrderOnceWithAndWithoutAByteOrderMark() {
        var file = "\ufeffreference,customer,po,item,quantity\r\n" + row("A", "2") + row("A", "3") + row("B", "1");
        var first = clerk.upload(file, "?whole=true");
        assertThat(first.body().get("taken").asInt()).isEqualTo(2);
        assertThat(first.body().get("sentence").asString()).isEqualTo("2 orders imported.");
        var again = clerk.upload(file, "?whole=false");
        assertThat(again.body().get("taken").asInt()).isZero();
        assertThat(again.body().get("takenBefore").asInt()).isEqualTo(2);
    }

    /** Longer than a group: every order is looked at before the first is imported, and each that is refused is told. */
    @Test
    void ofManyOrdersIsImportedWholeOrNotAtAll() {
        var rows = new StringBuilder("reference,customer,po,item,quantity,kind\n");
        for (int at = 0; at < 60; at++) {
            rows.append("W%d,%s,PO-W%d,%s,1,standard\n".formatted(at, customer, at, item));
        }
        var bad = rows
                + "W98,%1$s,PO-W98,%2$s,1,replacement\nW99,%1$s,PO-W99,%2$s,1,replacement\n".formatted(customer, item);
        var report = clerk.upload(bad, "?whole=true").body();
        assertThat(report.get("taken").asInt()).isZero();
        assertThat(report.get("results")
                        .valueStream()
                        .filter(result -> result.get("outcome").asString().equals("REFUSED"))
                        .map(result -> result.get("reference").asString()))
                .containsExactly("W98", "W99");
        assertThat(clerk.get("/api/orders?customer=" + customer).body().get("rows"))
                .isEmpty();
        assertThat(clerk.upload(rows.toString(), "?whole=true")
                        .body()
                        .get("taken")
                        .asInt())
                .isEqualTo(60);
    }

    @Test
    void namesEveryWrongCellAndTakesNothingWhenToldSo() {
        var file = "reference,customer,po,item,quantity,price\n"
                + "A,%1$s,P,%2$s,1,10\nB,nobody,P,%2$s,1,10\nC,%1$s,P,nothing,1,10\nD,%1$s,P,%2$s,0,10\nE,%1$s,P,%2$s,\"1,5\",10\n"
                        .formatted(customer, item)
                + "F,%1$s,P,%2$s,1.5555,10\nG,%1$s,P,%2$s,1,1e3\n,%1$s,P,%2$s,1,10\nH,%1$s,P\nI,%1$s,P,%2$s,-1,10\n"
                        .formatted(customer, item);
        var report = clerk.upload(file, "?whole=true").body();
        assertThat(report.get("taken").asInt()).isZero();
        var bad = new ArrayList<String>();
        report.get("bad")
                .forEach(cell -> bad.add(cell.get("row").asString() + " "
                        + cell.get("column").asString() + " "
                        + cell.get("value").asString()));
        assertThat(bad)
                .containsExactly(
                        "3 customer nobody",
                        "4 item nothing",
                        "5 quantity 0",
                        "6 quantity 1,5",
                        "7 quantity 1.5555",
                        "8 price 1e3",
                        "9 reference ",
                        "10  3 cells",
                        "11 quantity -1");
        assertThat(clerk.upload(file, "?whole=false").body().get("taken").asInt())
                .isEqualTo(1);
    }

    @Test
    void readsQuotedLineBreaksCommasAndFormulasAsText() {
        var file =
                "reference;customer;po;remark;item;quantity;price\nA;%s;\"=1+1\";\"first line\nsecond; \"\"line\"\"\";%s;1,5;2,25\n"
                        .formatted(customer, item);
        var report =
                clerk.upload(file, "?delimiter=semicolon&decimalMark=comma").body();
        var order = clerk.get("/api/orders/"
                        + report.get("results").get(0).get("order").asString())
                .body();
        assertThat(order.get("po").asString()).isEqualTo("=1+1");
        assertThat(order.get("remark").asString()).isEqualTo("first line\nsecond; \"line\"");
        assertThat(order.get("net").asString()).isEqualTo("3.38");
    }

    @Test
    void tellsAFileThatIsEmptyBrokenOrInAnotherEncoding() {
        assertThat(expected("")).contains("the file is empty");
        assertThat(expected("reference,customer,item,quantity\n")).contains("at least one row");
        assertThat(expected("reference,customer,item,quantity\n\"A,b,c,1\n")).contains("RFC 4180");
        assertThat(expected("reference,customer,item\nA,b,c\n")).contains("a column quantity");
        assertThat(expected("reference,customer,item,quantity,colour\nA,b,c,1,red\n"))
                .contains("one of the columns");
        var latin =
                clerk.upload("reference,customer,item,quantity\nÄ,b,c,1\n".getBytes(StandardCharsets.ISO_8859_1), "");
        assertThat(latin.body().get("bad").get(0).get("expected").asString()).contains("UTF-8");
    }

    /** Two files may name the same customers and items in different sequences at once: neither waits for the other. */
    @Test
    void locksWhatItsOrdersWantBeforeTheFirstOfThem() {
        var other = anotherCustomer();
        var report = clerk.upload(
                "reference,customer,item,quantity\nL1,%s,%s,1\nL2,%s,%s,1\n".formatted(other, item, customer, item),
                "?whole=false");
        assertThat(report.body().get("results"))
                .hasSize(2)
                .allSatisfy(result -> assertThat(result.get("state").asString()).isEqualTo("CLEARED"));
    }

    @Test
    void goesOnInTheBackgroundAndIsFoundAgain() {
        var report = clerk.upload(
                "reference,customer,item,quantity\n\n" + "L1,%s,%s,1\n".formatted(customer, item), "?whole=false");
        assertThat(report.body().get("results").get(0).get("rows").get(0).asInt())
                .as("a blank line is counted, as a spreadsheet does")
                .isEqualTo(3);
        assertThat(clerk.get("/api/imports/" + report.text("id")).body()).isEqualTo(report.body());
        var list = "/api/lists/imports/rows";
        assertThat(progress(clerk.get(list))).isEqualTo("DONE");
        jdbc.sql("update import_log set result = null, orders_done = 0 where id = ?")
                .param(report.body().get("id").asLong())
                .update();
        assertThat(clerk.get("/api/imports/" + report.text("id"))
                        .body()
                        .get("sentence")
                        .asString())
                .isEqualTo("Importing: 0 of 1 orders so far.");
        assertThat(progress(clerk.get(list))).isEqualTo("RUNNING");
        jdbc.sql("update import_log set touched_at = timestamp with time zone '2020-01-01 00:00:00+00' where id = ?")
                .param(report.body().get("id").asLong())
                .update();
        assertThat(clerk.get("/api/imports/" + report.text("id"))
                        .body()
                        .get("progress")
                        .asString())
                .isEqualTo("BROKEN_OFF");
        assertThat(progress(clerk.get(list))).isEqualTo("BROKEN_OFF");
    }

    /** Of the file that was imported last, as the list has it. */
    private static String progress(Rest.Answer imports) {
        return imports.body().get("rows").get(0).get("cells").get("progress").asString();
    }

    /** Of 250 wrong cells and 240 orders the log has pages, each once and in the sequence of the file. */
    @Test
    void aLongLogIsReadInPages() {
        var rows = IntStream.range(0, 240)
                .mapToObj(n -> "P%d,%s,%s,1\n".formatted(n, customer, item))
                .collect(Collectors.joining());
        var wrong = IntStream.range(0, 250)
                .mapToObj(n -> "W%d,%s,%s,many\n".formatted(n, customer, item))
                .collect(Collectors.joining());
        var report = clerk.upload("reference,customer,item,quantity\n" + rows + wrong, "");
        assertThat(report.text("sentence")).contains("240 were not imported; 250 cells are wrong");
        assertThat(report.body().get("results")).hasSize(100);
        assertThat(report.body().get("bad")).hasSize(100);
        var log = "/api/imports/" + report.text("id");
        assertThat(all(log + "/results", "reference"))
                .isEqualTo(IntStream.range(0, 240).mapToObj(n -> "P" + n).toList());
        assertThat(all(log + "/bad-cells", "row"))
                .isEqualTo(IntStream.range(242, 492).mapToObj(String::valueOf).toList());
        var next = report.text("nextBad");
        assertThat(clerk.get(log + "/bad-cells?after=" + next)
                        .body()
                        .get("rows")
                        .get(0)
                        .get("row")
                        .asInt())
                .isEqualTo(342);
        assertThat(clerk.get(log + "/results?after=zzz").code()).isEqualTo("incomplete");
        assertThat(clerk.get(log + "/results?after=OTk5OTk").code()).isEqualTo("not-found");
        assertThat(clerk.get(log + "/results?after=" + Pages.cursor(List.of("4294967297")))
                        .code())
                .as("1, were its upper half dropped")
                .isEqualTo("not-found");
        assertThat(clerk.get("/api/imports/999999/bad-cells").code()).isEqualTo("not-found");
    }

    /** What was wrong with a cell of a million letters does not answer them all. */
    @Test
    void aLongCellIsToldByItsBeginning() {
        var report = clerk.upload(
                "reference,customer,item,quantity\nL,%s,%s,1\n".formatted(customer, "\ud83d\ude00".repeat(500_000)),
                "");
        assertThat(report.body().get("bad").get(0).get("value").asString())
                .hasSizeLessThan(70)
                .endsWith("\u2026");
    }

    /** A log of before pages has none, and is read as it was written. */
    @Test
    void aLogOfBeforeIsStillRead() {
        var report = clerk.upload("reference,customer,item,quantity\nB,%s,%s,x\n".formatted(customer, item), "");
        var written = (ObjectNode) report.body().deepCopy();
        written.remove(List.of("nextResults", "nextBad"));
        jdbc.sql("update import_log set result = ? where id = ?")
                .params(written.toString(), written.get("id").asLong())
                .update();
        assertThat(clerk.get("/api/imports/" + report.text("id")).body()).isEqualTo(report.body());
    }

    private List<String> all(String path, String field) {
        var found = new ArrayList<String>();
        var page = clerk.get(path).body();
        while (true) {
            page.get("rows").forEach(row -> found.add(row.get(field).asString()));
            if (page.get("next").isNull()) {
                return found;
            }
            page = clerk.get(path + "?after=" + page.get("next").asString()).body();
        }
    }

    private String expected(String file) {
        return clerk.upload(file, "").body().get("bad").get(0).get("expected").asString();
    }
}
