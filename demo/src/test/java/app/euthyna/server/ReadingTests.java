package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Reading;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Reading follows roles (section 15 of the domain reference): role × address × kind of figure. */
@Order(1)
class ReadingTests extends OnServer {

    private Map<Role, Rest> everybody() {
        var all = new EnumMap<Role, Rest>(Role.class);
        for (var role : Role.values()) {
            all.put(role, new Rest(mvc, role.name().toLowerCase(java.util.Locale.ROOT), role.name()));
        }
        return all;
    }

    /** Every address that is published stands in the table, and none of the table reads nothing. */
    @Test
    void everyAddressHasItsReaders() throws Exception {
        var api = new JsonMapper().readTree(Files.readString(Path.of("../web/openapi.json")));
        var without = new ArrayList<String>();
        api.get("paths").properties().forEach(path -> {
            if (path.getValue().has("get")
                    && Reading.may(path.getKey().replaceAll("[{}]", "")).isEmpty()) {
                without.add(path.getKey());
            }
        });
        assertThat(without).isEmpty();
        assertThat(Reading.may("/api/nowhere")).isEmpty();
    }

    /** An address that is none is told as that, to whoever asks; so is a statement over days that are none. */
    @Test
    void whatIsNotThereIsNotFound() {
        everybody()
                .forEach((role, rest) -> assertThat(rest.get("/api/nowhere").code())
                        .as("%s", role)
                        .isEqualTo("not-found"));
        for (var number : List.of("|2026-13-01|2026-01-01", "|a|b|c", "|2026-02-01|2026-01-01")) {
            assertThat(receivables
                            .post(
                                    "/api/prints",
                                    "{\"paper\":\"STATEMENT\",\"numbers\":[\"%s\"]}".formatted(customer + number))
                            .status())
                    .as(number)
                    .isBetween(400, 422);
        }
        assertThat(receivables.get("/api/papers/INVOICE").code()).isEqualTo("incomplete");
    }

    /** On documents that there are: whoever may read gets them, whoever may not is told so. */
    @Test
    void documentsAreReadByThoseWhoMay() {
        var order = cleared(2);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        var payment = receivables
                .post("/api/payments", "{\"customer\":\"%s\",\"amount\":5}".formatted(customer))
                .text("number");
        for (var path : List.of(
                "/api/orders/" + order,
                "/api/orders/" + order + "/versions",
                "/api/review",
                "/api/review/" + order,
                "/api/dispatches/" + dispatch,
                "/api/invoices/" + invoice,
                "/api/payments/" + payment,
                "/api/customers/" + customer,
                "/api/customers/" + customer + "/sheet",
                "/api/customers/" + customer + "/position",
                "/api/customers/" + customer + "/statement",
                "/api/customers/" + customer + "/credit",
                "/api/items/" + item + "/sheet",
                "/api/stock/" + item,
                "/api/trails/ORDER/" + order,
                "/api/proofs/ORDER/" + order,
                "/api/ledger/entries",
                "/api/ledger/posting-map",
                "/api/ledger/periods",
                "/api/ledger/role-balances",
                "/api/bank-statements",
                "/api/rules",
                "/api/approval-rules",
                "/api/payouts",
                "/api/refunds",
                "/api/unwind/ways?kind=ORDER&number=" + order,
                "/api/users")) {
            everybody()
                    .forEach((role, rest) -> assertThat(rest.get(path).status())
                            .as(role + " reads " + path)
                            .isEqualTo(
                                    Reading.may(path.replaceFirst("\\?.*", "")).contains(role) ? 200 : 403));
        }
    }

    private void plantACostAndAFloor() {
        warehouse.post(
                "/api/stock-counts", "{\"item\":\"%s\",\"counted\":0,\"reason\":\"a planted cost\"}".formatted(item));
        warehouse.post(
                "/api/stock-receipts", "{\"item\":\"%s\",\"quantity\":1000,\"unitCost\":4.1357}".formatted(item));
        jdbc.sql("update item set floor_price = 7.3391 where code = ?")
                .param(item)
                .update();
    }

    /** A cost of 4.1357 and a limit of 91823.45 are in no answer of those who may not read them. */
    @Test
    void secretFiguresLeakNowhere() {
        plantACostAndAFloor();
        jdbc.sql("update customer set credit_limit = 91823.45 where code = ?")
                .param(customer)
                .update();
        var order = cleared(3);
        var dispatch = gone(order);
        var paths = List.of(
                "/api/stock/" + item,
                "/api/stock/" + item + "/queue",
                "/api/items/" + item + "/sheet",
                "/api/items/" + item + "/claims",
                "/api/items?q=" + item,
                "/api/lists/items/rows?filter=number:starts:" + item,
                "/api/lists/customers/rows?filter=number:starts:" + customer,
                "/api/dispatches/" + dispatch,
                "/api/lists/dispatches/rows?filter=number:is:" + dispatch,
                "/api/find?q=" + order,
                "/api/customers?q=" + customer,
                "/api/customers/" + customer,
                "/api/customers/" + customer + "/sheet",
                "/api/trails/ORDER/" + order,
                "/api/orders/" + order,
                "/api/today");
        everybody().forEach((role, rest) -> {
            for (var path : paths) {
                var answer = rest.get(path).body().toString();
                if (role != Role.CONTROLLER && role != Role.LEAD && role != Role.AUDITOR) {
                    assertThat(answer).as(role + " reads " + path).doesNotContain("4.1357", "7.3391");
                    // whoever reads the ledger reads what it says of the goods that left
                    if (role != Role.RECEIVABLES) {
                        assertThat(answer).as(role + " reads " + path).doesNotContain("12.41");
                    }
                }
                if (role == Role.WAREHOUSE) {
                    assertThat(answer).as(role + " reads " + path).doesNotContain("91823");
                }
            }
        });
        assertThat(auditor.get("/api/items/" + item + "/sheet").body().toString())
                .contains("4.1357", "7.3391");
    }

    private static String words(byte[] pdf) throws IOException {
        try (var document = Loader.loadPDF(pdf)) {
            return new PDFTextStripper().getText(document);
        }
    }

    /** Papers with prices are for those who read prices; looking at one counts no copy, and an auditor only looks. */
    @Test
    void papersAreForThoseWhoReadWhatStandsOnThem() throws Exception {
        var order = cleared(3);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        var papers = Map.of(
                "INVOICE", invoice, "ORDER_CONFIRMATION", order, "PACKING_SLIP", dispatch, "STATEMENT", customer);
        for (var paper : papers.entrySet()) {
            for (var one : everybody().entrySet()) {
                var reads = one.getKey() != Role.ADMIN
                        && (one.getKey() != Role.WAREHOUSE || paper.getKey().equals("PACKING_SLIP"));
                var looked = one.getValue().file("/api/papers/" + paper.getKey() + "?number=" + paper.getValue());
                assertThat(looked.length > 0)
                        .as(one.getKey() + " looks at " + paper)
                        .isEqualTo(reads);
                assertThat(one.getValue()
                                .post(
                                        "/api/prints",
                                        "{\"paper\":\"%s\",\"numbers\":[\"%s\"]}"
                                                .formatted(paper.getKey(), paper.getValue()))
                                .status())
                        .as(one.getKey() + " prints " + paper)
                        .isEqualTo(reads && one.getKey() != Role.AUDITOR ? 200 : 403);
                if (reads) {
                    assertThat(words(looked)).contains("For inspection only").doesNotContain("Copy");
                }
            }
        }
        var printed =
                receivables.post("/api/prints", "{\"paper\":\"INVOICE\",\"numbers\":[\"%s\"]}".formatted(invoice));
        var file = "/api/prints/" + printed.text("id") + "/pdf";
        assertThat(warehouse.file(file)).isEmpty();
        assertThat(words(clerk.file(file))).contains("36.30");
        assertThat(words(warehouse.file("/api/papers/PACKING_SLIP?number=" + dispatch)))
                .contains("I-")
                .doesNotContain("36.30", "30.00", "10.00");
    }

    /** To the address of the record by whoever reads the paper, to another by a controller, and the history says so. */
    @Test
    void mailGoesToTheAddressOfTheRecord() {
        jdbc.sql("update customer set email = 'orders@harbour.example' where code = ?")
                .param(customer)
                .update();
        var order = cleared(3);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        var mail = "{\"paper\":\"%s\",\"number\":\"%s\"%s}";
        var elsewhere = ",\"to\":\"me@elsewhere.example\"";
        assertThat(warehouse
                        .post("/api/mails", mail.formatted("STATEMENT", customer, ""))
                        .code())
                .isEqualTo("not-authorised");
        assertThat(warehouse
                        .post("/api/mails", mail.formatted("PACKING_SLIP", dispatch, ""))
                        .status())
                .isEqualTo(200);
        assertThat(receivables
                        .post("/api/mails", mail.formatted("INVOICE", invoice, ""))
                        .status())
                .isEqualTo(200);
        assertThat(receivables
                        .post("/api/mails", mail.formatted("INVOICE", invoice, ",\"to\":\"Orders@Harbour.example\""))
                        .status())
                .isEqualTo(200);
        for (var role : List.of(clerk, warehouse, receivables)) {
            assertThat(role.post("/api/mails", mail.formatted("PACKING_SLIP", dispatch, elsewhere))
                            .code())
                    .isEqualTo("not-authorised");
        }
        assertThat(controller
                        .post("/api/mails", mail.formatted("INVOICE", invoice, elsewhere))
                        .status())
                .isEqualTo(200);
        assertThat(controller.get("/api/review/" + order).body().get("history").toString())
                .contains("nvoice " + invoice + " was mailed to me@elsewhere.example");
    }

    /**
     * Below the floor and with too thin a margin: for a clerk the finding names the line, and nothing tells the figure.
     */
    @Test
    void floorsAndMarginsAreFiguresOfThoseWhoReadCosts() {
        plantACostAndAFloor();
        var before = (ObjectNode) lead.get("/api/rules").body().get("figures");
        rules(rules -> ((ObjectNode) rules.get("figures")).put("minimumMargin", "37.7"));
        try {
            var body =
                    "{\"customer\":\"%s\",\"po\":\"F-1\",\"lines\":[{\"item\":\"%s\",\"quantity\":5,\"price\":5.50}]}"
                            .formatted(customer, item);
            var order = clerk.post("/api/orders", body).text("number");
            assertThat(clerk.get("/api/orders/" + order).text("state")).isEqualTo("HELD");
            var secrets = List.of("7.3391", "7.34", "4.1357", "4.14", "24.8", "1.8391", "37.7");
            var told = "{\"customer\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":5,\"price\":5.50}]}"
                    .formatted(customer, item);
            for (var rest : List.of(clerk, receivables)) {
                for (var path : List.of(
                        "/api/review/" + order,
                        "/api/review",
                        "/api/review/" + order + "/remedies",
                        "/api/trails/ORDER/" + order)) {
                    assertThat(rest.get(path).body().toString())
                            .as(rest.role() + " reads " + path)
                            .doesNotContain(secrets);
                }
            }
            assertThat(clerk.post("/api/dry-runs", told).body().toString()).doesNotContain(secrets);
            assertThat(clerk.get("/api/review/" + order).text("sentence"))
                    .contains("line 1: below floor price", "line 1: margin too low");
            assertThat(controller.get("/api/review/" + order).body().toString()).contains("7.3391", "24.8", "37.7");
            assertThat(controller
                            .get("/api/review/" + order + "/remedies")
                            .body()
                            .toString())
                    .contains("7.3391");
            assertThat(clerk.post(
                                    "/api/clearing-previews",
                                    "{\"orders\":[{\"number\":\"%s\",\"version\":0}],\"reason\":\"r\"}"
                                            .formatted(order))
                            .code())
                    .isEqualTo("not-authorised");
        } finally {
            rules(rules -> rules.set("figures", before));
        }
    }

    /** What is written on a document is for those who may read it. */
    @Test
    void theWarehouseWritesNothingOnOrders() {
        var order = cleared(3);
        assertThat(warehouse
                        .post("/api/orders/" + order + "/notes", "{\"text\":\"what is this\"}")
                        .code())
                .isEqualTo("not-authorised");
        assertThat(warehouse.get("/api/orders/" + order + "/attachments").code())
                .isEqualTo("not-authorised");
    }

    /** Messages to somebody else are not the warehouse's to read. */
    @Test
    void theWarehouseReadsItsOwnMessages() {
        jdbc.sql("insert into outbox_message (id, recipient, subject, body, about_kind, about_number, by_user, at)"
                        + " values (" + Databases.NEXT_ID
                        + ", 'lead', 'S', 'B', 'ORDER', 'SO-1', 'clerk', current_timestamp)")
                .update();
        var id =
                jdbc.sql("select max(id) from outbox_message").query(Long.class).single();
        assertThat(warehouse.get("/api/outbox/" + id + "/eml").code()).isEqualTo("not-found");
        assertThat(warehouse.get("/api/outbox/" + id).code()).isEqualTo("not-found");
        assertThat(clerk.get("/api/outbox/" + id).text("recipient")).isEqualTo("lead");
        var toLead = "/rows?filter=to:is:lead";
        assertThat(warehouse.get("/api/lists/mails" + toLead).body().get("rows"))
                .isEmpty();
        assertThat(clerk.get("/api/lists/mails" + toLead).body().get("rows")).isNotEmpty();
    }

    /** Nor are they found by any other question to the list, nor by their key. */
    @Test
    void ownRowsAreAllThatAnyCornerOfAListKnows() throws Exception {
        var insert = "insert into outbox_message (id, recipient, subject, body, by_user, at) values ("
                + Databases.NEXT_ID + ", ?, ?, 'B', ?, current_timestamp)";
        jdbc.sql(insert).params("lead", "to others", "clerk").update();
        jdbc.sql(insert).params("controller", "from me", "warehouse").update();
        var keys = jdbc.sql("select id from outbox_message order by id desc fetch first 2 rows only")
                .query(String.class)
                .list();
        var mails = "/api/lists/mails/";
        var read = new ArrayList<String>();
        for (var rest : List.of(warehouse, lead)) {
            var both = "?filter=subject:starts:to others";
            read.add(rest.get(mails + "rows" + both).body().get("rows").size()
                    + " " + rest.get(mails + "totals" + both).text("count")
                    + " " + rest.get(mails + "totals" + both + "&capped=true").text("count")
                    + " "
                    + rest.get(mails + "groups" + both + "&chart=by:count")
                            .body()
                            .size()
                    + " "
                    + rest.get(mails + "selected?keys=" + String.join(",", keys))
                            .text("count"));
            read.add("in a file "
                    + new String(rest.bytes(mails + "file?format=CSV"), StandardCharsets.UTF_8).contains("to others"));
            read.add("from me "
                    + rest.get(mails + "rows?filter=subject:is:from me")
                            .body()
                            .get("rows")
                            .size());
        }
        assertThat(read)
                .containsExactly(
                        "0 0 0 0 1", "in a file false", "from me 1", "1 1 1 1 2", "in a file true", "from me 1");
    }

    /** The clock's reminder of all that waits for somebody is about no one document. */
    @Test
    void aMessageNeedNotBeAboutADocument() {
        jdbc.sql("insert into outbox_message (id, recipient, subject, body, by_user, at) values (" + Databases.NEXT_ID
                        + ", 'warehouse', 'S', 'B', 'clock', current_timestamp)")
                .update();
        var row = warehouse
                .get("/api/lists/mails/rows?filter=mine:any:YES")
                .body()
                .get("rows")
                .get(0);
        assertThat(row.get("opens").asString()).isEmpty();
        var message = warehouse.get("/api/outbox/" + row.get("key").asString()).body();
        assertThat(message.get("aboutKind").isNull()).isTrue();
        assertThat(message.get("aboutNumber").isNull()).isTrue();
    }
}
