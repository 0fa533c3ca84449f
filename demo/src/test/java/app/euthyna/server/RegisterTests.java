package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Registers, and the ledger of the same days beside them. Others post on these days too, so growth is looked at. */
class RegisterTests extends OnServer {

    private static final int FIRST = -2;
    private static final int SECOND = -1;

    private final Map<String, BigDecimal> before = new HashMap<>();

    @BeforeEach
    void someDaysAgo() {
        itIsInDays(FIRST);
        for (var days : List.of(days(FIRST, FIRST), days(SECOND, SECOND), days(FIRST, SECOND))) {
            for (var register : List.of("sales-register", "receipts-register")) {
                totals(register, days)
                        .get("sums")
                        .properties()
                        .forEach(sum -> before.put(
                                register + days + sum.getKey(),
                                new BigDecimal(sum.getValue().asString())));
            }
        }
    }

    private JsonNode totals(String register, String filter) {
        var answer = auditor.get("/api/lists/" + register + "/totals?" + filter);
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.body();
    }

    private String days(int from, int to) {
        return "filter=enteredOn:between:%s..%s"
                .formatted(realToday().plusDays(from), realToday().plusDays(to));
    }

    /** A register of some days has grown by an amount, and the ledger with it. */
    private void grewBy(String register, String days, String figure, String amount) {
        var totals = totals(register, days);
        var sum = new BigDecimal(totals.get("sums").get(figure).asString());
        assertThat(sum.subtract(before.get(register + days + figure))).isEqualByComparingTo(amount);
        for (var tied : totals.get("proof").get("figures")) {
            if (tied.get("figure").asString().equals(figure)) {
                assertThat(new BigDecimal(tied.get("ledger").asString())).isEqualByComparingTo(sum);
                assertThat(new BigDecimal(tied.get("difference").asString())).isZero();
                return;
            }
        }
        throw new AssertionError(figure + " is not tied: " + totals);
    }

    private String billed(int quantity) {
        var order = cleared(quantity);
        var staged = warehouse
                .post(
                        "/api/dispatches",
                        "{\"order\":\"%s\",\"version\":%s}".formatted(order, versionOf("/api/orders/" + order)))
                .text("number");
        assertThat(warehouse
                        .post("/api/dispatches/" + staged + "/departure", "{\"version\":0}")
                        .status())
                .isEqualTo(200);
        return receivables
                .post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(order))
                .text("number");
    }

    private void takeBack(String kind, String number, String intent) {
        var asked = "\"kind\":\"%s\",\"number\":\"%s\",\"intent\":\"%s\",\"reason\":\"a mistake\""
                .formatted(kind, number, intent);
        var plan = lead.post("/api/unwind/plans", "{%s}".formatted(asked));
        assertThat(lead.post(
                                "/api/unwind/executions",
                                "{%s,\"fingerprint\":\"%s\"}".formatted(asked, plan.text("fingerprint")))
                        .status())
                .isEqualTo(200);
    }

    /** 10 at 10.00 and 4 at 10.00 with 21 % on one day; the second reversed on the next. */
    @Test
    void aReversalStandsOnItsOwnDay() {
        billed(10);
        var second = billed(4);
        grewBy("sales-register", days(FIRST, FIRST), "net", "140.00");
        grewBy("sales-register", days(FIRST, FIRST), "vat", "29.40");
        grewBy("sales-register", days(FIRST, FIRST), "gross", "169.40");
        itIsInDays(SECOND);
        takeBack("INVOICE", second, "take-back-invoice");
        grewBy("sales-register", days(FIRST, FIRST), "net", "140.00");
        grewBy("sales-register", days(SECOND, SECOND), "net", "-40.00");
        grewBy("sales-register", days(FIRST, SECOND), "gross", "121.00");
        var rows = auditor.get("/api/lists/sales-register/rows?columns=number,side,net&filter=customer:any:%s&%s"
                        .formatted(customer, days(FIRST, SECOND)))
                .body()
                .get("rows");
        assertThat(rows).hasSize(3);
        var latest = rows.get(0);
        assertThat(latest.get("opens").asString()).isEqualTo(second);
        assertThat(latest.get("kind").asString()).isEqualTo("INVOICE");
        assertThat(latest.get("cells").get("side").asString()).isEqualTo("REVERSED");
        assertThat(latest.get("cells").get("net").asString()).isEqualTo("-40.00");
    }

    private String received(String amount) {
        return receivables
                .post(
                        "/api/payments",
                        "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[]}".formatted(customer, amount))
                .text("number");
    }

    /** Money comes in, some of it is refunded, some turns out not to have come. */
    @Test
    void receiptsAreWhatTheBankMoved() {
        var payment = received("30.10");
        var bounced = received("5.05");
        grewBy("receipts-register", days(FIRST, FIRST), "amount", "35.15");
        itIsInDays(SECOND);
        assertThat(controller
                        .post(
                                "/api/refunds",
                                "{\"of\":\"%s\",\"version\":%s,\"reason\":\"asked for\"}"
                                        .formatted(payment, versionOf("/api/payments/" + payment)))
                        .status())
                .isEqualTo(200);
        takeBack("PAYMENT", bounced, "take-back-payment");
        grewBy("receipts-register", days(FIRST, FIRST), "amount", "35.15");
        grewBy("receipts-register", days(SECOND, SECOND), "amount", "-35.15");
        var rows = auditor.get("/api/lists/receipts-register/rows?sort=enteredOn&filter=customer:any:" + customer)
                .body()
                .get("rows");
        assertThat(rows)
                .extracting(row -> row.get("kind").asString())
                .as("what each opens")
                .containsExactlyInAnyOrder("PAYMENT", "PAYMENT", "PAYMENT", "REFUND");
    }

    private String openOn(int day) {
        return totals(
                        "open-invoices",
                        "filter=customer:any:%s&filter=asOf:at:%s"
                                .formatted(customer, realToday().plusDays(day)))
                .get("sums")
                .get("still")
                .asString();
    }

    /** Paid, and open anew since the payment bounced: a deposit that waited settles it on the day on which it does. */
    @Test
    void whatStoodAtTheEndOfADayStaysWhenADepositSettlesWhatIsOpenAnew() {
        var order = cleared(10);
        gone(order);
        var invoice = billed(order).text("number");
        var payment = paid(invoice, "121").text("number");
        assertThat(deposited(order, "50").status()).isEqualTo(200);
        takeBack("PAYMENT", payment, "take-back-payment");
        assertThat(openOn(FIRST)).isEqualTo("121.00");
        itIsInDays(SECOND);
        assertThat(deposited(order, "1").status()).isEqualTo(200);
        assertThat(openOn(SECOND)).isEqualTo("70.00");
        assertThat(openOn(FIRST)).isEqualTo("121.00");
    }

    /** Where rows are left out for another reason than their day, the ledger says nothing about the rest. */
    @Test
    void whatIsFilteredOtherwiseProvesNothing() {
        billed(2);
        assertThat(totals("sales-register", days(FIRST, FIRST) + "&filter=customer:any:" + customer)
                        .get("proof")
                        .isNull())
                .isTrue();
        var month = totals("sales-register", days(FIRST, SECOND) + "&filter=enteredOn:in:before-today");
        assertThat(month.get("proof").get("to").asString())
                .as("days that lie in both, told from the day that the clock shows")
                .isEqualTo(realToday().plusDays(FIRST - 1L).toString());
        grewBy("sales-register", days(FIRST, FIRST), "net", "20.00");
        assertThat(totals("orders", "").get("proof").isNull())
                .as("orders are no register")
                .isTrue();
    }

    @Test
    void clerksReadWhatWasBilledButNotTheLedger() {
        billed(2);
        var register = "/api/lists/sales-register/totals?" + days(FIRST, FIRST);
        assertThat(clerk.get(register).body().get("proof").isNull()).isTrue();
        assertThat(clerk.get(register).body().get("sums"))
                .isEqualTo(auditor.get(register).body().get("sums"));
        for (var list : auditor.get("/api/lists").body()) {
            assertThat(list.get("isRegister").asBoolean())
                    .as(list.toString())
                    .isEqualTo(list.get("name").asString().endsWith("-register")
                            || list.get("columns")
                                    .valueStream()
                                    .anyMatch(column ->
                                            column.get("kind").asString().equals("AS_OF")));
        }
        assertThat(clerk.get("/api/lists").body())
                .noneMatch(list -> list.get("isRegister").asBoolean());
        assertThat(warehouse.get(register).code()).isEqualTo("not-authorised");
    }
}
