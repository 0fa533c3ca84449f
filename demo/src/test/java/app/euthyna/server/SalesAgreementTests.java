package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Quotes, blanket orders and recurring orders over REST and a real database. */
class SalesAgreementTests extends OnServer {

    private static LocalDate today() {
        return LocalDate.now(ZoneId.systemDefault());
    }

    private Rest.Answer write(String kind, String more, String lines) {
        return clerk.post(
                "/api/sales-agreements",
                "{\"kind\":\"%s\",\"content\":{\"customer\":\"%s\",\"po\":\"BL-%s\",\"from\":\"%s\",\"until\":\"%s\",\"lines\":[%s]%s}}"
                        .formatted(kind, customer, item, today().minusDays(10), today().plusDays(90), lines, more));
    }

    private String line(String more) {
        return "{\"item\":\"%s\"%s}".formatted(item, more);
    }

    private JsonNode agreement(String number) {
        return clerk.get("/api/sales-agreements/" + number).body();
    }

    private Rest.Answer make(String number, String more) {
        return clerk.post(
                "/api/sales-agreements/" + number + "/orders",
                "{\"version\":%s%s}".formatted(agreement(number).get("version").asString(), more));
    }

    private static List<String> texts(JsonNode rows, String field) {
        var texts = new ArrayList<String>();
        rows.forEach(row -> texts.add(row.get(field).asString()));
        return texts;
    }

    @Test
    void quotesBecomeAnOrderOnceWithOtherQuantitiesAndTheLink() {
        var quote = write("QUOTE", "", line(",\"quantity\":5,\"price\":9") + "," + line(",\"quantity\":2"))
                .text("number");
        assertThat(agreement(quote).get("net").asString()).isEqualTo("65.00");
        var order = make(quote, ",\"lines\":[{\"line\":1,\"quantity\":4}],\"po\":\"Q-PO\",\"submit\":true");
        assertThat(order.text("state")).isEqualTo("CLEARED");
        assertThat(order.text("net")).isEqualTo("36.00");
        assertThat(order.body().get("lines").get(0).get("source").get("number").asString())
                .isEqualTo(quote);
        assertThat(agreement(quote).get("state").asString()).isEqualTo("ORDERED");
        assertThat(texts(agreement(quote).get("orders"), "number")).containsExactly(order.text("number"));
        assertThat(make(quote, "").code()).isEqualTo("agreement-closed");
        assertThat(clerk.get("/api/trails/QUOTE/" + quote).body().toString()).contains(order.text("number"));
        var lost = write("QUOTE", "", line(",\"quantity\":5")).text("number");
        assertThat(clerk.post("/api/sales-agreements/" + lost + "/closing", "{\"version\":0}")
                        .code())
                .isEqualTo("incomplete");
        assertThat(clerk.post("/api/sales-agreements/" + lost + "/closing", "{\"version\":0,\"reason\":\"too dear\"}")
                        .text("state"))
                .isEqualTo("LOST");
        assertThat(clerk.get("/api/sales-agreements?state=LOST&customer=" + customer)
                        .body()
                        .get("rows")
                        .get(0)
                        .get("nextDue")
                        .isNull())
                .as("of a lost quote nothing is due any more")
                .isTrue();
        assertThat(agreement(lost).get("changes").toString()).contains("lost: too dear");
        assertThat(write("QUOTE", "", "").code()).isEqualTo("incomplete");
        var again = clerk.post("/api/orders/started", "{\"kind\":\"QUOTE\",\"number\":\"%s\"}".formatted(lost));
        assertThat(again.text("state")).isEqualTo("DRAFT");
        assertThat(again.body().get("lines").get(0).get("source").get("number").asString())
                .as("a lost quote can still be started from")
                .isEqualTo(lost);
        assertThat(agreement(lost).get("orders").size()).isZero();
    }

    @Test
    void quotesThatHaveExpiredGiveNoOrder() {
        var quote = write("QUOTE", "", line(",\"quantity\":5")).text("number");
        itIsInDays(91);
        assertThat(make(quote, "").code()).isEqualTo("agreement-not-valid");
    }

    /** 100 agreed, 30 due today and 30 in a month, for 900 in all. */
    private String agreedOnAHundred() {
        var schedule = "{\"on\":\"%s\",\"line\":1,\"quantity\":30}";
        return write(
                        "BLANKET_ORDER",
                        ",\"ceiling\":900,\"schedule\":[%s,%s]"
                                .formatted(schedule.formatted(today()), schedule.formatted(today().plusDays(30))),
                        line(",\"quantity\":100"))
                .text("number");
    }

    private String leftOf(String blanket) {
        return agreement(blanket).get("lines").get(0).get("left").asString();
    }

    /** What is called off counts until it is cancelled, under one PO that never counts as repeated. */
    @Test
    void blanketOrdersTellWhatIsLeftAndKeepTheirSchedule() {
        var blanket = agreedOnAHundred();
        assertThat(texts(
                        clerk.get("/api/sales-agreements?due=true&customer=" + customer)
                                .body()
                                .get("rows"),
                        "number"))
                .containsExactly(blanket);
        var first = make(blanket, ",\"submit\":true");
        assertThat(first.text("kind")).isEqualTo("CALL_OFF");
        assertThat(first.text("net")).isEqualTo("300.00");
        assertThat(agreement(blanket).get("nextDue").asString())
                .isEqualTo(today().plusDays(30).toString());
        assertThat(clerk.get("/api/sales-agreements?due=true&customer=" + customer)
                        .body()
                        .get("rows")
                        .size())
                .isZero();
        var second = make(blanket, ",\"lines\":[{\"line\":1,\"quantity\":50}],\"submit\":true");
        assertThat(second.text("state"))
                .as("the same PO, called off the same blanket order")
                .isEqualTo("CLEARED");
        assertThat(leftOf(blanket)).isEqualTo("20");
        assertThat(agreement(blanket).get("leftInValue").asString()).isEqualTo("100.00");
        assertThat(make(blanket, ",\"lines\":[{\"line\":1,\"quantity\":11}]").code())
                .isEqualTo("more-than-left");
        var raised = clerk.send(
                "PUT",
                "/api/orders/" + second.text("number"),
                "{\"version\":%s,\"lines\":[{\"no\":1,\"quantity\":61}]}"
                        .formatted(clerk.get("/api/orders/" + second.text("number"))
                                .text("version")),
                UUID.randomUUID().toString());
        assertThat(raised.code()).isEqualTo("more-than-left");
        var plan = controller
                .post(
                        "/api/unwind/plans",
                        "{\"kind\":\"ORDER\",\"number\":\"%s\",\"intent\":\"cancel-order\",\"reason\":\"not needed\"}"
                                .formatted(second.text("number")))
                .text("fingerprint");
        controller.post(
                "/api/unwind/executions",
                "{\"kind\":\"ORDER\",\"number\":\"%s\",\"intent\":\"cancel-order\",\"reason\":\"not needed\",\"fingerprint\":\"%s\"}"
                        .formatted(second.text("number"), plan));
        assertThat(leftOf(blanket)).isEqualTo("70");
        var other = clerk.post(
                "/api/orders",
                "{\"customer\":\"%s\",\"po\":\"BL-%s\",\"lines\":[%s]}"
                        .formatted(customer, item, line(",\"quantity\":1")));
        assertThat(other.text("state"))
                .as("an order beside the blanket order repeats its PO")
                .isEqualTo("HELD");
    }

    /** Ended or written smaller, it never falls below what was called off. */
    @Test
    void blanketOrdersAreNeverWrittenBelowWhatWasCalledOff() {
        var blanket = agreedOnAHundred();
        make(blanket, ",\"submit\":true");
        var version = agreement(blanket).get("version").asString();
        var less = "{\"version\":%s,\"content\":{\"customer\":\"%s\",\"from\":\"%s\",\"until\":\"%s\",\"lines\":[%s]}}";
        assertThat(clerk.send(
                                "PUT",
                                "/api/sales-agreements/" + blanket,
                                less.formatted(
                                        version, customer, today(), today().plusDays(9), line(",\"quantity\":29")),
                                UUID.randomUUID().toString())
                        .code())
                .isEqualTo("more-than-left");
        assertThat(clerk.send(
                                "PUT",
                                "/api/sales-agreements/" + blanket,
                                less.formatted(
                                        version, customer, today(), today().plusDays(9), line(",\"quantity\":30")),
                                UUID.randomUUID().toString())
                        .body()
                        .get("changes")
                        .get(0)
                        .get("sentence")
                        .asString())
                .contains("lines from 1: 100")
                .contains("value from EUR 900.00 to none");
        assertThat(make(blanket, "").code()).isEqualTo("incomplete");
    }

    @Test
    void recurringOrdersAreProposedWhenDueAndMadeOrPassedOver() {
        var recurring = write("RECURRING_ORDER", ",\"every\":1,\"unit\":\"WEEK\"", line(",\"quantity\":2"))
                .text("number");
        assertThat(agreement(recurring).get("due").asBoolean()).isTrue();
        assertThat(make(recurring, ",\"lines\":[{\"line\":1,\"quantity\":3}]").text("state"))
                .as("nothing is submitted behind one's back")
                .isEqualTo("DRAFT");
        assertThat(agreement(recurring).get("nextDue").asString())
                .isEqualTo(today().minusDays(3).toString());
        var skipped = clerk.post(
                "/api/sales-agreements/" + recurring + "/skips",
                "{\"version\":%s}".formatted(agreement(recurring).get("version").asString()));
        assertThat(skipped.text("nextDue")).isEqualTo(today().plusDays(4).toString());
        assertThat(skipped.body().get("due").asBoolean()).isFalse();
        assertThat(clerk.post("/api/sales-agreements/" + recurring + "/skips", "{\"version\":0}")
                        .code())
                .isEqualTo("stale-version");
        assertThat(write("RECURRING_ORDER", "", line(",\"quantity\":2")).code()).isEqualTo("incomplete");
    }

    /** Eight at once each want 30 of 100. */
    @Test
    void twoWhoCallOffAtOnceDoNotBothTakeTheLastOfIt() throws Exception {
        var blanket = write("BLANKET_ORDER", "", line(",\"quantity\":100")).text("number");
        var pool = Executors.newFixedThreadPool(8);
        try {
            var calls = new ArrayList<Callable<Integer>>();
            for (int at = 0; at < 8; at++) {
                calls.add(() -> {
                    for (int again = 0; again < 20; again++) {
                        var answer = make(blanket, ",\"lines\":[{\"line\":1,\"quantity\":30}]");
                        if (!answer.code().equals("stale-version")) {
                            return answer.status();
                        }
                    }
                    return 0;
                });
            }
            var statuses = new ArrayList<Integer>();
            for (var future : pool.invokeAll(calls)) {
                statuses.add(future.get());
            }
            assertThat(statuses.stream().filter(status -> status == 200)).hasSize(3);
        } finally {
            pool.shutdownNow();
        }
        assertThat(leftOf(blanket)).isEqualTo("10");
    }
}
