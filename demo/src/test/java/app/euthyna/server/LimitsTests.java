package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Role;
import app.euthyna.server.people.People;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/**
 * What roles do on their own word (section 15): refunds of receivables up to 500 and of a controller up to 5,000, goods
 * for nothing of a clerk up to 100 and of a controller up to 1,000 at list price; the item lists at 10.00.
 */
@Order(1)
class LimitsTests extends OnServer {

    @Autowired
    private People people;

    private Rest controller2;
    private Rest clerk2;

    /** The roles of who wrote an order are those that the application knows. */
    @BeforeEach
    void known() {
        controller2 = new Rest(mvc, "controller2", "CONTROLLER");
        clerk2 = new Rest(mvc, "clerk2", "CLERK");
        for (var user : List.of(clerk, clerk2, controller, controller2, lead)) {
            if (!people.exists(user.username())) {
                people.add(user.username(), user.username(), UUID.randomUUID().toString(), Role.valueOf(user.role()));
            }
        }
    }

    /** Those of a new company. */
    @BeforeEach
    void limits() {
        limits(
                "[{\"role\":\"RECEIVABLES\",\"amount\":500},{\"role\":\"CONTROLLER\",\"amount\":5000}]",
                "[{\"role\":\"CLERK\",\"amount\":100},{\"role\":\"CONTROLLER\",\"amount\":1000}]");
    }

    @AfterEach
    void noLimits() {
        limits("[]", "[]");
    }

    private String version(String number) {
        return versionOf("/api/orders/" + number);
    }

    private String state(String number) {
        return clerk.get("/api/orders/" + number).text("state");
    }

    private Rest.Answer written(Rest by, String kind, int quantity, String details) {
        return by.post(
                "/api/orders",
                "{\"customer\":\"%s\",\"po\":\"L-%s\",\"kind\":\"%s\",\"details\":{%s},\"lines\":[{\"item\":\"%s\",\"quantity\":%d,\"price\":0}]}"
                        .formatted(customer, UUID.randomUUID(), kind, details, item, quantity));
    }

    /** The only line at another quantity. */
    private Rest.Answer changed(Rest by, String order, int quantity) {
        return by.send(
                "PUT",
                "/api/orders/" + order,
                "{\"version\":%s,\"lines\":[{\"no\":1,\"item\":\"%s\",\"quantity\":%d,\"price\":0}]}"
                        .formatted(version(order), item, quantity),
                UUID.randomUUID().toString());
    }

    private Rest.Answer decided(Rest by, String order, String how) {
        return by.post(
                "/api/orders/" + order + "/" + how, "{\"version\":%s,\"reason\":\"agreed\"}".formatted(version(order)));
    }

    @Nested
    class GoodsForNothing {

        @Test
        void needSomebodyWhoseLimitCoversThem() {
            assertThat(written(clerk, "SAMPLE", 10, "").text("state"))
                    .as("100.00 at list price")
                    .isEqualTo("CLEARED");
            var more = written(clerk, "SAMPLE", 11, "").text("number");
            assertThat(state(more)).isEqualTo("AWAITING_APPROVAL");
            assertThat(staged(more).code()).isEqualTo("not-cleared");
            assertThat(decided(clerk, more, "approvals").code()).isEqualTo("not-authorised");
            assertThat(decided(controller, more, "approvals").status()).isEqualTo(200);
            assertThat(state(more)).isEqualTo("CLEARED");

            var much = written(clerk, "SAMPLE", 101, "").text("number");
            assertThat(decided(controller, much, "approvals").code())
                    .as("1,010.00 is above the limit of a controller")
                    .isEqualTo("not-authorised");
            assertThat(decided(lead, much, "approvals").status()).isEqualTo(200);
            assertThat(state(much)).isEqualTo("CLEARED");

            assertThat(written(controller, "SAMPLE", 100, "").text("state")).isEqualTo("CLEARED");
            assertThat(written(controller, "SAMPLE", 101, "").text("state")).isEqualTo("AWAITING_APPROVAL");
            assertThat(written(lead, "SAMPLE", 101, "").text("state")).isEqualTo("CLEARED");
        }

        /** Of a limit of 100: 60, and 50 more within 30 days needs another; what that one agreed to counts no more. */
        @Test
        void addUpForOneCustomer() {
            assertThat(written(clerk, "SAMPLE", 6, "").text("state")).isEqualTo("CLEARED");
            var more = written(clerk, "SAMPLE", 5, "").text("number");
            assertThat(state(more)).isEqualTo("AWAITING_APPROVAL");
            assertThat(clerk.get("/api/review/" + more).body().toString())
                    .contains("goods for nothing are EUR 50.00 at list price, EUR 110.00 with those of 30 days");
            assertThat(decided(controller, more, "approvals").status()).isEqualTo(200);
            assertThat(written(clerk, "SAMPLE", 4, "").text("state"))
                    .as("60 and 40, and 50 that a controller agreed to")
                    .isEqualTo("CLEARED");
            assertThat(written(clerk, "SAMPLE", 1, "").text("state")).isEqualTo("AWAITING_APPROVAL");
            assertThat(written(clerk2, "SAMPLE", 10, "").text("state"))
                    .as("somebody else's")
                    .isEqualTo("CLEARED");
            itIsInDays(31);
            assertThat(written(clerk, "SAMPLE", 10, "").text("state")).isEqualTo("CLEARED");
        }

        /**
         * A line at no charge on an ordinary order is held, and waived by a controller: the value is looked at then.
         */
        @Test
        void countOnOrdersOfEveryKind() {
            var order = written(clerk, "STANDARD", 101, "").text("number");
            assertThat(state(order)).isEqualTo("HELD");
            assertThat(controller
                            .post(
                                    "/api/orders/" + order + "/waivers",
                                    "{\"version\":%s,\"reason\":\"a gift\",\"findings\":[\"zero-price\"]}"
                                            .formatted(version(order)))
                            .status())
                    .isEqualTo(200);
            assertThat(state(order)).isEqualTo("AWAITING_APPROVAL");
            assertThat(decided(controller2, order, "approvals").code()).isEqualTo("not-authorised");
        }

        /** A clerk's order stays a clerk's, whoever touches it. */
        @Test
        void countByTheLowestLimitOfAllWhoWroteThem() {
            var order = written(clerk, "SAMPLE", 11, "").text("number");
            assertThat(decided(controller, order, "send-backs").status()).isEqualTo(200);
            assertThat(changed(controller, order, 12).status()).isEqualTo(200);
            assertThat(clerk.post("/api/orders/" + order + "/submission", "{\"version\":%s}".formatted(version(order)))
                            .text("state"))
                    .isEqualTo("AWAITING_APPROVAL");
            assertThat(decided(controller, order, "approvals").code()).isEqualTo("four-eyes");
            assertThat(decided(controller2, order, "approvals").status()).isEqualTo(200);
        }
    }

    @Nested
    class Replacements {

        private String replacing(String number) {
            return "\"replaces\":\"" + number + "\"";
        }

        @Test
        void nameADepartedDispatchAndTakeNoMoreThanItHas() {
            var order = cleared(5);
            var note = staged(order).text("number");
            assertThat(written(clerk, "REPLACEMENT", 1, "").code()).isEqualTo("incomplete");
            assertThat(written(clerk, "REPLACEMENT", 1, replacing(note)).code())
                    .as("it has not departed")
                    .isEqualTo("not-found");
            assertThat(warehouse
                            .post("/api/dispatches/" + note + "/departure", "{\"version\":0}")
                            .status())
                    .isEqualTo(200);
            assertThat(written(clerk, "REPLACEMENT", 6, replacing(note)).code()).isEqualTo("more-than-dispatched");
            var three = written(clerk, "REPLACEMENT", 3, replacing(note));
            assertThat(three.text("state")).isEqualTo("CLEARED");
            assertThat(three.body().get("details").get("replaces").asString()).isEqualTo(note);
            assertThat(written(clerk, "REPLACEMENT", 3, replacing(note)).code())
                    .as("two are left to replace")
                    .isEqualTo("more-than-dispatched");
            assertThat(changed(clerk, three.text("number"), 6).code())
                    .as("a change takes no more either")
                    .isEqualTo("more-than-dispatched");
            var plan = """
                    {"kind":"ORDER","number":"%s","intent":"cancel-order","reason":"not wanted","reasonCode":"other"}\
                    """.formatted(three.text("number"));
            var bound = controller.post("/api/unwind/plans", plan).text("fingerprint");
            assertThat(controller
                            .post(
                                    "/api/unwind/executions",
                                    plan.substring(0, plan.length() - 1) + ",\"fingerprint\":\"" + bound + "\"}")
                            .status())
                    .isEqualTo(200);
            assertThat(written(clerk, "REPLACEMENT", 5, replacing(note)).text("state"))
                    .as("what was cancelled can be replaced again")
                    .isEqualTo("CLEARED");
        }

        @Test
        void comeFromFilesToo() {
            var note = gone(cleared(5));
            var file = "reference,customer,item,quantity,price,kind,po,replaces\n%s,%s,%s,2,0,replacement,F-%s,%s\n";
            var without = UUID.randomUUID().toString();
            assertThat(clerk.upload(file.formatted(without, customer, item, without, ""), "?whole=true")
                            .body()
                            .get("refused")
                            .asInt())
                    .isEqualTo(1);
            var with = UUID.randomUUID().toString();
            assertThat(clerk.upload(file.formatted(with, customer, item, with, note), "?whole=true")
                            .body()
                            .get("taken")
                            .asInt())
                    .isEqualTo(1);
        }

        @Test
        void areOfTheSameCustomer() {
            var note = gone(cleared(5));
            freshCustomerAndItem();
            assertThat(written(clerk, "REPLACEMENT", 1, replacing(note)).code()).isEqualTo("wrong-customer");
        }

        @Test
        void ofAReturnTakeNoMoreThanCameOrIsToCome() {
            var order = cleared(5);
            var note = gone(order);
            var goods = receivables.post("/api/returns", """
                            {"reason":"damaged","lines":[{"dispatch":"%s","line":1,"quantity":2}]}\
                            """.formatted(note));
            assertThat(goods.status()).as("%s", goods.body()).isEqualTo(200);
            var number = goods.text("number");
            assertThat(written(clerk, "REPLACEMENT", 3, replacing(number)).code())
                    .isEqualTo("more-than-returnable");
            var draft = clerk.post("/api/orders/started", "{\"kind\":\"RETURN\",\"number\":\"%s\"}".formatted(number));
            assertThat(draft.body().get("details").get("replaces").asString()).isEqualTo(number);
            assertThat(clerk.post(
                                    "/api/orders/" + draft.text("number") + "/submission",
                                    "{\"version\":%s}".formatted(draft.text("version")))
                            .text("state"))
                    .isEqualTo("CLEARED");
            assertThat(written(clerk, "REPLACEMENT", 1, replacing(number)).code())
                    .as("both are replaced")
                    .isEqualTo("more-than-returnable");
        }
    }

    @Nested
    class Refunds {

        private JsonNode paid(Rest by, String amount) {
            return by.post("/api/payments", "{\"customer\":\"%s\",\"amount\":%s}".formatted(customer, amount))
                    .body();
        }

        private Rest.Answer refunded(Rest by, JsonNode payment, String amount, String more) {
            return by.post(
                    "/api/refunds",
                    "{\"of\":\"%s\",\"version\":%s,\"amount\":%s,\"reason\":\"overpaid\"%s}"
                            .formatted(
                                    payment.get("number").asString(),
                                    versionOf("/api/payments/"
                                            + payment.get("number").asString()),
                                    amount,
                                    more));
        }

        @Test
        void goByRoleAndAddUpOverPaymentsAndDatesOnPaper() {
            clock.set(realToday().minusDays(40));
            var first = paid(controller, "2000");
            var second = paid(controller, "2000");
            clock.reset();
            assertThat(refunded(receivables, first, "500.01", "").code()).isEqualTo("limit-of-person");
            assertThat(refunded(
                                    receivables,
                                    first,
                                    "300",
                                    ",\"date\":\"%s\"".formatted(realToday().minusDays(31)))
                            .status())
                    .isEqualTo(200);
            assertThat(refunded(receivables, second, "200.01", "").code())
                    .as("whatever the day on paper, it was refunded today")
                    .isEqualTo("limit-of-person");
            assertThat(refunded(receivables, second, "200", "").status()).isEqualTo(200);
            itIsInDays(31);
            assertThat(refunded(receivables, second, "500", "").status()).isEqualTo(200);
        }

        /** Whoever recorded the money does not give it back, in a plan neither, nor by way of a credit note. */
        @Test
        void inPlansWaitForOtherEyesThanThoseThatRecordedTheMoney() {
            var order = cleared(10);
            gone(order);
            var invoice = billed(order).text("number");
            assertThat(controller
                            .post("/api/payments", """
                                    {"customer":"%s","amount":121,"allocate":[{"invoice":"%s","amount":121}]}\
                                    """.formatted(customer, invoice))
                            .status())
                    .isEqualTo(200);
            var asked = """
                {"kind":"INVOICE","number":"%s","intent":"take-back-invoice","reason":"in error",\
                "reasonCode":"billed-in-error","money":"refund"}\
                """.formatted(invoice).strip();
            var plan = controller.post("/api/unwind/plans", asked);
            assertThat(plan.body().toString()).contains("once another person approves; controller recorded the money");
            var done = controller.post(
                    "/api/unwind/executions",
                    asked.substring(0, asked.length() - 1) + ",\"fingerprint\":\"" + plan.text("fingerprint") + "\"}");
            assertThat(done.text("waitsAt")).isEqualTo("refund");
            var waiting = auditor.get("/api/unwind/done?order=" + order)
                    .body()
                    .get("rows")
                    .get(0);
            var path = "/api/unwind/waiting/" + waiting.get("id").asString() + "/decisions";
            var body = "{\"version\":%s}".formatted(waiting.get("version").asString());
            assertThat(controller.post(path, body).code()).isEqualTo("four-eyes");
            var before = balances();
            assertThat(controller2.post(path, body).text("state")).isEqualTo("DONE");
            assertThat(moved(before, balances())).isEqualTo(Map.of("bank", "-121.00", "customer_credit", "121.00"));
        }

        @Test
        void ofWhatACreditNoteSetFreeAreForOthersThanWhoRecordedThePayment() {
            var order = cleared(10);
            gone(order);
            var invoice = billed(order).text("number");
            assertThat(receivables
                            .post("/api/payments", """
                                    {"customer":"%s","amount":121,"allocate":[{"invoice":"%s","amount":121}]}\
                                    """.formatted(customer, invoice))
                            .status())
                    .isEqualTo(200);
            var note = controller.post("/api/credit-notes", """
                    {"ofInvoice":"%s","reason":"spoilt","lines":[{"line":1,"amount":10}]}\
                    """.formatted(invoice));
            assertThat(note.status()).as("%s", note.body()).isEqualTo(200);
            var free = jdbc.sql("select number from payment where kind = 'CREDIT_NOTE' and left_amount > 0"
                            + " and customer_id = (select id from customer where code = ?)")
                    .param(customer)
                    .query(String.class)
                    .single();
            var credit = auditor.get("/api/payments/" + free).body();
            assertThat(refunded(receivables, credit, "12.10", "").code()).isEqualTo("four-eyes");
            assertThat(refunded(controller, credit, "12.10", "").status()).isEqualTo(200);
        }
    }

    /**
     * Nobody decides on what they changed until somebody else has agreed to it; whoever wrote it never does (section
     * 6).
     */
    @Test
    void whoChangedAnOrderDecidesOnItAgainOnceAnotherAgreed() {
        var order = written(clerk, "SAMPLE", 11, "").text("number");
        assertThat(decided(controller, order, "send-backs").status()).isEqualTo(200);
        assertThat(changed(controller, order, 12).status()).isEqualTo(200);
        clerk.post("/api/orders/" + order + "/submission", "{\"version\":%s}".formatted(version(order)));
        assertThat(decided(controller, order, "approvals").code()).isEqualTo("four-eyes");
        assertThat(decided(controller2, order, "approvals").status()).isEqualTo(200);
        block();
        assertThat(state(order)).isEqualTo("HELD");
        var waiver = "{\"version\":%s,\"reason\":\"agreed\",\"findings\":[\"blocked\"]}".formatted(version(order));
        assertThat(new Rest(mvc, "clerk", "CONTROLLER")
                        .post("/api/orders/" + order + "/waivers", waiver)
                        .code())
                .isEqualTo("four-eyes");
        assertThat(controller.post("/api/orders/" + order + "/waivers", waiver).status())
                .isEqualTo(200);
        assertThat(state(order)).isEqualTo("CLEARED");
    }

    private void block() {
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":100000,\"blocked\":\"in dispute\"}"
                                        .formatted(versionOf("/api/customers/" + customer)),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
    }
}
