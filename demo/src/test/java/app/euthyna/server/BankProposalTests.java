package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What settles invoices beside the money of a bank entry, as it is proposed and accepted; figures our own. */
class BankProposalTests extends OnReturns {

    private String id;

    @BeforeEach
    void customer() {
        freshCustomerAndItem();
        id = UUID.randomUUID().toString().substring(0, 20);
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":100000,\"earlyPayment\":{\"percent\":2,\"days\":10}}"
                                        .formatted(versionOf("/api/customers/" + customer)),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
    }

    private String billed(int quantity) {
        return sold(quantity).invoice();
    }

    private BigDecimal open(String invoice) {
        return new BigDecimal(auditor.get("/api/invoices/" + invoice).text("open"));
    }

    /** The only entry of a file. */
    private JsonNode entry(BigDecimal amount, String text) {
        var file = BankFile.of(
                id,
                BankFile.entry(amount.toPlainString(), "CRDT", "somebody", "", text),
                amount.add(new BigDecimal("1000.00")).toPlainString());
        var statement = receivables
                .uploadTo("/api/bank-statements", "statement.xml", file)
                .body()
                .get(0)
                .get("id")
                .asString();
        return receivables
                .get("/api/bank-statements/" + statement + "/entries")
                .body()
                .get("rows")
                .get(0);
    }

    private void accept(JsonNode entry) {
        var proposal = entry.get("proposals").get(0);
        assertThat(proposal.get("reason").asString()).isNotBlank();
        var done = receivables.post(
                "/api/bank-entries/" + entry.get("id").asString() + "/payments",
                "{\"parts\":%s}".formatted(proposal.get("parts")));
        assertThat(done.status()).as("%s", done.body()).isEqualTo(200);
        assertThat(done.text("state")).isEqualTo("SETTLED");
    }

    @Test
    void shortByJustTheDiscount() {
        var invoice = billed(10);
        var view = auditor.get("/api/invoices/" + invoice).body();
        var due = new BigDecimal(view.get("earlyPayment").get("due").asString());
        assertThat(due).isLessThan(open(invoice));
        var entry = entry(due, "invoice " + invoice);
        assertThat(entry.get("proposals").get(0).get("sureness").asString()).isEqualTo("CERTAIN");
        accept(entry);
        var after = auditor.get("/api/invoices/" + invoice).body();
        assertThat(after.get("state").asString()).isEqualTo("PAID");
        assertThat(after.get("reductions").get(0).get("kind").asString()).isEqualTo("DISCOUNT");
        booksAgree();
    }

    @Test
    void shortByCents() {
        var invoice = billed(10);
        var entry = entry(open(invoice).subtract(new BigDecimal("0.03")), "invoice " + invoice);
        assertThat(entry.get("proposals").get(0).get("sureness").asString()).isEqualTo("LIKELY");
        accept(entry);
        assertThat(open(invoice)).isZero();
        var written =
                receivables.get("/api/write-offs?invoice=" + invoice).body().get("rows");
        assertThat(written).hasSize(1);
        assertThat(written.get(0).get("amount").asString()).isEqualTo("0.03");
        assertThat(written.get(0).get("reason").asString()).startsWith("short by EUR 0.03");
        booksAgree();
    }

    @Test
    void twoInvoicesLessACreditNote() {
        var paid = billed(2);
        assertThat(paid(paid, open(paid).toString()).status()).isEqualTo(200);
        var credit = receivables
                .post("/api/credit-notes", "{\"ofInvoice\":\"%s\",\"reason\":\"agreed\"}".formatted(paid))
                .body()
                .get("numbers")
                .get(0)
                .asString();
        var left = new BigDecimal(auditor.get("/api/credit-notes/" + credit).text("left"));
        var invoices = List.of(billed(5), billed(6));
        var entry = entry(
                open(invoices.get(0)).add(open(invoices.get(1))).subtract(left),
                "%s and %s less %s".formatted(invoices.get(0), invoices.get(1), credit));
        assertThat(entry.get("proposals").get(0).get("sureness").asString()).isEqualTo("CERTAIN");
        accept(entry);
        assertThat(invoices).allSatisfy(invoice -> assertThat(open(invoice)).isZero());
        assertThat(auditor.get("/api/credit-notes/" + credit).text("left")).isEqualTo("0.00");
        booksAgree();
    }

    @Test
    void oneSumForTwoCustomers() {
        var first = billed(3);
        var one = customer;
        freshCustomerAndItem();
        var second = billed(4);
        var entry = entry(open(first).add(open(second)), first + " " + second);
        accept(entry);
        assertThat(open(first)).isZero();
        assertThat(open(second)).isZero();
        for (var of : List.of(one, customer)) {
            assertThat(auditor.get("/api/customers/" + of + "/credit").text("credit"))
                    .isEqualTo("0.00");
        }
        booksAgree();
    }

    @Test
    void ageingIsWhatTheLedgerSaysOfAnyDay() {
        billed(3);
        for (var day : List.of(0, 1, 40)) {
            var on = LocalDate.parse(auditor.get("/api/session").text("today")).minusDays(day);
            var total = ageing("&filter=asOf:at:" + on);
            var tied = total.get("proof").get("figures").get(0);
            assertThat(tied.get("ledger").asString())
                    .as("on %s", on)
                    .isEqualTo(total.get("sums").get("still").asString());
        }
        var sums = ageing("").get("sums");
        assertThat(List.of("notDue", "upTo30", "upTo60", "upTo90", "older").stream()
                        .map(part -> new BigDecimal(sums.get(part).asString()))
                        .reduce(BigDecimal.ZERO, BigDecimal::add))
                .isEqualByComparingTo(sums.get("still").asString());
    }

    private JsonNode ageing(String filter) {
        return auditor.get("/api/lists/ageing/totals?columns=notDue,upTo30,upTo60,upTo90,older,still" + filter)
                .body();
    }
}
