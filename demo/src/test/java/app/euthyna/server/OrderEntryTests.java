package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;
import tools.jackson.databind.JsonNode;

/** What is written on an order beside items and quantities, over REST and a real database. */
@Order(1)
class OrderEntryTests extends OnServer {

    private Rest.Answer write(String lines, String more) {
        return clerk.post("/api/orders", "{\"customer\":\"%s\",\"lines\":[%s]%s}".formatted(customer, lines, more));
    }

    private String line(String more) {
        return "{\"item\":\"%s\"%s}".formatted(item, more);
    }

    private Rest.Answer change(Rest as, String number, String lines, String more) {
        return as.send(
                "PUT",
                "/api/orders/" + number,
                "{\"version\":%s,\"lines\":[%s]%s}".formatted(version(number), lines, more),
                UUID.randomUUID().toString());
    }

    private long version(String number) {
        return clerk.get("/api/orders/" + number).body().get("version").asLong();
    }

    private JsonNode flow(String number, int at) {
        return clerk.get("/api/review/" + number).body().get("flows").get(at);
    }

    private static List<String> texts(JsonNode rows, String field) {
        var texts = new ArrayList<String>();
        rows.forEach(row -> texts.add(row.get(field).asString()));
        return texts;
    }

    @Nested
    class Prices {

        /** List 10.00; everybody's 9.00 from 10 and 8.00 from 100; this customer's 8.50 from 20. */
        @Test
        void comeFromTheListByCustomerAndQuantity() {
            var breaks = """
                {"breaks":[{"customer":"","from":10,"price":9},{"customer":"","from":100,"price":8},{"customer":"%s","from":20,"price":8.5}]}\
                """.formatted(customer);
            assertThat(admin.send(
                                    "PUT",
                                    "/api/items/" + item + "/prices",
                                    breaks,
                                    UUID.randomUUID().toString())
                            .status())
                    .isEqualTo(200);
            var lines = String.join(
                    ",",
                    line(",\"quantity\":9"),
                    line(",\"quantity\":10"),
                    line(",\"quantity\":20"),
                    line(",\"quantity\":150"),
                    line(",\"quantity\":150,\"price\":7"));
            assertThat(texts(write(lines, "").body().get("lines"), "price"))
                    .containsExactly("10.0000", "9.0000", "8.5000", "8.5000", "7.0000");
            var twice = breaks.replace("\"from\":100", "\"from\":10");
            assertThat(admin.send(
                                    "PUT",
                                    "/api/items/" + item + "/prices",
                                    twice,
                                    UUID.randomUUID().toString())
                            .code())
                    .isEqualTo("incomplete");
            assertThat(clerk.get("/api/items/" + item + "/prices")
                            .body()
                            .get("breaks")
                            .size())
                    .isEqualTo(3);
        }
    }

    @Nested
    class Lines {

        @Test
        void ofTextAndSubtotalsHaveNoValueAndStayWhereTheyStand() {
            var written = write(
                            String.join(
                                    ",",
                                    "{\"kind\":\"TEXT\",\"text\":\"For the slip\"}",
                                    line(",\"quantity\":2"),
                                    line(",\"quantity\":1"),
                                    "{\"kind\":\"SUBTOTAL\",\"text\":\"Slip\"}",
                                    line(",\"quantity\":4"),
                                    "{\"kind\":\"SUBTOTAL\",\"text\":\"Rest\"}"),
                            "")
                    .body();
            assertThat(written.get("state").asString()).isEqualTo("CLEARED");
            assertThat(texts(written.get("lines"), "net"))
                    .containsExactly("0.00", "20.00", "10.00", "30.00", "40.00", "40.00");
            assertThat(written.get("net").asString()).isEqualTo("70.00");
            var number = written.get("number").asString();
            var changed = change(
                    clerk,
                    number,
                    String.join(
                            ",",
                            "{\"no\":1,\"kind\":\"TEXT\",\"text\":\"For slip two\"}",
                            "{\"no\":2}",
                            "{\"no\":3}",
                            "{\"no\":4,\"kind\":\"SUBTOTAL\"}",
                            "{\"no\":5}"),
                    "");
            assertThat(texts(changed.body().get("lines"), "description"))
                    .startsWith("For slip two")
                    .endsWith("Item");
            assertThat(clerk.get("/api/orders/" + number + "/versions")
                            .body()
                            .get(0)
                            .get("differences")
                            .toString())
                    .contains("For slip two")
                    .contains("line 6: subtotal removed");
            warehouse.post("/api/dispatches", "{\"order\":\"%s\",\"version\":%d}".formatted(number, version(number)));
            assertThat(clerk.get("/api/proofs/ORDER/" + number).body().toString())
                    .doesNotContain("\"holds\":false");
        }

        /**
         * 1000 in the first store, 5 in the other: the line of the other store takes from there, and is staged on a
         * note of its own.
         */
        @Test
        void shipFromAnotherStoreOnNotesOfTheirOwn() {
            var other = clerk.get("/api/sites").body().get(1).get("code").asString();
            warehouse.post(
                    "/api/stock-receipts",
                    "{\"item\":\"%s\",\"quantity\":5,\"unitCost\":4,\"site\":\"%s\"}".formatted(item, other));
            var number = write(line(",\"quantity\":3") + "," + line(",\"quantity\":7,\"site\":\"" + other + "\""), "")
                    .text("number");
            assertThat(flow(number, 0).get("reserved").asString()).isEqualTo("3");
            assertThat(flow(number, 1).get("reserved").asString()).isEqualTo("5");
            assertThat(flow(number, 1).get("waiting").asString()).isEqualTo("2");
            var both =
                    "{\"order\":\"%s\",\"version\":%d,\"lines\":[{\"line\":1,\"quantity\":1},{\"line\":2,\"quantity\":1}]}";
            assertThat(warehouse
                            .post("/api/dispatches", both.formatted(number, version(number)))
                            .code())
                    .isEqualTo("incomplete");
            var all = "{\"order\":\"%s\",\"version\":%d}";
            var first = warehouse
                    .post("/api/dispatches", all.formatted(number, version(number)))
                    .body();
            var second = warehouse
                    .post("/api/dispatches", all.formatted(number, version(number)))
                    .body();
            assertThat(List.of(first.get("site").asString(), second.get("site").asString()))
                    .containsExactly("Quay store", "Upland depot");
            assertThat(warehouse
                            .post(
                                    "/api/dispatches/%s/departure"
                                            .formatted(second.get("number").asString()),
                                    "{\"version\":0}")
                            .status())
                    .isEqualTo(200);
            // the two that wait are asked of the first store instead, which has them
            assertThat(change(
                                    clerk,
                                    number,
                                    "{\"no\":1},{\"no\":2,\"quantity\":5},%s".formatted(line(",\"quantity\":2")),
                                    "")
                            .status())
                    .isEqualTo(200);
            assertThat(flow(number, 2).get("reserved").asString()).isEqualTo("2");
            assertThat(clerk.get("/api/proofs/ORDER/" + number).body().toString())
                    .doesNotContain("\"holds\":false");
        }

        @Test
        void moveTheirReservationWithTheirStore() {
            var other = clerk.get("/api/sites").body().get(1).get("code").asString();
            var number = write(line(",\"quantity\":3"), "").text("number");
            change(clerk, number, "{\"no\":1,\"site\":\"" + other + "\"}", "");
            assertThat(flow(number, 0).get("waiting").asString()).isEqualTo("3");
            assertThat(clerk.get("/api/stock/" + item)
                            .body()
                            .get(0)
                            .get("reserved")
                            .asString())
                    .isEqualTo("0");
            warehouse.post(
                    "/api/stock-receipts",
                    "{\"item\":\"%s\",\"quantity\":5,\"unitCost\":4,\"site\":\"%s\"}".formatted(item, other));
            assertThat(flow(number, 0).get("reserved").asString()).isEqualTo("3");
        }

        /**
         * 1000 in store: what a line that does not wait is short of is cancelled when the order is cleared, and not
         * before.
         */
        @Test
        void dropWhatTheStoreDoesNotHaveWhenTheOrderIsCleared() {
            write(line(",\"quantity\":990"), "");
            admin.send(
                    "PUT",
                    "/api/customers/" + customer + "/terms",
                    "{\"version\":0,\"creditLimit\":1}",
                    UUID.randomUUID().toString());
            var held = write(
                            line(",\"quantity\":15,\"shortage\":\"DROP\"") + ","
                                    + line(",\"quantity\":1,\"shortage\":\"DROP\""),
                            "")
                    .text("number");
            assertThat(flow(held, 0).get("cancelled").asString()).isEqualTo("0");
            assertThat(controller
                            .post(
                                    "/api/orders/" + held + "/waivers",
                                    "{\"version\":%d,\"findings\":[\"credit-limit\"],\"reason\":\"agreed\"}"
                                            .formatted(version(held)))
                            .body()
                            .get("findings")
                            .toString())
                    .doesNotContain("unreserved");
            assertThat(flow(held, 0).get("reserved").asString()).isEqualTo("10");
            assertThat(flow(held, 0).get("cancelled").asString()).isEqualTo("5");
            assertThat(flow(held, 1).get("cancelled").asString()).isEqualTo("1");
            assertThat(clerk.get("/api/review/" + held).body().get("history").toString())
                    .contains("cancelled as the order says");
            assertThat(clerk.get("/api/proofs/ORDER/" + held).body().toString()).doesNotContain("\"holds\":false");
        }
    }

    @Nested
    class Details {

        private static final String FIELDS = """
            {"version":%d,"checks":[],"figures":{"unusualScore":3.5},"po":{"required":false,"same":"STOP","alike":"STOP","near":"CAUTION","barred":"HOLD"},
             "places":{"openOrders":true,"closedOrders":true,"closedMonths":24,"unpostedInvoices":true,"postedInvoices":true,"importedHistory":true},"reason":"r",
             "entry":{"units":[%s],"fields":[%s]}}\
            """;

        private void publish(String units, String fields) {
            var rules = FIELDS.formatted(
                    lead.get("/api/rules").body().get("version").asLong(), units, fields);
            assertThat(lead.send("PUT", "/api/rules", rules, UUID.randomUUID().toString())
                            .status())
                    .isEqualTo(200);
        }

        /** Runs what is told while the company asks for two revenue units and four fields of its own. */
        private void whereTheCompanyAsks(Runnable told) {
            publish("{\"code\":\"T\",\"name\":\"Trade\"},{\"code\":\"R\",\"name\":\"Rigging\"}", """
                {"code":"vessel","label":"Vessel","kind":"TEXT","required":true},{"code":"due","label":"Due","kind":"DATE","required":false},
                {"code":"how","label":"How","kind":"LIST","choices":["by van","collected"],"required":false},
                {"code":"m","label":"Metres","kind":"NUMBER","required":false}\
                """);
            try {
                told.run();
            } finally {
                publish("", "");
            }
        }

        private Rest.Answer details(String details) {
            return write(line(",\"quantity\":1"), details.isEmpty() ? "" : ",\"details\":{%s}".formatted(details));
        }

        @Test
        void areAskedForAsTheCompanyLaidDown() {
            whereTheCompanyAsks(() -> {
                assertThat(details("").code()).isEqualTo("incomplete");
                var draft = write(line(",\"quantity\":1"), ",\"draft\":true,\"details\":{\"revenueUnit\":\"\"}")
                        .body();
                assertThat(texts(draft.get("missing"), "field")).containsExactly("revenueUnit", "fields.vessel");
                change(clerk, draft.get("number").asString(), "{\"no\":1,\"quantity\":2}", "");
                assertThat(clerk.get("/api/orders/" + draft.get("number").asString() + "/versions")
                                .body()
                                .toString())
                        .as("a draft's changes are kept too")
                        .contains("line 1 quantity from 1 to 2");
                for (var bad : List.of(
                        "\"due\":\"soon\"",
                        "\"how\":\"on foot\"",
                        "\"m\":\"many\"",
                        "\"colour\":\"red\"",
                        "\"vessel\":\"two\\nlines\"")) {
                    assertThat(details("\"fields\":{%s}".formatted(bad)).code())
                            .as(bad)
                            .isEqualTo("incomplete");
                }
                assertThat(details("\"revenueUnit\":\"X\",\"fields\":{\"vessel\":\"Tern\"}")
                                .code())
                        .isEqualTo("incomplete");
            });
        }

        @Test
        void flowOnToItsPapers() {
            whereTheCompanyAsks(() -> {
                var number = details("""
                    "externalReference":"WEB-77-%s","fields":{"vessel":"Tern","due":"2026-12-24","how":"by van","m":"12.5"},
                     "shipTo":{"name":"Slip 4","street":"Quay Road","postcode":"1","town":"Torran","country":"ie"}\
                    """.formatted(item)).text("number");
                var kept = clerk.get("/api/orders/" + number).body().get("details");
                assertThat(kept.get("revenueUnit").asString()).isEqualTo("T");
                assertThat(clerk.get("/api/find?q=WEB-77-" + item).body().toString())
                        .contains(number);
                var dispatch = warehouse
                        .post("/api/dispatches", "{\"order\":\"%s\",\"version\":%d}".formatted(number, version(number)))
                        .text("number");
                change(clerk, number, "{\"no\":1}", ",\"details\":{\"fields\":{\"vessel\":\"Gannet\"}}");
                warehouse.post("/api/dispatches/" + dispatch + "/departure", "{\"version\":0}");
                var invoice = receivables
                        .post("/api/invoices", "{\"orders\":[\"" + number + "\"]}")
                        .text("number");
                assertThat(clerk.get("/api/dispatches/" + dispatch)
                                .body()
                                .get("details")
                                .toString())
                        .contains("Tern", "by van", "Slip 4, Quay Road, 1 Torran, IE");
                assertThat(clerk.get("/api/invoices/" + invoice)
                                .body()
                                .get("details")
                                .toString())
                        .contains("Gannet")
                        .doesNotContain("Tern");
            });
        }

        @Test
        void ofAnotherAddressAskForApprovalAgain() {
            admin.send(
                    "PUT",
                    "/api/customers/" + customer + "/approval-rules",
                    "{\"rules\":[{\"kind\":\"NET_ABOVE\",\"figure\":5,\"level\":\"CONTROLLER\"}]}",
                    UUID.randomUUID().toString());
            assertThat(clerk.get("/api/customers/" + customer + "/approval-rules")
                            .body()
                            .get("own")
                            .asBoolean())
                    .isTrue();
            var number = write(line(",\"quantity\":1"), "").text("number");
            controller.post("/api/orders/" + number + "/approvals", "{\"version\":%d}".formatted(version(number)));
            assertThat(change(clerk, number, "{\"no\":1}", ",\"details\":{\"externalReference\":\"E-1\"}")
                            .text("state"))
                    .isEqualTo("CLEARED");
            assertThat(change(
                                    clerk,
                                    number,
                                    "{\"no\":1}",
                                    ",\"details\":{\"externalReference\":\"E-1\",\"shipTo\":{\"town\":\"Elsewhere\"}}")
                            .text("state"))
                    .isEqualTo("AWAITING_APPROVAL");
            assertThat(admin.send(
                                    "DELETE",
                                    "/api/customers/" + customer + "/approval-rules",
                                    "{}",
                                    UUID.randomUUID().toString())
                            .body()
                            .get("own")
                            .asBoolean())
                    .isFalse();
        }

        @Test
        void ofAChangeAreTriedBeforeItIsMade() {
            admin.send(
                    "PUT",
                    "/api/customers/" + customer + "/terms",
                    "{\"version\":0,\"creditLimit\":100}",
                    UUID.randomUUID().toString());
            var number = write(line(",\"quantity\":5"), "").text("number");
            var tried = "{\"number\":\"%s\",\"customer\":\"%s\",\"lines\":[{\"no\":1,\"quantity\":%d}]}";
            assertThat(clerk.post("/api/dry-runs", tried.formatted(number, customer, 8))
                            .body()
                            .get("findings")
                            .size())
                    .isZero();
            assertThat(clerk.post("/api/dry-runs", tried.formatted(number, customer, 9))
                            .body()
                            .get("findings")
                            .get(0)
                            .get("check")
                            .asString())
                    .isEqualTo("credit-limit");
            assertThat(clerk.get("/api/orders/" + number).text("net")).isEqualTo("50.00");
        }
    }

    @Nested
    class Files {

        @Test
        void areKeptForWhatTheirFirstBytesSayAndHandedOutToBeSavedOnly() throws Exception {
            var number = write(line(",\"quantity\":1"), "").text("number");
            var path = "/api/orders/" + number + "/attachments";
            var pdf = new byte[3_000_000];
            System.arraycopy("%PDF-1.7".getBytes(StandardCharsets.US_ASCII), 0, pdf, 0, 8);
            pdf[2_999_999] = 7;
            var kept = clerk.uploadTo(path, "../<plan>.pdf", pdf)
                    .body()
                    .get("attachments")
                    .get(0);
            assertThat(kept.get("name").asString()).isEqualTo("plan.pdf");
            assertThat(clerk.uploadTo(path, "note.html", "<script>alert(1)</script>".getBytes(StandardCharsets.UTF_8))
                            .status())
                    .isEqualTo(200);
            assertThat(clerk.uploadTo(path, "x.pdf", new byte[] {'M', 'Z', 0, 1, 2})
                            .code())
                    .isEqualTo("incomplete");
            assertThat(clerk.uploadTo(path, "big.pdf", new byte[5 * 1024 * 1024 + 1])
                            .code())
                    .isEqualTo("incomplete");
            assertThat(clerk.uploadTo(path, "none.pdf", new byte[0]).code()).isEqualTo("incomplete");
            assertThat(new Rest(mvc, "auditor", "AUDITOR")
                            .uploadTo(path, "a.pdf", pdf)
                            .code())
                    .isEqualTo("not-authorised");
            var id = kept.get("id").asString();
            assertThat(clerk.bytes(path + "/" + id)).isEqualTo(pdf);
            var html =
                    clerk.get(path).body().get("attachments").get(1).get("id").asString();
            var headers = mvc.perform(MockMvcRequestBuilders.get(path + "/" + html)
                            .with(org.springframework.security.test.web.servlet.request
                                    .SecurityMockMvcRequestPostProcessors.user("clerk")
                                    .roles("CLERK")))
                    .andReturn()
                    .getResponse();
            assertThat(headers.getContentType()).isEqualTo("application/octet-stream");
            assertThat(headers.getHeader("Content-Disposition")).startsWith("attachment");
            assertThat(headers.getHeader("X-Content-Type-Options")).isEqualTo("nosniff");
            assertThat(clerk.send(
                                    "DELETE",
                                    path + "/" + id,
                                    "{}",
                                    UUID.randomUUID().toString())
                            .body()
                            .get("attachments")
                            .size())
                    .isEqualTo(1);
            assertThat(clerk.get(path + "/" + id).code()).isEqualTo("not-found");
        }
    }
}
