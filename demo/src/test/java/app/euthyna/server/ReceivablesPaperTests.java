package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.UUID;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What paper, account and Find say of discounts, disputes, write-offs and credit notes that were taken back. */
class ReceivablesPaperTests extends OnReturns {

    private String invoice;

    @BeforeEach
    void billedToACustomerWhoMayPayEarly() {
        freshCustomerAndItem();
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":100000,\"earlyPayment\":{\"percent\":2,\"days\":10}}"
                                        .formatted(versionOf("/api/customers/" + customer)),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
        invoice = sold(5).invoice();
    }

    private String printed(String paper, String number) throws Exception {
        var run = receivables.post("/api/prints", "{\"paper\":\"%s\",\"numbers\":[\"%s\"]}".formatted(paper, number));
        assertThat(run.status()).as("%s", run.body()).isEqualTo(200);
        try (var document = Loader.loadPDF(receivables.bytes("/api/prints/" + run.text("id") + "/pdf"))) {
            return new PDFTextStripper().getText(document).replaceAll("\\s+", " ");
        }
    }

    private void paidLessItsDiscount() {
        var due = auditor.get("/api/invoices/" + invoice)
                .body()
                .get("earlyPayment")
                .get("due")
                .asString();
        assertThat(receivables
                        .post(
                                "/api/payments",
                                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s,\"discount\":true}]}"
                                        .formatted(customer, due, invoice, due))
                        .status())
                .isEqualTo(200);
    }

    @Test
    void anInvoiceSaysWhatIsLessForPayingEarly() throws Exception {
        assertThat(printed("INVOICE", invoice)).contains("less 2 % early-payment discount");
    }

    @Test
    void aCreditNoteSaysWhatItIsLessAndThatItWasTakenBack() throws Exception {
        paidLessItsDiscount();
        var credit = credited("{\"ofInvoice\":\"%s\",\"reason\":\"agreed\"}".formatted(invoice))
                .get(0);
        assertThat(printed("CREDIT_NOTE", credit))
                .contains("share of the early-payment discount")
                .doesNotContain("Taken back");
        var asked =
                "\"kind\":\"CREDIT_NOTE\",\"number\":\"%s\",\"intent\":\"take-back-credit\",\"reason\":\"a mistake\""
                        .formatted(credit);
        var plan = lead.post("/api/unwind/plans", "{" + asked + "}");
        assertThat(lead.post(
                                "/api/unwind/executions",
                                "{%s,\"fingerprint\":\"%s\"}".formatted(asked, plan.text("fingerprint")))
                        .status())
                .isEqualTo(200);
        assertThat(printed("CREDIT_NOTE", credit)).contains("Taken back: it no longer counts");
    }

    @Test
    void whatIsDisputedIsOnTheAccountAndInTheAgeing() throws Exception {
        assertThat(printed("STATEMENT", customer)).doesNotContain("of it disputed");
        assertThat(receivables
                        .post(
                                "/api/invoices/" + invoice + "/disputes",
                                "{\"version\":%s,\"amount\":7.5,\"lookOn\":\"2099-01-01\",\"reason\":\"wet\"}"
                                        .formatted(versionOf("/api/invoices/" + invoice)))
                        .status())
                .isEqualTo(200);
        var item = receivables
                .get("/api/customers/" + customer + "/statement")
                .body()
                .get("openItems")
                .get(0);
        assertThat(item.get("disputed").asString()).isEqualTo("7.50");
        assertThat(printed("STATEMENT", customer)).contains("of it disputed", "60.50 7.50");
        var row = receivables
                .get("/api/invoices?open=true&customer=" + customer)
                .body()
                .get("rows")
                .get(0);
        assertThat(row.get("disputed").asBoolean()).isTrue();
        var aged = receivables
                .get("/api/lists/ageing/rows?filter=customer:any:" + customer)
                .body()
                .get("rows")
                .get(0)
                .get("cells");
        assertThat(aged.get("disputed").asString()).isEqualTo("7.50");
    }

    @Test
    void aDisputeEndsWhenNothingIsOpenAndStaysOnRecord() {
        receivables.post(
                "/api/invoices/" + invoice + "/disputes",
                "{\"version\":%s,\"lookOn\":\"2099-01-01\",\"reason\":\"wet\"}"
                        .formatted(versionOf("/api/invoices/" + invoice)));
        paidLessItsDiscount();
        var dispute =
                receivables.get("/api/invoices/" + invoice + "/disputes").body().get(0);
        assertThat(dispute.get("state").asString()).isEqualTo("PAID");
        assertThat(receivables
                        .get("/api/invoices/" + invoice)
                        .body()
                        .get("disputed")
                        .asBoolean())
                .isFalse();
    }

    @Test
    void aDisputeStandsOnTheTrailWithHowItEnded() {
        receivables.post(
                "/api/invoices/" + invoice + "/disputes",
                "{\"version\":%s,\"lookOn\":\"2099-01-01\",\"reason\":\"wet\"}"
                        .formatted(versionOf("/api/invoices/" + invoice)));
        paidLessItsDiscount();
        assertThat(auditor.get("/api/trails/INVOICE/" + invoice)
                        .body()
                        .get("rows")
                        .valueStream()
                        .filter(row -> row.get("what").asString().contains("disput"))
                        .map(row -> row.get("document").get("number").asString() + " "
                                + row.get("what").asString()))
                .containsExactly(invoice + " all disputed: wet", invoice + " dispute settled: paid");
    }

    /** The end of a dispute is told beside: what one payment settles stays on one row of the trail. */
    @Test
    void aPaymentThatEndsADisputeStaysOneEvent() {
        var other = sold(3).invoice();
        receivables.post(
                "/api/invoices/" + invoice + "/disputes",
                "{\"version\":%s,\"lookOn\":\"2099-01-01\",\"reason\":\"wet\"}"
                        .formatted(versionOf("/api/invoices/" + invoice)));
        var first = new BigDecimal(auditor.get("/api/invoices/" + invoice).text("open"));
        var second = new BigDecimal(auditor.get("/api/invoices/" + other).text("open"));
        var payment = receivables.post(
                "/api/payments",
                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s},{\"invoice\":\"%s\",\"amount\":%s}]}"
                        .formatted(customer, first.add(second), invoice, first, other, second));
        assertThat(payment.status()).isEqualTo(200);
        assertThat(auditor.get("/api/trails/PAYMENT/" + payment.text("number"))
                        .body()
                        .get("rows")
                        .valueStream()
                        .filter(row ->
                                row.get("document").get("number").asString().equals(payment.text("number"))))
                .hasSize(1);
    }

    @Test
    void aWriteOffIsFoundByItsNumberAndOnTheAccount() {
        var written = lead.post(
                "/api/invoices/" + invoice + "/write-offs",
                "{\"version\":%s,\"kind\":\"BAD_DEBT\",\"amount\":10,\"reason\":\"insolvent\"}"
                        .formatted(versionOf("/api/invoices/" + invoice)));
        assertThat(written.status()).as("%s", written.body()).isEqualTo(200);
        var number = written.text("number");
        var hit = auditor.get("/api/find?q=" + number).body().get(0);
        assertThat(hit.get("kind").asString()).isEqualTo("WRITE_OFF");
        assertThat(hit.get("number").asString()).isEqualTo(number);
        assertThat(auditor.get("/api/customers/" + customer + "/statement")
                        .body()
                        .get("rows")
                        .valueStream())
                .anyMatch(row -> row.get("event").asString().equals("bad debt written off")
                        && row.get("documentNumber").asString().equals(number));
        assertThat(auditor.get("/api/trails/WRITE_OFF/" + number).status()).isEqualTo(200);
        agrees("INVOICE", invoice);
    }
}
