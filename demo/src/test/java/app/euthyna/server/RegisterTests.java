package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Registers, and the ledger of the same days beside them. Days lie far ahead, where no other test posts. */
class RegisterTests extends OnServer {

    private static final int AHEAD = 400;

    @BeforeEach
    void lateDays() {
        itIsInDays(AHEAD);
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

    private static void ties(JsonNode totals, String figure, String amount) {
        assertThat(totals.get("sums").get(figure).asString()).isEqualTo(amount);
        for (var tied : totals.get("proof").get("figures")) {
            if (tied.get("figure").asString().equals(figure)) {
                assertThat(new BigDecimal(tied.get("ledger").asString())).isEqualByComparingTo(amount);
                assertThat(new BigDecimal(tied.get("difference").asString())).isZero();
                return;
            }
        }
        throw new AssertionError(figure + " is not tied: " + totals);
    }

    private String billed(int quantity) {
        var order = cleared(quantity);
        depart(order);
        return receivables
                .post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(order))
                .text("number");
    }

    private void depart(String order) {
        var staged = warehouse
                .post(
                        "/api/dispatches",
                        "{\"order\":\"%s\",\"version\":%s}".formatted(order, versionOf("/api/orders/" + order)))
                .text("number");
        assertThat(warehouse
                        .post("/api/dispatches/" + staged + "/departure", "{\"version\":0}")
                        .status())
                .isEqualTo(200);
    }

    private void takeBack(String invoice) {
        var asked = "\"kind\":\"INVOICE\",\"number\":\"%s\",\"intent\":\"take-back-invoice\",\"reason\":\"wrong price\""
                .formatted(invoice);
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
        var first = totals("sales-register", days(AHEAD, AHEAD));
        ties(first, "net", "140.00");
        ties(first, "vat", "29.40");
        ties(first, "gross", "169.40");
        itIsInDays(AHEAD + 1);
        takeBack(second);
        ties(totals("sales-register", days(AHEAD, AHEAD)), "net", "140.00");
        ties(totals("sales-register", days(AHEAD + 1, AHEAD + 1)), "net", "-40.00");
        var both = totals("sales-register", days(AHEAD, AHEAD + 1));
        assertThat(both.get("count").asInt()).isEqualTo(3);
        ties(both, "gross", "121.00");
        var rows = auditor.get("/api/lists/sales-register/rows?sort=enteredOn&columns=number,side,net&"
                        + days(AHEAD + 1, AHEAD + 1))
                .body()
                .get("rows");
        assertThat(rows).hasSize(1);
        assertThat(rows.get(0).get("opens").asString()).isEqualTo(second);
        assertThat(rows.get(0).get("kind").asString()).isEqualTo("INVOICE");
        assertThat(rows.get(0).get("cells").get("side").asString()).isEqualTo("REVERSED");
    }

    /** Money comes in, a part goes back as credit, some of it turns out not to have come. */
    @Test
    void receiptsAreWhatTheBankMoved() {
        itIsInDays(AHEAD + 10);
        var payment = receivables
                .post("/api/payments", "{\"customer\":\"%s\",\"amount\":30.10,\"allocate\":[]}".formatted(customer))
                .text("number");
        receivables.post("/api/payments", "{\"customer\":\"%s\",\"amount\":5.05,\"allocate\":[]}".formatted(customer));
        itIsInDays(AHEAD + 11);
        assertThat(controller
                        .post(
                                "/api/refunds",
                                "{\"of\":\"%s\",\"version\":%s,\"reason\":\"asked for\"}"
                                        .formatted(payment, versionOf("/api/payments/" + payment)))
                        .status())
                .isEqualTo(200);
        ties(totals("receipts-register", days(AHEAD + 10, AHEAD + 10)), "amount", "35.15");
        ties(totals("receipts-register", days(AHEAD + 11, AHEAD + 11)), "amount", "-30.10");
        var kinds = auditor.get("/api/lists/receipts-register/rows?sort=enteredOn&" + days(AHEAD + 10, AHEAD + 11))
                .body()
                .get("rows");
        assertThat(kinds).hasSize(3);
        assertThat(kinds.get(2).get("kind").asString()).as("what it opens").isEqualTo("REFUND");
    }

    /** Where rows are left out for another reason than their day, the ledger says nothing about the rest. */
    @Test
    void whatIsFilteredOtherwiseProvesNothing() {
        itIsInDays(AHEAD + 20);
        billed(2);
        var day = days(AHEAD + 20, AHEAD + 20);
        assertThat(totals("sales-register", day + "&filter=customer:any:" + customer)
                        .get("proof")
                        .isNull())
                .isTrue();
        ties(totals("sales-register", day + "&filter=enteredOn:in:today"), "net", "20.00");
        assertThat(totals("orders", "").get("proof").isNull())
                .as("orders are no register")
                .isTrue();
        for (var list : auditor.get("/api/lists").body()) {
            assertThat(list.get("isRegister").asBoolean())
                    .as(list.toString())
                    .isEqualTo(list.get("name").asString().endsWith("-register"));
        }
    }
}
