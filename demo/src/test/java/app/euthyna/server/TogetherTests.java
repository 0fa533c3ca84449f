package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Many documents written off or taken back at once: seen before, each carried out on its own, and none of them twice.
 */
class TogetherTests extends OnReturns {

    /** Invoices that are paid but for these amounts. */
    private List<String> left(String... amounts) {
        return Stream.of(amounts)
                .map(amount -> {
                    var invoice = sold(2).invoice();
                    var paid = new BigDecimal(
                                    auditor.get("/api/invoices/" + invoice).text("open"))
                            .subtract(new BigDecimal(amount));
                    var payment = paid(invoice, paid.toString());
                    assertThat(payment.status()).as("%s", payment.body()).isEqualTo(200);
                    return invoice;
                })
                .toList();
    }

    private Rest.Answer lookedAt(Rest who, String kind, List<String> invoices) {
        return who.post(
                "/api/batches/write-offs/previews",
                "{\"kind\":\"%s\",\"invoices\":[\"%s\"]}".formatted(kind, String.join("\",\"", invoices)));
    }

    /** What of a preview can be written off, as it was looked at. */
    private Rest.Answer writtenOff(Rest who, String kind, Rest.Answer looked) {
        var planned = looked.body()
                .get("invoices")
                .valueStream()
                .filter(one -> one.get("why").isNull())
                .map(one -> "{\"invoice\":\"%s\",\"version\":%s,\"amount\":%s}"
                        .formatted(
                                one.get("invoice").asString(),
                                one.get("version").asString(),
                                one.get("amount").asString()))
                .toList();
        return who.post(
                "/api/batches/write-offs",
                "{\"kind\":\"%s\",\"invoices\":[%s],\"reason\":\"bank charges\"}"
                        .formatted(kind, String.join(",", planned)));
    }

    private static List<String> each(JsonNode rows, String field) {
        return rows.valueStream()
                .map(row -> row.get(field).isNull() ? "" : row.get(field).asString())
                .toList();
    }

    private static List<String> outcomes(Rest.Answer batch) {
        return batch.body()
                .get("entries")
                .valueStream()
                .map(entry ->
                        entry.get("state").asString() + " " + entry.get("code").asString())
                .toList();
    }

    private Rest.Answer takenBack(Rest who, String kind, String intent, Rest.Answer preview) {
        var planned = preview.body()
                .get("documents")
                .valueStream()
                .filter(one -> one.get("why").isNull())
                .map(one -> "{\"number\":\"%s\",\"fingerprint\":\"%s\"}"
                        .formatted(
                                one.get("number").asString(),
                                one.get("fingerprint").asString()))
                .toList();
        return who.post(
                "/api/unwind/together/executions",
                "{\"kind\":\"%s\",\"intent\":\"%s\",\"documents\":[%s],\"reasonCode\":\"entered-in-error\",\"reason\":\"paid after all\"}"
                        .formatted(kind, intent, String.join(",", planned)));
    }

    private Rest.Answer toTakeBack(Rest who, String kind, String intent, List<String> numbers) {
        return who.post(
                "/api/unwind/together/previews",
                "{\"kind\":\"%s\",\"intent\":\"%s\",\"numbers\":[\"%s\"]}"
                        .formatted(kind, intent, String.join("\",\"", numbers)));
    }

    @Test
    void smallDifferencesAreWrittenOffAndTakenBackTogether() {
        var invoices = left("0.40", "0.60", "1.20", "0.30");
        var looked = lookedAt(receivables, "SMALL_DIFFERENCE", invoices);
        assertThat(looked.text("total")).isEqualTo("1.30");
        assertThat(each(looked.body().get("invoices"), "code")).containsExactly("", "", "limit-of-person", "");
        assertThat(paid(invoices.get(3), "0.30").status()).isEqualTo(200);
        var before = balances();
        var done = writtenOff(receivables, "SMALL_DIFFERENCE", looked);
        assertThat(outcomes(done))
                .as("what was paid since is left alone")
                .containsExactly("DONE ", "DONE ", "REFUSED stale-version");
        assertThat(moved(before, balances())).isEqualTo(Map.of("payment_differences", "1.00", "receivables", "-1.00"));
        var writeOffs = each(done.body().get("entries"), "result").subList(0, 2);

        var preview = toTakeBack(controller, "WRITE_OFF", "take-back-write-off", writeOffs);
        assertThat(List.of(preview.text("total"), preview.text("possible"))).containsExactly("1.00", "2");
        assertThat(outcomes(takenBack(controller, "WRITE_OFF", "take-back-write-off", preview)))
                .containsExactly("DONE ", "DONE ");
        assertThat(moved(before, balances())).isEmpty();
        assertThat(outcomes(takenBack(controller, "WRITE_OFF", "take-back-write-off", preview)))
                .as("nothing is taken back twice")
                .containsExactly("REFUSED already-reversed", "REFUSED already-reversed");
        assertThat(each(
                        toTakeBack(controller, "WRITE_OFF", "take-back-write-off", writeOffs)
                                .body()
                                .get("documents"),
                        "code"))
                .containsExactly("already-reversed", "already-reversed");
    }

    @Test
    void badDebtOfOneCustomerAddsUpToTheLimit() throws Exception {
        var limit = new ObjectMapper().readTree("[{\"role\":\"CONTROLLER\",\"amount\":30}]");
        rules(all -> ((ObjectNode) all.get("limits")).set("badDebt", limit));
        var invoices = left("20.00", "9.00", "5.00");
        var looked = lookedAt(controller, "BAD_DEBT", invoices);
        assertThat(each(looked.body().get("invoices"), "code")).containsExactly("", "", "limit-of-person");
        assertThat(looked.text("total")).isEqualTo("29.00");
        assertThat(outcomes(writtenOff(controller, "BAD_DEBT", looked))).containsExactly("DONE ", "DONE ");
        assertThat(lookedAt(lead, "BAD_DEBT", invoices.subList(2, 3)).text("total"))
                .isEqualTo("5.00");
        assertThat(each(
                        lookedAt(receivables, "BAD_DEBT", invoices.subList(2, 3))
                                .body()
                                .get("invoices"),
                        "code"))
                .containsOnly("not-authorised");
    }

    @Test
    void invoicesAndPaymentsAreTakenBackTogether() {
        var before = balances();
        var invoices = List.of(sold(2).invoice(), sold(3).invoice());
        var preview = toTakeBack(controller, "INVOICE", "take-back-invoice", invoices);
        assertThat(outcomes(takenBack(controller, "INVOICE", "take-back-invoice", preview)))
                .containsExactly("DONE ", "DONE ");
        assertThat(moved(before, balances()))
                .as("the goods have left and are to be billed")
                .containsOnlyKeys("goods_out", "inventory");
        assertThat(toTakeBack(controller, "RETURN", "take-goods-back", invoices).code())
                .as("what needs choices is undone on its own")
                .isEqualTo("incomplete");
    }

    @Test
    void oneThatIsNotThereHindersNoOther() {
        var sold = sold(2).invoice();
        var preview = toTakeBack(controller, "INVOICE", "take-back-invoice", List.of("1999-00001", sold));
        assertThat(each(preview.body().get("documents"), "code")).containsExactly("not-found", "");
        assertThat(preview.text("possible")).isEqualTo("1");
        assertThat(outcomes(takenBack(controller, "INVOICE", "take-back-invoice", preview)))
                .containsExactly("DONE ");
    }

    /** Where the bank would have none of them: the money is on account again. */
    @Test
    void refundsAreTakenBackTogether() {
        var payments = Stream.of("5.00", "7.50")
                .map(amount -> receivables.post(
                        "/api/payments", "{\"customer\":\"%s\",\"amount\":%s}".formatted(customer, amount)))
                .map(answer -> answer.text("number"))
                .toList();
        var before = balances();
        var refunds = payments.stream()
                .map(payment -> controller
                        .post(
                                "/api/refunds",
                                "{\"of\":\"%s\",\"version\":%s,\"reason\":\"wants it\"}"
                                        .formatted(payment, versionOf("/api/payments/" + payment)))
                        .text("number"))
                .toList();
        assertThat(moved(before, balances())).containsEntry("bank", "-12.50");
        var preview = toTakeBack(controller, "REFUND", "take-back-refund", refunds);
        assertThat(List.of(preview.text("total"), preview.text("possible"))).containsExactly("12.50", "2");
        assertThat(outcomes(takenBack(controller, "REFUND", "take-back-refund", preview)))
                .containsExactly("DONE ", "DONE ");
        assertThat(moved(before, balances())).isEmpty();
        assertThat(payments)
                .extracting(payment -> auditor.get("/api/payments/" + payment).text("left"))
                .containsExactly("5.00", "7.50");
    }

    @Test
    void aFileIsKeptWithAWriteOff() {
        var written =
                writtenOff(receivables, "SMALL_DIFFERENCE", lookedAt(receivables, "SMALL_DIFFERENCE", left("0.10")));
        var number = each(written.body().get("entries"), "result").get(0);
        var path = "/api/write-offs/" + number + "/attachments";
        assertThat(receivables
                        .uploadTo(path, "letter.txt", "we can't pay".getBytes(StandardCharsets.UTF_8))
                        .status())
                .isEqualTo(200);
        assertThat(each(auditor.get(path).body().get("attachments"), "name")).containsExactly("letter.txt");
        assertThat(warehouse.get(path).code()).as("money is not for everybody").isEqualTo("not-authorised");
        var payment = each(
                        auditor.get("/api/payments?customer=" + customer).body().get("rows"), "number")
                .get(0);
        assertThat(auditor.get("/api/write-offs/" + payment + "/attachments").code())
                .as("a payment is no write-off")
                .isEqualTo("not-found");
    }
}
