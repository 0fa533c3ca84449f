package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.CreditorReference;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import java.io.ByteArrayInputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.UUID;
import java.util.stream.IntStream;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What goes to customers on paper, and what comes from the bank. */
class PaperAndBankTests extends OnServer {

    private String order;
    private String dispatch;
    private String invoice;

    /** Ten at 10.00 and 21 %, shipped and billed: 121.00 open. */
    @BeforeEach
    void billedOnce() {
        jdbc.sql("update customer set name = 'Łódź Ropes & <Sons>', email = 'office@lodz.example' where code = ?")
                .param(customer)
                .update();
        invoice = bill(10);
    }

    private String bill(int quantity) {
        order = clerk.post(
                        "/api/orders",
                        order("PB-" + UUID.randomUUID().toString().substring(0, 6), quantity))
                .text("number");
        var note = warehouse.post(
                "/api/dispatches",
                "{\"order\":\"%s\",\"version\":%s}"
                        .formatted(order, clerk.get("/api/orders/" + order).text("version")));
        dispatch = note.text("number");
        warehouse.post(
                "/api/dispatches/" + dispatch + "/departure", "{\"version\":%s}".formatted(note.text("version")));
        return receivables
                .post("/api/invoices", "{\"orders\":[\"%s\"],\"text\":\"Thank you.\"}".formatted(order))
                .text("number");
    }

    private static String text(byte[] pdf) throws Exception {
        try (var document = Loader.loadPDF(pdf)) {
            for (var page : document.getPages()) {
                for (var name : page.getResources().getFontNames()) {
                    assertThat(page.getResources().getFont(name).isEmbedded())
                            .as("%s is embedded", name)
                            .isTrue();
                }
            }
            return new PDFTextStripper().getText(document);
        }
    }

    private String printed(String paper, String... numbers) throws Exception {
        var print = clerk.post(
                "/api/prints",
                "{\"paper\":\"%s\",\"numbers\":[%s]}"
                        .formatted(
                                paper,
                                String.join(
                                        ",",
                                        List.of(numbers).stream()
                                                .map(n -> "\"" + n + "\"")
                                                .toList())));
        assertThat(print.status()).as(print.body().toString()).isEqualTo(200);
        return text(clerk.bytes("/api/prints/" + print.text("id") + "/pdf"));
    }

    @Nested
    class Paper {

        @Test
        void showsWhatWasBilledWithItsOriginAndAReferenceToPayBy() throws Exception {
            assertThat(printed("INVOICE", invoice))
                    .contains("Invoice " + invoice)
                    .contains("Łódź Ropes & <Sons>")
                    .contains(order)
                    .contains(dispatch)
                    .contains("PO PB-")
                    .contains("121.00")
                    .contains("VAT 21 % on 100.00")
                    .contains("Thank you.")
                    .contains(CreditorReference.of(invoice).substring(0, 4))
                    .doesNotContain("Copy");
            assertThat(printed("INVOICE", invoice)).contains("Copy 1");
            assertThat(printed("PACKING_SLIP", dispatch))
                    .contains("Packing slip " + dispatch)
                    .doesNotContain("121.00");
            assertThat(printed("STATEMENT", customer))
                    .contains("Open invoices")
                    .contains(invoice)
                    .contains("121.00");
        }

        @Test
        void ofAnOrderThatIsHeldSaysSo() throws Exception {
            var held = clerk.post(
                            "/api/orders", order("PB-H", 1).replace("\"quantity\":1", "\"quantity\":1,\"price\":0"))
                    .text("number");
            assertThat(printed("ORDER_CONFIRMATION", held)).contains("Not cleared");
            assertThat(printed("ORDER_CONFIRMATION", order)).doesNotContain("Not cleared");
        }

        @Test
        void ofASelectionIsOneFileInItsSequence() throws Exception {
            var second = bill(3);
            var text = printed("INVOICE", second, invoice);
            assertThat(text.indexOf("Invoice " + second)).isBetween(0, text.indexOf("Invoice " + invoice));
            assertThat(clerk.post(
                                    "/api/prints",
                                    "{\"paper\":\"INVOICE\",\"numbers\":[\"%s\",\"none\"]}".formatted(invoice))
                            .code())
                    .isEqualTo("not-found");
        }

        @Test
        void isSentWithTheFileAttached() throws Exception {
            var sent = receivables
                    .post("/api/mails", "{\"paper\":\"INVOICE\",\"number\":\"%s\"}".formatted(invoice))
                    .text("message");
            var message = new MimeMessage(
                    Session.getInstance(new Properties()),
                    new ByteArrayInputStream(receivables.bytes("/api/outbox/" + sent + "/eml")));
            assertThat(message.getAllRecipients()[0]).hasToString("office@lodz.example");
            var parts = (MimeMultipart) message.getContent();
            assertThat(parts.getBodyPart(1).getFileName()).isEqualTo("invoice-" + invoice + ".pdf");
            assertThat(text(parts.getBodyPart(1).getInputStream().readAllBytes()))
                    .contains("Invoice " + invoice);
            jdbc.sql("update customer set email = '' where code = ?")
                    .param(customer)
                    .update();
            assertThat(receivables
                            .post("/api/mails", "{\"paper\":\"INVOICE\",\"number\":\"%s\"}".formatted(invoice))
                            .code())
                    .isEqualTo("incomplete");
        }
    }

    @Nested
    class LateInvoices {

        @Test
        void areListedAndRemindedOfStepByStep() throws Exception {
            jdbc.sql("update invoice set due_on = due_on - interval '70' day where number = ?")
                    .param(invoice)
                    .update();
            jdbc.sql("""
                            update customer_open set oldest_due_on = oldest_due_on - interval '70' day
                            where customer_id = (select customer_id from invoice where number = ?)
                            """).param(invoice).update();
            var row = row();
            assertThat(row.get("pastDue").asString()).isEqualTo("121.00");
            assertThat(row.get("reminder").asString()).isEqualTo("FIRST");
            var reminded = receivables.post("/api/batches/reminders", "{\"customers\":[\"%s\"]}".formatted(customer));
            assertThat(reminded.body().get("entries").get(0).get("sentence").asString())
                    .isEqualTo("Reminder over EUR 121.00, one invoice");
            assertThat(receivables
                            .post("/api/batches/reminders", "{\"customers\":[\"%s\"]}".formatted(customer))
                            .body()
                            .get("entries")
                            .get(0)
                            .get("code")
                            .asString())
                    .isEqualTo("nothing-due");
            assertThat(row().get("reminder").asString())
                    .as("a second reminder the same day is too soon")
                    .isEqualTo("NONE");
            jdbc.sql("update reminder set reminded_on = reminded_on - interval '12' day where customer_id ="
                            + " (select id from customer where code = ?)")
                    .param(customer)
                    .update();
            assertThat(row().get("reminder").asString()).isEqualTo("SECOND");
            var message = jdbc.sql("select max(id) from outbox_message where about_number = ?")
                    .param(customer)
                    .query(Long.class)
                    .single();
            assertThat(text(receivables.bytes("/api/outbox/" + message + "/attachment")))
                    .contains("disregard this reminder")
                    .contains(invoice)
                    .contains("121.00");
        }

        private tools.jackson.databind.JsonNode row() {
            return receivables
                    .get("/api/lists/ageing/rows?columns=pastDue,reminder&filter=customer:any:" + customer)
                    .body()
                    .get("rows")
                    .get(0)
                    .get("cells");
        }

        /** Invoice of 121.00, 50.00 paid the day after: at each day the statement says what was open then. */
        @Test
        void standInTheStatementAsTheyWereAtItsDate() {
            var today = realToday();
            itIsInDays(1);
            receivables.post(
                    "/api/payments",
                    "{\"customer\":\"%s\",\"amount\":60,\"allocate\":[{\"invoice\":\"%s\",\"amount\":50}],\"date\":\"%s\"}"
                            .formatted(customer, invoice, today.plusDays(1)));
            var then = auditor.get("/api/customers/" + customer + "/statement?to=" + today + "&from=2026-01-01")
                    .body();
            assertThat(then.get("closing").asString()).isEqualTo("121.00");
            assertThat(then.get("openItems").get(0).get("open").asString()).isEqualTo("121.00");
            var now = auditor.get(
                            "/api/customers/" + customer + "/statement?to=" + today.plusDays(1) + "&from=" + today)
                    .body();
            assertThat(now.get("closing").asString()).isEqualTo("61.00");
            assertThat(now.get("openItems").get(0).get("open").asString()).isEqualTo("71.00");
            assertThat(now.get("unapplied").asString()).isEqualTo("10.00");
        }
    }

    @Nested
    class BankStatements {

        private String id = UUID.randomUUID().toString().substring(0, 20);

        private static String entry(String amount, String sign, String payer, String reference, String text) {
            return BankFile.entry(amount, sign, payer, reference, text);
        }

        private byte[] file(String entries, String closing) {
            return BankFile.of(id, entries, closing);
        }

        private Rest.Answer read(byte[] file) {
            return receivables.uploadTo("/api/bank-statements", "march.xml", file);
        }

        @Test
        void areReadOnceAndSettledByReference() {
            var second = bill(2);
            var file = file(
                    entry("121.00", "CRDT", "whoever", CreditorReference.of(invoice), "")
                            + entry("24.20", "CRDT", "someone", "", "your " + second.replace("-", "/"))
                            + entry("20.00", "CRDT", "Łódź Ropes &amp; &lt;Sons&gt;", "", "on account")
                            + entry("9.90", "DBIT", "the bank", "", "charges"),
                    "1155.30");
            var read = read(file).body().get(0);
            assertThat(read.get("open").asInt()).isEqualTo(3);
            var statement = read.get("id").asString();
            var again = read(file).body().get(0);
            assertThat(again.get("readBefore").asBoolean()).isTrue();
            assertThat(again.get("id").asString()).isEqualTo(statement);
            var entries = receivables
                    .get("/api/bank-statements/" + statement + "/entries")
                    .body()
                    .get("rows");
            assertThat(entries).hasSize(4);
            assertThat(entries.get(0).get("proposals").get(0).get("sureness").asString())
                    .isEqualTo("CERTAIN");
            assertThat(entries.get(3).get("state").asString()).isEqualTo("NOT_OURS");
            var log = receivables.post("/api/bank-statements/" + statement + "/payments", "{}");
            assertThat(log.body().get("done").asInt()).isEqualTo(2);
            assertThat(auditor.get("/api/invoices/" + invoice).text("state")).isEqualTo("PAID");
            assertThat(auditor.get("/api/invoices/" + second).text("state")).isEqualTo("PAID");
            assertThat(receivables
                            .post("/api/bank-statements/" + statement + "/payments", "{}")
                            .body()
                            .get("entries"))
                    .isEmpty();
            var third = entries.get(2).get("id").asString();
            assertThat(receivables
                            .post(
                                    "/api/bank-entries/" + third + "/payments",
                                    "{\"parts\":[{\"customer\":\"%s\",\"allocate\":[]}]}".formatted(customer))
                            .text("state"))
                    .isEqualTo("SETTLED");
            assertThat(receivables
                            .post(
                                    "/api/bank-entries/" + third + "/payments",
                                    "{\"parts\":[{\"customer\":\"%s\",\"allocate\":[]}]}".formatted(customer))
                            .code())
                    .isEqualTo("already-settled");
            assertThat(auditor.get("/api/customers/" + customer + "/credit").text("credit"))
                    .isEqualTo("20.00");
        }

        /**
         * Of a statement of many entries each page is the statement's own sequence, and all that are certain are
         * settled, wherever they stand; what became of them is read in pages too.
         */
        @Test
        void aLongOneIsReadInPagesAndSettledWhole() {
            var entries = new StringBuilder(entry("121.00", "CRDT", "whoever", CreditorReference.of(invoice), ""));
            for (int no = 2; no <= 1_103; no++) {
                entries.append(entry("0.07", "CRDT", "Nobody %d Ltd".formatted(no), "", "thanks " + no));
            }
            var last = bill(2);
            entries.append(entry("24.20", "CRDT", "someone", "", "your invoice " + last));
            var read = read(file(entries.toString(), "1222.34")).body().get(0);
            assertThat(read.get("open").asInt()).isEqualTo(1_104);
            var statement = "/api/bank-statements/" + read.get("id").asString();
            var page = receivables.get(statement + "/entries").body();
            var numbers = new ArrayList<Integer>();
            page.get("rows").forEach(row -> numbers.add(row.get("no").asInt()));
            while (!page.get("next").isNull()) {
                page = receivables
                        .get(statement + "/entries?after=" + page.get("next").asString())
                        .body();
                page.get("rows").forEach(row -> numbers.add(row.get("no").asInt()));
            }
            assertThat(numbers)
                    .isEqualTo(IntStream.rangeClosed(1, 1_104).boxed().toList());
            var log = receivables.post(statement + "/payments", "{}");
            assertThat(log.body().get("done").asInt()).isEqualTo(2);
            assertThat(auditor.get("/api/invoices/" + last).text("state")).isEqualTo("PAID");
        }

        /** Whatever a payer names, shares with others or owes is found the same for one entry as for many. */
        @Test
        void whatIsFoundForOneEntryIsFoundForItAmongMany() {
            var name = "Ropes " + customer;
            jdbc.sql("update customer set name = ? where code = ?")
                    .params(name, customer)
                    .update();
            var second = bill(2);
            var third = bill(2);
            var some = List.of(
                    entry("24.20", "CRDT", name, "", "no number"),
                    entry("48.40", "CRDT", "x", "", second + " " + third),
                    entry("24.20", "CRDT", "nobody", "", ""),
                    entry("169.40", "CRDT", name, "", ""),
                    entry("5.00", "CRDT", name.toUpperCase(Locale.ROOT), "", ""),
                    entry("121.00", "CRDT", "x", CreditorReference.of(invoice), third));
            var together = proposals(file(String.join("", some), "1392.20"));
            for (int at = 0; at < some.size(); at++) {
                var amount = new BigDecimal(some.get(at).replaceAll("(?s).*?\"EUR\">([0-9.]+)<.*", "$1"));
                id = UUID.randomUUID().toString().substring(0, 20);
                assertThat(proposals(file(
                                some.get(at),
                                amount.add(new BigDecimal("1000.00")).toPlainString())))
                        .containsExactly(together.get(at));
            }
            assertThat(together.get(1).get(0).get("sureness").asString()).isEqualTo("CERTAIN");
            assertThat(together.get(0).get(0).get("sureness").asString()).isEqualTo("LIKELY");
            assertThat(together.get(3).get(0).get("parts").get(0).get("allocate"))
                    .hasSize(3);
            assertThat(together.get(4)
                            .get(0)
                            .get("parts")
                            .get(0)
                            .get("allocate")
                            .get(0)
                            .get("invoice")
                            .asString())
                    .as("the oldest")
                    .isEqualTo(invoice);
        }

        /** Balances and days are optional in a statement (ISO 20022 camt.053: FrToDt; a bank's Bal as it likes). */
        @Test
        void mayTellNeitherDaysNorBalances() {
            var bare = new String(file(entry("1.00", "CRDT", "x", "", ""), "1001.00"), StandardCharsets.UTF_8)
                    .replaceAll("<FrToDt>.*</FrToDt>", "")
                    .replaceAll("(?s)<Bal>.*</Bal>", "");
            var statement = read(bare.getBytes(StandardCharsets.UTF_8))
                    .body()
                    .get(0)
                    .get("id")
                    .asString();
            assertThat(receivables
                            .get("/api/bank-statements/" + statement)
                            .body()
                            .get("opening")
                            .isNull())
                    .isTrue();
            assertThat(receivables
                            .get("/api/bank-statements")
                            .body()
                            .get("rows")
                            .get(0)
                            .get("from")
                            .isNull())
                    .isTrue();
        }

        private List<JsonNode> proposals(byte[] file) {
            var statement = read(file).body().get(0).get("id").asString();
            return receivables
                    .get("/api/bank-statements/" + statement + "/entries")
                    .body()
                    .get("rows")
                    .valueStream()
                    .map(row -> row.get("proposals"))
                    .toList();
        }

        private String refused(String file) {
            var answer = read(file.getBytes(StandardCharsets.UTF_8));
            assertThat(answer.code()).as(answer.body().toString()).isEqualTo("unreadable-statement");
            return answer.text("detail");
        }

        /**
         * An entity, a bomb of entities, a file of something else, cut off, with balances that lie: each is refused
         * with its reason and leaves nothing.
         */
        @Test
        void thatCannotBeTrustedAreRefusedWhole() {
            var before = jdbc.sql("select count(*) from bank_statement")
                    .query(Long.class)
                    .single();
            var good = new String(file(entry("121.00", "CRDT", "x", "", ""), "1121.00"), StandardCharsets.UTF_8);
            assertThat(refused(
                            good.replace("?><Doc", "?><!DOCTYPE d [<!ENTITY e SYSTEM \"file:///etc/hostname\">]><Doc")
                                    .replace(">x<", ">&e;<")))
                    .contains("document type");
            var bomb = new StringBuilder("<?xml version=\"1.0\"?><!DOCTYPE d [<!ENTITY a0 \"aaaaaaaaaa\">");
            for (int at = 1; at < 12; at++) {
                bomb.append("<!ENTITY a%d \"".formatted(at))
                        .append("&a%d;".formatted(at - 1).repeat(10))
                        .append("\">");
            }
            assertThat(refused(
                            bomb + "]><Document><BkToCstmrStmt><Stmt><Id>&a11;</Id></Stmt></BkToCstmrStmt></Document>"))
                    .contains("document type");
            assertThat(refused(good.substring(0, good.length() - 60))).contains("not well-formed");
            assertThat(refused(good.replace("1121.00", "1120.00"))).contains("cannot close with 1120.00");
            assertThat(refused(good.replace(
                            "121.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>",
                            "12,1</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts>")))
                    .contains("'12,1' is not an amount");
            assertThat(refused(good.replace("<BookgDt><Dt>2026-03-02</Dt></BookgDt>", "")))
                    .contains("entry 1 lacks a booking date");
            assertThat(refused(good.replace("<Stmt><Id>", "<Stmt><Id>" + "x".repeat(140))))
                    .contains("an identification of more than 140 characters");
            assertThat(refused(good.replace("NL91 ", "NL91" + "0".repeat(40))))
                    .contains("an account of more than 40 characters");
            assertThat(refused("<Document><CstmrCdtTrfInitn/></Document>")).contains("holds CstmrCdtTrfInitn");
            assertThat(refused("<Document>" + "<a>".repeat(200))).isNotBlank();
            assertThat(refused("")).contains("not well-formed");
            assertThat(jdbc.sql("select count(*) from bank_statement")
                            .query(Long.class)
                            .single())
                    .isEqualTo(before);
        }
    }
}
