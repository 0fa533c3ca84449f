package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.UUID;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What the company's rules, its clock and its colleagues decide. */
@Order(1)
class PolicyTests extends OnDecisions {

    @Nested
    class Rules {

        private JsonNode rules() {
            return lead.get("/api/rules").body();
        }

        private String changed(String what, String to) {
            var rules = (tools.jackson.databind.node.ObjectNode) rules();
            rules.remove("changes");
            rules.put("reason", "a test");
            return rules.toString().replace(what, to);
        }

        @Test
        void tellBeforehandWhatTheyWouldHoldAndHoldItFromThenOn() {
            var low = "{\"customer\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":1,\"price\":4.10}]}"
                    .formatted(customer, item);
            var before = clerk.post("/api/orders", low).text("number");
            assertThat(open(before)).isEmpty();
            // unit cost 4.00 of 4.10: a margin of 2.4 per cent
            var tight = changed("\"minimumMargin\":null", "\"minimumMargin\":\"10\"");
            var preview = lead.post("/api/rules/previews", tight).body();
            var margin = new ArrayList<String>();
            preview.get("checks").forEach(c -> {
                if (c.get("check").asString().equals("margin")) {
                    margin.add(c.get("cautionsNow").asString() + " then "
                            + c.get("cautionsThen").asString());
                }
            });
            assertThat(margin).singleElement().asString().startsWith("0 then ").isNotEqualTo("0 then 0");
            var plain = changed("nothing", "nothing");
            assertThat(put(lead, "/api/rules", tight).status()).isEqualTo(200);
            try {
                assertThat(open(clerk.post("/api/orders", low).text("number"))).containsExactly("margin");
                assertThat(open(before)).as("what was cleared stays so").isEmpty();
                assertThat(put(lead, "/api/rules", plain).code()).isEqualTo("stale-version");
                assertThat(put(lead, "/api/rules", tight.replace("\"near\":\"CAUTION\"", "\"near\":\"STOP\""))
                                .code())
                        .isEqualTo("incomplete");
            } finally {
                assertThat(put(lead, "/api/rules", changed("\"minimumMargin\":\"10\"", "\"minimumMargin\":null"))
                                .status())
                        .isEqualTo(200);
            }
        }

        @Test
        void letHeldOrdersGoWhenTheyAreLoosened() {
            var free = "{\"customer\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":1,\"price\":0}]}"
                    .formatted(customer, item);
            var held = clerk.post("/api/orders", free).text("number");
            assertThat(state(held)).isEqualTo("HELD");
            var strict = rules();
            var loose = strict.toString();
            var at = loose.indexOf("\"check\":\"zero-price\"");
            var stop = loose.indexOf("\"STANDARD\":\"STOP\"", at);
            var changed = loose.substring(0, stop) + "\"STANDARD\":\"CAUTION\""
                    + loose.substring(stop + "\"STANDARD\":\"STOP\"".length());
            put(
                    lead,
                    "/api/rules",
                    changed.replaceAll(",\"changes\":\\[.*?\\]", "").replaceFirst("\\}$", ",\"reason\":\"a test\"}"));
            assertThat(state(held)).isEqualTo("CLEARED");
            put(
                    lead,
                    "/api/rules",
                    strict.toString()
                            .replaceAll(",\"changes\":\\[.*?\\]", "")
                            .replaceFirst("\\}$", ",\"reason\":\"a test\"}")
                            .replaceAll(
                                    "\"version\":\\d+",
                                    "\"version\":" + rules().get("version").asString()));
        }
    }

    @Nested
    class PoNumbers {

        private Rest.Answer policy(String own) {
            return put(
                    lead,
                    "/api/customers/" + customer + "/po-policy",
                    "{\"version\":%s,\"own\":%s}"
                            .formatted(clerk.get("/api/customers/" + customer).text("version"), own));
        }

        @Test
        void areRefusedToWhoeverMayNotWaiveThemWhereThePolicySaysSo() {
            var first = submit("RF-1", 1);
            assertThat(policy("{\"barred\":\"REFUSE\"}").status()).isEqualTo(200);
            var refused = clerk.post("/api/orders", order("rf 1", 1));
            assertThat(refused.code()).isEqualTo("duplicate-po");
            assertThat(refused.text("detail")).contains("order " + first + " as RF-1");
            assertThat(state(controller.post("/api/orders", order("rf 1", 1)).text("number")))
                    .isEqualTo("HELD");
            var other = submit("RF-2", 1);
            assertThat(put(
                                    clerk,
                                    "/api/orders/" + other,
                                    "{\"version\":%s,\"po\":\"rf/1\",\"lines\":[{\"no\":1}]}".formatted(version(other)))
                            .code())
                    .isEqualTo("duplicate-po");
            assertThat(clerk.get("/api/orders/" + other).text("po")).isEqualTo("RF-2");
            policy("null");
            assertThat(state(submit("rf/1", 1))).isEqualTo("HELD");
        }

        @Test
        void areMetInInvoicesFromBeforeAndInCopies() {
            var file = "customer,number,date,po,net\n%s,R-1,2019-05-02,PO 00881-C,10.00\n".formatted(customer);
            assertThat(clerk.upload(file, "/past-invoices").body().get("taken").asInt())
                    .isEqualTo(1);
            assertThat(clerk.upload(file, "/past-invoices")
                            .body()
                            .get("takenBefore")
                            .asInt())
                    .isEqualTo(1);
            assertThat(clerk.upload(file + "nobody,R-2,2019,,x\n", "/past-invoices")
                            .body()
                            .get("bad")
                            .size())
                    .isEqualTo(4);
            var held = submit("881/c", 1);
            assertThat(open(held)).containsExactly("duplicate-po");
            assertThat(clerk.get("/api/review/" + held).body().get("sentence").asString())
                    .contains("on invoice R-1");
            var plain = submit("CP-1", 3);
            var copy = clerk.post("/api/orders/started", "{\"kind\":\"ORDER\",\"number\":\"%s\"}".formatted(plain));
            assertThat(copy.body()
                            .get("lines")
                            .get(0)
                            .get("source")
                            .get("number")
                            .asString())
                    .isEqualTo(plain);
            assertThat(clerk.post(
                                    "/api/orders/" + copy.text("number") + "/submission",
                                    "{\"version\":%s}".formatted(copy.text("version")))
                            .text("state"))
                    .isEqualTo("HELD");
            var numbers = clerk.get("/api/customers/" + customer + "/po-numbers?q=po881")
                    .body()
                    .get("rows");
            assertThat(numbers.size()).isEqualTo(2);
        }
    }

    @Nested
    class ByTheClock {

        @Test
        void licencesLapseAndInvoicesFallOverdueBeforeTheGoodsHaveLeft() {
            var licence = "L-" + UUID.randomUUID();
            var item = "F-" + UUID.randomUUID().toString().substring(0, 8);
            admin.post(
                    "/api/items",
                    "{\"code\":\"%s\",\"name\":\"Flare\",\"kind\":\"STOCK\",\"price\":10,\"vatCategory\":\"Z\",\"vatRate\":0,\"regulated\":\"pyro\"}"
                            .formatted(item));
            warehouse.post("/api/stock-receipts", "{\"item\":\"%s\",\"quantity\":10,\"unitCost\":4}".formatted(item));
            admin.post(
                    "/api/simulated-register",
                    "{\"licenceClass\":\"pyro\",\"number\":\"%s\",\"validTo\":\"%s\",\"answers\":true}"
                            .formatted(licence, realToday().plusDays(8)));
            put(
                    lead,
                    "/api/customers/" + customer + "/licences",
                    "{\"version\":%s,\"licences\":[{\"licenceClass\":\"pyro\",\"number\":\"%s\"}]}"
                            .formatted(clerk.get("/api/customers/" + customer).text("version"), licence));
            var order = clerk.post(
                            "/api/orders",
                            "{\"customer\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":2}]}"
                                    .formatted(customer, item))
                    .text("number");
            assertThat(state(order)).isEqualTo("CLEARED");
            itIsInDays(8);
            controller.post("/api/rechecks", "");
            assertThat(state(order)).isEqualTo("CLEARED");
            itIsInDays(9);
            controller.post("/api/rechecks", "");
            assertThat(open(order)).containsExactly("licence");
            admin.post(
                    "/api/simulated-register",
                    "{\"licenceClass\":\"pyro\",\"number\":\"%s\",\"answers\":false}".formatted(licence));
            itIsInDays(10);
            controller.post("/api/rechecks", "");
            var told = clerk.get("/api/customers/" + customer + "/sheet")
                    .body()
                    .get("licences")
                    .get(0);
            assertThat(told.get("answer").asString()).isEqualTo("NO_ANSWER");
            assertThat(told.get("validTo").isNull()).isTrue();
            assertThat(clerk.get("/api/review/" + order).body().get("sentence").asString())
                    .contains("did not answer")
                    .contains("in 3 tries");
            admin.post(
                    "/api/simulated-register",
                    "{\"licenceClass\":\"pyro\",\"number\":\"%s\",\"validTo\":\"%s\",\"answers\":true}"
                            .formatted(licence, realToday().plusYears(1)));
            itIsInDays(11);
            controller.post("/api/rechecks", "");
            assertThat(state(order)).isEqualTo("CLEARED");
        }
    }

    @Nested
    class Colleagues {

        private String awaiting() {
            put(
                    admin,
                    "/api/customers/" + customer + "/approval-rules",
                    "{\"rules\":[{\"kind\":\"NET_ABOVE\",\"figure\":5,\"level\":\"LEAD\"}]}");
            return submit("AP-" + UUID.randomUUID(), 3);
        }

        @Test
        void whoAreAwayAreStoodInForFromTheirFirstDayToTheirLast() {
            var order = awaiting();
            var approval = "/api/orders/" + order + "/approvals";
            assertThat(controller
                            .post(approval, "{\"version\":%s}".formatted(version(order)))
                            .code())
                    .isEqualTo("not-authorised");
            var today = controller.get("/api/session").text("today");
            assertThat(put(
                                    lead,
                                    "/api/users/me/absence",
                                    "{\"deputy\":\"controller\",\"from\":\"2020-01-01\",\"until\":\"2020-01-02\"}")
                            .status())
                    .isEqualTo(200);
            assertThat(controller
                            .post(approval, "{\"version\":%s}".formatted(version(order)))
                            .code())
                    .as("the absence is over")
                    .isEqualTo("not-authorised");
            put(
                    lead,
                    "/api/users/me/absence",
                    "{\"deputy\":\"controller\",\"from\":\"%1$s\",\"until\":\"%1$s\"}".formatted(today));
            try {
                assertThat(controller
                                .post("/api/orders/" + order + "/reminders", "{}")
                                .status())
                        .isEqualTo(200);
                assertThat(controller
                                .post(approval, "{\"version\":%s}".formatted(version(order)))
                                .text("state"))
                        .isEqualTo("CLEARED");
                assertThat(clerk.get("/api/review/" + order)
                                .body()
                                .get("history")
                                .toString())
                        .contains("approved for the finance lead, as deputy");
            } finally {
                put(lead, "/api/users/me/absence", "{}");
            }
        }

        @Test
        void whoAreMentionedAreTold() throws Exception {
            var order = submit("NT-" + UUID.randomUUID(), 3);
            var text = "Ł\u00f3d\u017a asks, @controller2 please; not to ops@elsewhere";
            assertThat(controller
                            .post("/api/orders/" + order + "/notes", "{\"text\":\"%s\"}".formatted(text))
                            .body()
                            .get("told")
                            .toString())
                    .isEqualTo("[\"controller2\"]");
            assertThat(controller
                            .post("/api/orders/" + order + "/notes", "{\"text\":\"@nobody-of-ours look\"}")
                            .code())
                    .isEqualTo("incomplete");
            var message = clerk.get("/api/lists/mails/rows?filter=to:is:controller2")
                    .body()
                    .get("rows")
                    .get(0);
            assertThat(message.get("opens").asString()).isEqualTo(order);
            var eml = clerk.bytes("/api/outbox/" + message.get("key").asString() + "/eml");
            var read = new MimeMessage(Session.getInstance(new Properties()), new ByteArrayInputStream(eml));
            assertThat(read.getContent().toString().strip()).isEqualTo(text);
            assertThat(new String(eml, StandardCharsets.US_ASCII)).contains("controller2@euthyna.invalid");
        }
    }

    @Nested
    class Pages {

        /** More than a page of held orders: whatever the sorting, each comes once, and only those asked for. */
        @Test
        void ofReviewHoldEachOrderOnceInEverySorting() {
            for (int at = 0; at < 103; at++) {
                if (at % 10 == 0) {
                    // a new order has those looked at again that wait beside it
                    freshCustomerAndItem();
                    terms(",\"creditLimit\":0");
                }
                submit("PG-%d-%d".formatted(at, at * 7919), 1 + at % 3);
            }
            for (var sort : List.of("PRIORITY", "REQUESTED", "VALUE", "AGE")) {
                for (var only : List.of("HELD", "AWAITING", "MINE", "FLAGGED")) {
                    var seen = new ArrayList<String>();
                    var after = "";
                    do {
                        var page = controller.get("/api/review?sort=%s&only=%s&reason=credit-limit%s"
                                .formatted(sort, only, after.isEmpty() ? "" : "&after=" + after));
                        assertThat(page.status())
                                .as("%s %s: %s", sort, only, page.body())
                                .isEqualTo(200);
                        page.body()
                                .get("rows")
                                .forEach(row -> seen.add(row.get("number").asString()));
                        after = page.body().get("next").isNull()
                                ? ""
                                : page.body().get("next").asString();
                    } while (!after.isEmpty());
                    assertThat(seen).as("%s %s", sort, only).doesNotHaveDuplicates();
                    if (only.equals("HELD")) {
                        assertThat(seen).as(sort).hasSizeGreaterThanOrEqualTo(103);
                    }
                }
            }
        }

        @Test
        void ofCustomersAndItemsAreWholeAndPagedByKey() {
            assertThat(clerk.get("/api/customers/" + customer + "/sheet").text("name"))
                    .startsWith("Customer ");
            assertThat(clerk.get("/api/items/" + item + "/sheet")
                            .body()
                            .get("shelves")
                            .get(0)
                            .get("onHand")
                            .asString())
                    .isEqualTo("1000.000");
            put(
                    lead,
                    "/api/items/" + item + "/quotas",
                    "{\"scope\":\"CUSTOMER\",\"key\":\"%s\",\"from\":\"2020-01-01\",\"to\":\"2099-12-31\",\"granted\":10}"
                            .formatted(customer));
            submit("QT-1", 8);
            assertThat(clerk.get("/api/items/" + item + "/quotas")
                            .body()
                            .get(0)
                            .get("left")
                            .asString())
                    .isEqualTo("2");
            assertThat(open(submit("QT-2", 3))).containsExactly("quota");
            assertThat(clerk.get("/api/items/" + item + "/claims")
                            .body()
                            .get("rows")
                            .size())
                    .isEqualTo(1);
            long seen = 0;
            var after = "";
            do {
                var page = clerk.get("/api/lists/customers/rows" + (after.isEmpty() ? "" : "?after=" + after))
                        .body();
                seen += page.get("rows").size();
                after = page.get("next").isNull() ? "" : page.get("next").asString();
            } while (!after.isEmpty());
            assertThat(seen)
                    .isEqualTo(jdbc.sql("select count(*) from customer")
                            .query(Long.class)
                            .single());
        }
    }
}
