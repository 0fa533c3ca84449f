package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.zxing.BinaryBitmap;
import com.google.zxing.DecodeHintType;
import com.google.zxing.MultiFormatReader;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.rendering.PDFRenderer;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/**
 * Goods that come back, what the customer gets for them, and how it reaches them. Item: 10.00 at 21 %, 4.00 at cost.
 */
class ReturnsTests extends OnServer {

    private record Sold(String order, String dispatch, String invoice) {}

    private Sold sold(int quantity) {
        var order = cleared(quantity);
        return new Sold(order, gone(order), billed(order).text("number"));
    }

    private static String line(String kind, String number, int line, String quantity) {
        return "{\"%s\":\"%s\",\"line\":%d,\"quantity\":%s}".formatted(kind, number, line, quantity);
    }

    private String allowed(String reason, String... lines) {
        var answer = clerk.post(
                "/api/returns", "{\"lines\":[%s],\"reason\":\"%s\"}".formatted(String.join(",", lines), reason));
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.text("number");
    }

    private void received(String goods) {
        assertThat(warehouse.post("/api/returns/" + goods + "/receipts", "{}").status())
                .isEqualTo(200);
    }

    private List<String> credited(String body) {
        var answer = receivables.post("/api/credit-notes", body);
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.body().get("numbers").valueStream().map(n -> n.asString()).toList();
    }

    private void paid(Sold sold) {
        var open = auditor.get("/api/invoices/" + sold.invoice()).text("open");
        assertThat(receivables
                        .post(
                                "/api/payments",
                                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s}]}"
                                        .formatted(customer, open, sold.invoice(), open))
                        .status())
                .isEqualTo(200);
    }

    @AfterEach
    void rulesAreTheStandardOnes() {
        jdbc.sql("delete from company_rules").update();
        jdbc.sql("update simulated_payment_service set behaviour = 'PAYS'").update();
    }

    @Nested
    class Authorised {

        @Test
        void overSeveralDocumentsOfACustomerAtOnce() {
            var one = sold(5);
            var two = sold(4);
            var rows = auditor.get("/api/returnable?customer=" + customer).body();
            assertThat(rows.get("rows")
                            .valueStream()
                            .map(r -> r.get("dispatch").asString() + " "
                                    + r.get("returnable").asString() + " "
                                    + r.get("billed").get(0).get("invoice").asString())
                            .toList())
                    .containsExactly(two.dispatch() + " 4 " + two.invoice(), one.dispatch() + " 5 " + one.invoice());
            var goods = allowed(
                    "damaged", line("dispatch", one.dispatch(), 1, "2"), line("invoice", two.invoice(), 1, "3"));
            var view = auditor.get("/api/returns/" + goods).body();
            assertThat(view.get("lines")).hasSize(2);
            assertThat(auditor.get("/api/returnable?invoice=" + two.invoice())
                            .body()
                            .get("rows")
                            .get(0)
                            .get("returnable")
                            .asString())
                    .as("what is allowed back does not count")
                    .isEqualTo("1");
            assertThat(clerk.post(
                                    "/api/returns",
                                    "{\"lines\":[%s],\"reason\":\"damaged\"}"
                                            .formatted(line("dispatch", two.dispatch(), 1, "2")))
                            .code())
                    .isEqualTo("more-than-returnable");
            received(goods);
            var credits = credited("{\"ofReturn\":\"%s\"}".formatted(goods));
            assertThat(credits).as("a credit note for each invoice").hasSize(2);
            assertThat(auditor.get("/api/invoices/" + one.invoice()).text("open"))
                    .isEqualTo("36.30");
            assertThat(auditor.get("/api/invoices/" + two.invoice()).text("open"))
                    .isEqualTo("12.10");
            agrees("RETURN", goods);
        }

        /**
         * Half of a dispatch line is on each of two invoices: from the second its own goods come back, though the first
         * is older.
         */
        @Test
        void fromAnInvoiceItsOwnGoods() {
            var order = cleared(4);
            gone(order);
            var first = receivables
                    .post(
                            "/api/invoices",
                            "{\"orders\":[\"%s\"],\"lines\":[{\"order\":\"%s\",\"line\":1,\"quantity\":2}]}"
                                    .formatted(order, order))
                    .text("number");
            var second = billed(order).text("number");
            var row = auditor.get("/api/returnable?invoice=" + second)
                    .body()
                    .get("rows")
                    .get(0);
            assertThat(row.get("returnable").asString() + " "
                            + row.get("billed").get(0).get("invoice").asString())
                    .isEqualTo("2 " + second);
            assertThat(row.get("billed")).hasSize(1);
            received(allowed("damaged", line("invoice", second, 1, "1")));
            assertThat(auditor.get("/api/returnable?invoice=" + second)
                            .body()
                            .get("rows")
                            .get(0)
                            .get("returnable")
                            .asString())
                    .isEqualTo("1");
            assertThat(auditor.get("/api/returnable?invoice=" + first)
                            .body()
                            .get("rows")
                            .get(0)
                            .get("returnable")
                            .asString())
                    .isEqualTo("2");
        }

        @Test
        void notWithGoodsOfAnotherCustomer() {
            var mine = sold(1);
            freshCustomerAndItem();
            var theirs = sold(1);
            assertThat(clerk.post(
                                    "/api/returns",
                                    "{\"lines\":[%s,%s],\"reason\":\"damaged\"}"
                                            .formatted(
                                                    line("dispatch", mine.dispatch(), 1, "1"),
                                                    line("dispatch", theirs.dispatch(), 1, "1")))
                            .code())
                    .isEqualTo("wrong-customer");
        }

        @Test
        void asTheCompanyGrantsIt() {
            var sold = sold(3);
            rules(rules -> ((ObjectNode) rules.get("returns")).put("days", 10));
            itIsInDays(11);
            var body =
                    "{\"lines\":[%s],\"reason\":\"damaged\"%%s}".formatted(line("dispatch", sold.dispatch(), 1, "1"));
            assertThat(clerk.post("/api/returns", body.formatted("")).code()).isEqualTo("too-late");
            assertThat(clerk.post("/api/returns", body.formatted(",\"exception\":\"was on holiday\""))
                            .code())
                    .isEqualTo("not-authorised");
            var goods = controller.post(
                    "/api/returns", body.formatted(",\"remark\":\"by phone\",\"exception\":\"was on holiday\""));
            assertThat(goods.status()).isEqualTo(200);
            assertThat(goods.text("remark")).isEqualTo("by phone; late return allowed: was on holiday");
            assertThat(clerk.post("/api/returns", body.formatted("").replace("damaged", "full-moon"))
                            .code())
                    .isEqualTo("incomplete");
        }

        /** The barcode is read back from the page by a reader of its own (ZXing), the text by PDFBox. */
        @Test
        void withASlipThatAScannerReads() throws Exception {
            var sold = sold(3);
            var goods = allowed("damaged", line("dispatch", sold.dispatch(), 1, "2"));
            var print = clerk.post("/api/prints", "{\"paper\":\"RETURN_SLIP\",\"numbers\":[\"%s\"]}".formatted(goods));
            try (var pdf = Loader.loadPDF(clerk.bytes("/api/prints/" + print.text("id") + "/pdf"))) {
                assertThat(new PDFTextStripper().getText(pdf))
                        .contains("Return slip " + goods)
                        .contains("Damaged in transit")
                        .contains(sold.dispatch());
                var page = new PDFRenderer(pdf).renderImageWithDPI(0, 200);
                var source = new RGBLuminanceSource(
                        page.getWidth(),
                        page.getHeight(),
                        page.getRGB(0, 0, page.getWidth(), page.getHeight(), null, 0, page.getWidth()));
                assertThat(new MultiFormatReader()
                                .decode(
                                        new BinaryBitmap(new HybridBinarizer(source)),
                                        Map.of(DecodeHintType.TRY_HARDER, true))
                                .getText())
                        .isEqualTo(goods);
            }
        }

        @Test
        void withPhotosAndNotes() {
            var goods = allowed("damaged", line("dispatch", sold(3).dispatch(), 1, "2"));
            var png = new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n', 0};
            assertThat(warehouse
                            .uploadTo("/api/returns/" + goods + "/attachments", "broken.png", png)
                            .body()
                            .get("attachments")
                            .get(0)
                            .get("mediaType")
                            .asString())
                    .isEqualTo("image/png");
            assertThat(warehouse
                            .uploadTo("/api/returns/" + goods + "/attachments", "x.png", new byte[] {0, 1, 2})
                            .code())
                    .isEqualTo("incomplete");
            assertThat(warehouse
                            .uploadTo("/api/returns/RT-0/attachments", "broken.png", png)
                            .code())
                    .isEqualTo("not-found");
            assertThat(clerk.post("/api/returns/" + goods + "/notes", "{\"text\":\"rings again on Monday\"}")
                            .status())
                    .isEqualTo(200);
            assertThat(auditor.get("/api/returns/" + goods)
                            .body()
                            .get("story")
                            .valueStream()
                            .map(s -> s.get("sentence").asString())
                            .toList())
                    .containsExactly("return authorised", "attached broken.png", "rings again on Monday");
        }
    }

    @Nested
    class NobodyAllowed {

        @Test
        void waitForADecisionAndStandNowhereUntilThen() {
            var sold = sold(5);
            var before = balances();
            var taken = warehouse.post(
                    "/api/unexpected-goods",
                    "{\"customer\":\"%s\",\"item\":\"%s\",\"quantity\":4,\"remark\":\"no slip\"}"
                            .formatted(customer, item));
            assertThat(taken.status()).isEqualTo(200);
            assertThat(moved(before, balances())).isEmpty();
            var number = taken.text("number");
            assertThat(auditor.get("/api/find?q=" + number)
                            .body()
                            .valueStream()
                            .map(hit -> hit.get("number").asString())
                            .toList())
                    .contains(number);
            var body =
                    "{\"version\":0,\"lines\":[{\"dispatch\":\"%s\",\"line\":1,\"quantity\":%%s}],\"returnReason\":\"damaged\",\"reason\":\"%%s\"}"
                            .formatted(sold.dispatch());
            assertThat(warehouse
                            .post(
                                    "/api/unexpected-goods/" + number + "/admissions",
                                    body.formatted("3", "a good customer"))
                            .code())
                    .isEqualTo("not-authorised");
            assertThat(controller
                            .post("/api/unexpected-goods/" + number + "/admissions", body.formatted("3", ""))
                            .code())
                    .isEqualTo("incomplete");
            assertThat(controller
                            .post(
                                    "/api/unexpected-goods/" + number + "/admissions",
                                    body.formatted("5", "a good customer"))
                            .code())
                    .isEqualTo("more-than-returnable");
            var other = item;
            freshCustomerAndItem();
            var theirs = sold(2);
            assertThat(controller
                            .post(
                                    "/api/unexpected-goods/" + number + "/admissions",
                                    body.replace(sold.dispatch(), theirs.dispatch())
                                            .formatted("1", "why not"))
                            .code())
                    .as("another item: " + other)
                    .isEqualTo("wrong-item");
            before = balances();
            var admitted = controller.post(
                    "/api/unexpected-goods/" + number + "/admissions", body.formatted("3", "a good customer"));
            assertThat(admitted.status()).as(admitted.body().toString()).isEqualTo(200);
            assertThat(moved(before, balances())).isEqualTo(Map.of("goods_in_inspection", "12.00", "cogs", "-12.00"));
            var goods =
                    admitted.body().get("decisions").get(0).get("returnNumber").asString();
            assertThat(auditor.get("/api/returns/" + goods).text("remark"))
                    .contains("received as unexpected goods " + number, "no slip", "a good customer");
            assertThat(auditor.get("/api/unexpected-goods")
                            .body()
                            .get("rows")
                            .valueStream()
                            .map(r -> r.get("number").asString() + " "
                                    + r.get("left").asString())
                            .toList())
                    .contains(number + " 1");
            assertThat(controller
                            .post(
                                    "/api/unexpected-goods/" + number + "/turnings-away",
                                    "{\"version\":0,\"away\":\"SENT_BACK\",\"quantity\":1,\"reason\":\"not ours\"}")
                            .code())
                    .isEqualTo("stale-version");
            assertThat(controller
                            .post(
                                    "/api/unexpected-goods/" + number + "/turnings-away",
                                    "{\"version\":1,\"away\":\"SENT_BACK\",\"quantity\":1,\"reason\":\"not ours\"}")
                            .status())
                    .isEqualTo(200);
            assertThat(controller
                            .post(
                                    "/api/unexpected-goods/" + number + "/turnings-away",
                                    "{\"version\":2,\"away\":\"SCRAPPED\",\"quantity\":1,\"reason\":\"again\"}")
                            .code())
                    .isEqualTo("more-than-returnable");
            agrees("RETURN", goods);
        }

        @Test
        void saysWhoSentThem() {
            assertThat(warehouse
                            .post("/api/unexpected-goods", "{\"item\":\"%s\",\"quantity\":1}".formatted(item))
                            .code())
                    .isEqualTo("incomplete");
            assertThat(warehouse
                            .post("/api/unexpected-goods", "{\"item\":\"no-such\",\"quantity\":1,\"sender\":\"a van\"}")
                            .code())
                    .isEqualTo("not-found");
            assertThat(warehouse
                            .post(
                                    "/api/unexpected-goods",
                                    "{\"item\":\"%s\",\"quantity\":0,\"sender\":\"a van\"}".formatted(item))
                            .code())
                    .isEqualTo("incomplete");
            assertThat(warehouse
                            .post(
                                    "/api/unexpected-goods",
                                    "{\"item\":\"%s\",\"quantity\":1,\"sender\":\"a van\"}".formatted(item))
                            .status())
                    .isEqualTo(200);
        }
    }

    @Nested
    class Credited {

        @Test
        void twoAtOnceGetNoMoreThanIsLeft() throws Exception {
            var sold = sold(4);
            var start = new CountDownLatch(1);
            var pool = Executors.newFixedThreadPool(4);
            var answers = IntStream.range(0, 4)
                    .mapToObj(i -> pool.submit(() -> {
                        start.await();
                        return receivables.post(
                                "/api/credit-notes",
                                "{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"quantity\":3}],\"reason\":\"scratched\"}"
                                        .formatted(sold.invoice()));
                    }))
                    .toList();
            start.countDown();
            var codes = new java.util.TreeMap<String, Integer>();
            for (var answer : answers) {
                codes.merge(
                        answer.get().status() == 200 ? "credited" : answer.get().code(), 1, Integer::sum);
            }
            pool.shutdown();
            assertThat(codes).isEqualTo(Map.of("credited", 1, "more-than-creditable", 3));
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("open"))
                    .isEqualTo("12.10");
            booksAgree();
        }

        @Test
        void byQuantityByAmountAndAllThatIsLeft() {
            var sold = sold(4);
            credited("{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"quantity\":1}],\"reason\":\"scratched\"}"
                    .formatted(sold.invoice()));
            credited("{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"amount\":4.55}],\"reason\":\"late\"}"
                    .formatted(sold.invoice()));
            var left = auditor.get("/api/credit-notes/left?invoice=" + sold.invoice())
                    .body()
                    .get("lines")
                    .get(0);
            assertThat(left.get("quantity").asString() + " " + left.get("net").asString())
                    .isEqualTo("3 25.45");
            assertThat(receivables
                            .post(
                                    "/api/credit-notes",
                                    "{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"amount\":25.46}],\"reason\":\"late\"}"
                                            .formatted(sold.invoice()))
                            .code())
                    .isEqualTo("more-than-creditable");
            assertThat(receivables
                            .post(
                                    "/api/credit-notes",
                                    "{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"amount\":1.005}],\"reason\":\"late\"}"
                                            .formatted(sold.invoice()))
                            .code())
                    .isEqualTo("incomplete");
            credited("{\"ofInvoice\":\"%s\",\"reason\":\"all of it\"}".formatted(sold.invoice()));
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("open"))
                    .isEqualTo("0.00");
            assertThat(receivables
                            .post(
                                    "/api/credit-notes",
                                    "{\"ofInvoice\":\"%s\",\"reason\":\"more\"}".formatted(sold.invoice()))
                            .code())
                    .isEqualTo("more-than-creditable");
            agrees("INVOICE", sold.invoice());
        }

        @Test
        void aheadOnlyWhereTheReasonGrantsItAndFollowedUntilTheGoodsCome() {
            var sold = sold(4);
            var goods = allowed("faulty", line("dispatch", sold.dispatch(), 1, "2"));
            var body = "{\"ofReturn\":\"%s\",\"ahead\":true}".formatted(goods);
            assertThat(receivables.post("/api/credit-notes", body).code()).isEqualTo("not-here-yet");
            rules(rules -> rules.get("returns")
                    .get("reasons")
                    .valueStream()
                    .filter(reason -> reason.get("code").asString().equals("faulty"))
                    .forEach(reason -> ((ObjectNode) reason)
                            .put("noFee", true)
                            .put("freight", true)
                            .put("ahead", true)));
            credited(body);
            assertThat(row("AHEAD", goods)).isEqualTo("20.00");
            assertThat(controller
                            .post("/api/returns/" + goods + "/withdrawals", "{\"reason\":\"never comes\"}")
                            .code())
                    .isEqualTo("already-credited");
            warehouse.post("/api/returns/" + goods + "/receipts", "{\"lines\":[{\"line\":1,\"quantity\":1}]}");
            assertThat(row("AHEAD", goods)).isEqualTo("10.00");
            received(goods);
            assertThat(row("AHEAD", goods)).isEqualTo("gone");
            assertThat(row("TO_CREDIT", goods)).isEqualTo("gone");
            agrees("RETURN", goods);
        }

        private String row(String lane, String goods) {
            return auditor.get("/api/returns?customer=" + customer + "&lane=" + lane)
                    .body()
                    .get("rows")
                    .valueStream()
                    .filter(r -> r.get("number").asString().equals(goods))
                    .map(r -> r.get("creditedAhead").asString())
                    .findFirst()
                    .orElse("gone");
        }

        @Test
        void whatIsHereAndNotCreditedIsALane() {
            var goods = allowed("unwanted", line("dispatch", sold(4).dispatch(), 1, "2"));
            received(goods);
            var waiting = auditor.get("/api/returns?customer=" + customer + "&lane=TO_CREDIT")
                    .body()
                    .get("rows");
            assertThat(waiting).hasSize(1);
            assertThat(waiting.get(0).get("creditDue").asString()).isEqualTo("20.00");
            assertThat(lane("returns-to-credit")).isPositive();
            assertThat(stillToDo("RETURN", goods)).containsExactly("2 in inspection", "EUR 20.00 net to be credited");
            credited("{\"ofReturn\":\"%s\"}".formatted(goods));
            assertThat(auditor.get("/api/returns?customer=" + customer + "&lane=TO_CREDIT")
                            .body()
                            .get("rows"))
                    .isEmpty();
        }
    }

    private List<String> stillToDo(String kind, String number) {
        return auditor.get("/api/trails/" + kind + "/" + number)
                .body()
                .get("stillToDo")
                .valueStream()
                .map(todo -> todo.get("what").asString())
                .toList();
    }

    private long lane(String code) {
        return auditor.get("/api/today")
                .body()
                .get("lanes")
                .valueStream()
                .filter(l -> l.get("lane").asString().equals(code))
                .findFirst()
                .orElseThrow()
                .get("count")
                .asLong();
    }

    /** A paid sale is credited; what the credit note leaves is kept, set against another invoice, or refunded. */
    @Nested
    class Settled {

        private String credit() {
            var sold = sold(2);
            paid(sold);
            return credited("{\"ofInvoice\":\"%s\",\"lines\":[{\"line\":1,\"quantity\":1}],\"reason\":\"scratched\"}"
                            .formatted(sold.invoice()))
                    .get(0);
        }

        private Rest.Answer refund(String credit) {
            return controller.post(
                    "/api/refunds",
                    "{\"of\":\"%s\",\"version\":%s,\"reason\":\"wants it\"}"
                            .formatted(credit, versionOf("/api/credit-notes/" + credit)));
        }

        @Test
        void againstAnotherInvoiceWithTheCreditOfThatNote() {
            var older = credit();
            var credit = credit();
            var other = sold(3);
            assertThat(receivables
                            .post(
                                    "/api/credit-allocations",
                                    "{\"customer\":\"%s\",\"of\":\"%s\",\"allocate\":[{\"invoice\":\"%s\",\"amount\":12.10}]}"
                                            .formatted(customer, credit, other.invoice()))
                            .status())
                    .isEqualTo(200);
            assertThat(auditor.get("/api/credit-notes/" + credit).text("left")).isEqualTo("0.00");
            assertThat(auditor.get("/api/credit-notes/" + older).text("left")).isEqualTo("12.10");
            assertThat(auditor.get("/api/credit-notes/" + credit)
                            .body()
                            .get("uses")
                            .get(0)
                            .get("number")
                            .asString())
                    .isEqualTo(other.invoice());
            assertThat(auditor.get("/api/invoices/" + other.invoice()).text("open"))
                    .isEqualTo("24.20");
        }

        @Test
        void orKeptOrToBeGivenBackAsIsSaid() {
            var credit = credit();
            var before = lane("refunds-to-do");
            assertThat(receivables
                            .send(
                                    "PUT",
                                    "/api/credit-notes/" + credit + "/wish",
                                    "{\"wish\":\"REFUND\"}",
                                    UUID.randomUUID().toString())
                            .text("wish"))
                    .isEqualTo("REFUND");
            assertThat(lane("refunds-to-do")).isEqualTo(before + 1);
            assertThat(stillToDo("CREDIT_NOTE", credit)).containsExactly("EUR 12.10 to be refunded");
            refund(credit);
            assertThat(lane("refunds-to-do")).isEqualTo(before);
        }

        private String payout(String refund, String until) throws InterruptedException {
            var deadline = System.nanoTime() + Duration.ofSeconds(30).toNanos();
            var state = "";
            while (System.nanoTime() < deadline && !state.equals(until)) {
                state = auditor.get("/api/refunds/" + refund).text("payout");
                Thread.sleep(50);
            }
            return state;
        }

        private void through(String behaviour) {
            rules(rules -> ((ObjectNode) rules.get("unwind")).put("refundsThroughService", true));
            assertThat(lead.send(
                                    "PUT",
                                    "/api/simulated-payment-service",
                                    "{\"behaviour\":\"%s\"}".formatted(behaviour),
                                    UUID.randomUUID().toString())
                            .status())
                    .isEqualTo(200);
        }

        private List<String> paidOut(String refund) {
            return jdbc.sql("select answer from simulated_payout where payout_key = ?")
                    .param(refund)
                    .query(String.class)
                    .list();
        }

        @Test
        void throughTheServiceWhichPays() throws Exception {
            through("PAYS");
            var refund = refund(credit()).text("number");
            assertThat(payout(refund, "PAID")).isEqualTo("PAID");
            assertThat(paidOut(refund)).containsExactly("PAID");
            agrees("REFUND", refund);
        }

        @Test
        void whatTheServiceDeclinesIsCustomerCreditAgain() throws Exception {
            through("DECLINES");
            var credit = credit();
            var before = balances();
            var refund = refund(credit).text("number");
            assertThat(payout(refund, "DECLINED")).isEqualTo("DECLINED");
            assertThat(moved(before, balances())).as("mirrored").isEmpty();
            assertThat(auditor.get("/api/credit-notes/" + credit).text("left")).isEqualTo("12.10");
            assertThat(auditor.get("/api/refunds/" + refund).text("reversed")).isEqualTo("true");
            var rows = auditor.get("/api/trails/CREDIT_NOTE/" + credit)
                    .body()
                    .get("rows")
                    .valueStream()
                    .filter(r -> r.get("document").get("number").asString().equals(refund))
                    .toList();
            assertThat(rows).hasSize(2);
            assertThat(rows.get(1).get("what").asString()).contains("did not reach the customer");
            var open = auditor.get("/api/payouts")
                    .body()
                    .get("rows")
                    .valueStream()
                    .filter(r -> r.get("refund").asString().equals(refund))
                    .findFirst()
                    .orElseThrow();
            assertThat(receivables
                            .post(
                                    "/api/payouts/" + refund + "/askings",
                                    "{\"version\":%s}"
                                            .formatted(open.get("version").asString()))
                            .code())
                    .isEqualTo("not-awaiting");
            through("PAYS");
            assertThat(payout(refund(credit).text("number"), "PAID")).isEqualTo("PAID");
            assertThat(auditor.get("/api/payouts")
                            .body()
                            .get("rows")
                            .valueStream()
                            .map(r -> r.get("refund").asString())
                            .toList())
                    .as("done with")
                    .doesNotContain(refund);
            agrees("CREDIT_NOTE", credit);
            booksAgree();
        }

        @Test
        void anAnswerThatIsLostIsAskedForAndNotPaidTwice() throws Exception {
            through("LOSES_ANSWER");
            var refund = refund(credit()).text("number");
            assertThat(payout(refund, "PAID")).isEqualTo("PAID");
            assertThat(paidOut(refund)).containsExactly("PAID");
        }

        @Test
        void aServiceThatIsSilentIsAskedAgainBySomebody() throws Exception {
            through("SILENT");
            var refund = refund(credit()).text("number");
            assertThat(payout(refund, "UNANSWERED")).isEqualTo("UNANSWERED");
            assertThat(paidOut(refund)).isEmpty();
            var open = auditor.get("/api/payouts")
                    .body()
                    .get("rows")
                    .valueStream()
                    .filter(r -> r.get("refund").asString().equals(refund))
                    .findFirst()
                    .orElseThrow();
            through("PAYS");
            var asked = "{\"version\":%s}".formatted(open.get("version").asString());
            assertThat(receivables
                            .post("/api/payouts/" + refund + "/askings", asked)
                            .status())
                    .isEqualTo(200);
            assertThat(payout(refund, "PAID")).isEqualTo("PAID");
            assertThat(receivables
                            .post("/api/payouts/" + refund + "/askings", asked)
                            .code())
                    .isEqualTo("not-awaiting");
            assertThat(paidOut(refund)).containsExactly("PAID");
        }
    }

    @Nested
    class BilledAgain {

        private Rest.Answer corrected(String invoice, String body) {
            return receivables.post("/api/invoices/" + invoice + "/corrections", body);
        }

        @Test
        void withAnotherPriceInOneGo() {
            var sold = sold(4);
            paid(sold);
            var before = balances();
            var preview = receivables.post(
                    "/api/invoices/" + sold.invoice() + "/corrections/previews",
                    "{\"lines\":[{\"line\":1,\"price\":8.00}]}");
            assertThat(preview.text("credited") + " " + preview.text("billed")).isEqualTo("48.40 38.72");
            assertThat(moved(before, balances())).as("a preview keeps nothing").isEmpty();
            var done = corrected(
                    sold.invoice(), "{\"lines\":[{\"line\":1,\"price\":8.00}],\"reason\":\"the price was 8.00\"}");
            assertThat(done.status()).as(done.body().toString()).isEqualTo(200);
            assertThat(done.text("creditNote")).isEqualTo(preview.text("creditNote"));
            assertThat(moved(before, balances()))
                    .as("no cost moves: the goods are where they were")
                    .isEqualTo(Map.of(
                            "sales_returns",
                            "40.00",
                            "revenue",
                            "-32.00",
                            "output_vat",
                            "1.68",
                            "receivables",
                            "38.72",
                            "customer_credit",
                            "-48.40"));
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("open"))
                    .isEqualTo("0.00");
            assertThat(auditor.get("/api/invoices/" + done.text("invoice")).text("open"))
                    .isEqualTo("38.72");
            var order = auditor.get("/api/orders/" + done.text("order")).body();
            assertThat(order.get("state").asString())
                    .as("nothing of it is to be shipped")
                    .isEqualTo("COMPLETED");
            assertThat(order.get("po").asString())
                    .as("one order of the customer's")
                    .isEqualTo(auditor.get("/api/orders/" + sold.order()).text("po"));
            assertThat(order.get("lines").get(0).get("source").get("number").asString())
                    .isEqualTo(sold.invoice());
            agrees("INVOICE", sold.invoice());
            agrees("INVOICE", done.text("invoice"));
            assertThat(corrected(sold.invoice(), "{\"reason\":\"again\"}").code())
                    .isEqualTo("more-than-creditable");
        }

        @Test
        void notWhereTheGoodsHaveNotLeft() {
            var ahead = receivables
                    .post("/api/invoices", "{\"orders\":[\"%s\"],\"ahead\":true}".formatted(cleared(2)))
                    .text("number");
            assertThat(corrected(ahead, "{\"reason\":\"the price was 8.00\"}").code())
                    .isEqualTo("billed-ahead");
        }

        @Test
        void forAnotherCustomer() {
            var sold = sold(2);
            var mine = customer;
            freshCustomerAndItem();
            assertThat(corrected(sold.invoice(), "{\"customer\":\"%s\",\"reason\":\"\"}".formatted(customer))
                            .code())
                    .isEqualTo("incomplete");
            var done = corrected(
                    sold.invoice(),
                    "{\"customer\":\"%s\",\"po\":\"theirs\",\"reason\":\"it was their order\"}".formatted(customer));
            assertThat(done.status()).as(done.body().toString()).isEqualTo(200);
            assertThat(auditor.get("/api/invoices/" + done.text("invoice")).text("customer"))
                    .isEqualTo(customer);
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("customer"))
                    .isEqualTo(mine);
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("open"))
                    .isEqualTo("0.00");
            booksAgree();
        }

        @Test
        void isNotBilledWhereTheChecksHoldIt() {
            var sold = sold(2);
            assertThat(lead.send(
                                    "PUT",
                                    "/api/customers/" + customer + "/terms",
                                    "{\"version\":%s,\"blocked\":\"does not pay\"}"
                                            .formatted(versionOf("/api/customers/" + customer)),
                                    UUID.randomUUID().toString())
                            .status())
                    .isEqualTo(200);
            var done = corrected(
                    sold.invoice(), "{\"lines\":[{\"line\":1,\"price\":8.00}],\"reason\":\"the price was 8.00\"}");
            assertThat(done.text("state")).isEqualTo("HELD");
            assertThat(done.body().path("invoice").isNull()
                            || done.body().path("invoice").isMissingNode())
                    .isTrue();
        }
    }

    @Test
    void aReplacementAtNoChargeIsStartedFromTheReturn() {
        var sold = sold(5);
        var goods = allowed("damaged", line("dispatch", sold.dispatch(), 1, "3"));
        warehouse.post("/api/returns/" + goods + "/receipts", "{\"lines\":[{\"line\":1,\"quantity\":2}]}");
        var draft = clerk.post("/api/orders/started", "{\"kind\":\"RETURN\",\"number\":\"%s\"}".formatted(goods));
        assertThat(draft.status()).as(draft.body().toString()).isEqualTo(200);
        assertThat(draft.text("kind") + " " + draft.text("gross") + " "
                        + draft.body().get("lines").get(0).get("quantity").asString())
                .as("what came")
                .isEqualTo("REPLACEMENT 0.00 2");
        var number = draft.text("number");
        assertThat(clerk.post(
                                "/api/orders/" + number + "/submission",
                                "{\"version\":%s}".formatted(draft.text("version")))
                        .text("state"))
                .isEqualTo("CLEARED");
        assertThat(auditor.get("/api/returns/" + goods)
                        .body()
                        .get("replacements")
                        .get(0)
                        .asString())
                .isEqualTo(number);
        assertThat(auditor.get("/api/trails/RETURN/" + goods)
                        .body()
                        .get("rows")
                        .valueStream()
                        .map(r -> r.get("what").asString()))
                .anyMatch(what -> what.contains("replacement order " + number));
        var before = balances();
        gone(number);
        assertThat(moved(before, balances())).isEqualTo(Map.of("given_away", "8.00", "inventory", "-8.00"));
        assertThat(auditor.get("/api/orders/" + number).text("state")).isEqualTo("COMPLETED");
    }

    @Test
    void whoHasNotSentGoodsBackIsRemindedAndNotTooOften() {
        jdbc.sql("update customer set email = 'yard@example.com' where code = ?")
                .param(customer)
                .update();
        var goods = allowed("damaged", line("dispatch", sold(3).dispatch(), 1, "2"));
        var body = "{\"returns\":[\"%s\"]%%s}".formatted(goods);
        assertThat(clerk.post("/api/batches/return-reminders", body.formatted(""))
                        .text("done"))
                .isEqualTo("1");
        assertThat(clerk.post("/api/batches/return-reminders", body.formatted(""))
                        .body()
                        .get("entries")
                        .get(0)
                        .get("code")
                        .asString())
                .isEqualTo("nothing-due");
        itIsInDays(7);
        assertThat(clerk.post("/api/batches/return-reminders", body.formatted(""))
                        .text("done"))
                .isEqualTo("1");
        var mail = auditor.get("/api/outbox?recipient=yard@example.com")
                .body()
                .get("rows")
                .get(0);
        assertThat(mail.get("subject").asString()).contains("Return still expected", goods);
        assertThat(mail.get("attachment").asString()).isEqualTo("return-slip-" + goods + ".pdf");
        received(goods);
        itIsInDays(30);
        assertThat(clerk.post("/api/batches/return-reminders", body.formatted(""))
                        .body()
                        .get("entries")
                        .get(0)
                        .get("code")
                        .asString())
                .isEqualTo("more-than-returnable");
    }

    /** Eight of the item left and two came back, one of which goes to the customer again: an eighth of the value. */
    @Test
    void ratesCountWhatCameBackAndStayed() {
        var goods = allowed("unwanted", line("dispatch", sold(8).dispatch(), 1, "2"));
        received(goods);
        assertThat(warehouse
                        .post(
                                "/api/returns/" + goods + "/inspections",
                                "{\"lines\":[{\"line\":1,\"restock\":1,\"sendBack\":1}]}")
                        .status())
                .isEqualTo(200);
        var row = auditor.get("/api/return-rates?by=ITEM")
                .body()
                .get("rows")
                .valueStream()
                .filter(r -> r.get("code").asString().equals(item))
                .findFirst()
                .orElseThrow();
        assertThat(row.get("quantity").asString() + " " + row.get("value").asString() + " "
                        + row.get("left").asString() + " " + row.get("percent").asString())
                .isEqualTo("1 4.00 32.00 12.5");
        assertThat(auditor.get("/api/return-rates?by=CUSTOMER")
                        .body()
                        .get("rows")
                        .valueStream()
                        .filter(r -> r.get("code").asString().equals(customer))
                        .findFirst()
                        .orElseThrow()
                        .get("percent")
                        .asString())
                .isEqualTo("12.5");
        assertThat(auditor.get("/api/return-rates?by=REASON")
                        .body()
                        .get("rows")
                        .valueStream()
                        .map(r -> r.get("name").asString())
                        .toList())
                .contains("Not wanted");
        assertThat(auditor.get("/api/return-rates?from=2026-02-01&to=2026-01-01")
                        .code())
                .isEqualTo("incomplete");
    }
}
