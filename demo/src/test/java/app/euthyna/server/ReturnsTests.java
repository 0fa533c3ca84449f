package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.BinaryBitmap;
import com.google.zxing.DecodeHintType;
import com.google.zxing.MultiFormatReader;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.rendering.PDFRenderer;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/**
 * Goods that come back, what the customer gets for them, and how it reaches them. Item: 10.00 at 21 %, 4.00 at cost.
 */
class ReturnsTests extends OnReturns {

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

        /**
         * The barcode is read back from the page by a reader of its own (ZXing), the text by PDFBox. The reader is told
         * what kind of barcode it is: one that tries all kinds finds some also in rows of text.
         */
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
                                        Map.of(
                                                DecodeHintType.TRY_HARDER,
                                                true,
                                                DecodeHintType.POSSIBLE_FORMATS,
                                                List.of(BarcodeFormat.CODE_128)))
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

        private String taken(int quantity) {
            return warehouse
                    .post(
                            "/api/unexpected-goods",
                            "{\"customer\":\"%s\",\"item\":\"%s\",\"quantity\":%d,\"remark\":\"no slip\"}"
                                    .formatted(customer, item, quantity))
                    .text("number");
        }

        private Rest.Answer admit(Rest who, String number, String dispatch, int quantity, String reason) {
            return who.post(
                    "/api/unexpected-goods/" + number + "/admissions", """
                    {"version":0,"lines":[{"dispatch":"%s","line":1,"quantity":%d}],"returnReason":"damaged","reason":"%s"}\
                    """.formatted(dispatch, quantity, reason));
        }

        private Rest.Answer turnAway(String number, int version, String away) {
            return controller.post(
                    "/api/unexpected-goods/" + number + "/turnings-away",
                    "{\"version\":%d,\"away\":\"%s\",\"quantity\":1,\"reason\":\"not ours\"}".formatted(version, away));
        }

        @Test
        void standNowhereUntilTheyAreDecided() {
            sold(5);
            var before = balances();
            var number = taken(4);
            assertThat(moved(before, balances())).isEmpty();
            assertThat(auditor.get("/api/find?q=" + number)
                            .body()
                            .valueStream()
                            .map(hit -> hit.get("number").asString())
                            .toList())
                    .contains(number);
        }

        @Test
        void areAdmittedByTheControllerWithAReasonAndNoMoreThanWasSold() {
            var sold = sold(5);
            var number = taken(6);
            assertThat(admit(warehouse, number, sold.dispatch(), 3, "a good customer")
                            .code())
                    .isEqualTo("not-authorised");
            assertThat(admit(controller, number, sold.dispatch(), 3, "").code()).isEqualTo("incomplete");
            assertThat(admit(controller, number, sold.dispatch(), 6, "a good customer")
                            .code())
                    .isEqualTo("more-than-returnable");
            var other = item;
            freshCustomerAndItem();
            assertThat(admit(controller, number, sold(2).dispatch(), 1, "why not")
                            .code())
                    .as("another item: " + other)
                    .isEqualTo("wrong-item");
        }

        @Test
        void becomeAReturnWithWhatIsAdmittedAndTheRestIsTurnedAway() {
            var sold = sold(5);
            var number = taken(4);
            var before = balances();
            var admitted = admit(controller, number, sold.dispatch(), 3, "a good customer");
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
            assertThat(turnAway(number, 0, "SENT_BACK").code()).isEqualTo("stale-version");
            assertThat(turnAway(number, 1, "SENT_BACK").status()).isEqualTo(200);
            assertThat(turnAway(number, 2, "SCRAPPED").code()).isEqualTo("more-than-returnable");
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
        var mail = auditor.get("/api/lists/mails/rows?columns=subject,file&filter=to:is:yard@example.com")
                .body()
                .get("rows")
                .get(0)
                .get("cells");
        assertThat(mail.get("subject").asString()).contains("Return still expected", goods);
        assertThat(mail.get("file").asString()).isEqualTo("return-slip-" + goods + ".pdf");
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
        var left =
                "/api/lists/dispatch-lines/totals?columns=returned,returnedCost,cost,returnRate&filter=customer:any:";
        var sums = auditor.get(left + customer).body().get("sums");
        assertThat(Stream.of("returned", "returnedCost", "cost", "returnRate")
                        .map(column -> new BigDecimal(sums.get(column).asString())))
                .usingElementComparator(BigDecimal::compareTo)
                .containsExactly(BigDecimal.ONE, new BigDecimal("4"), new BigDecimal("32"), new BigDecimal("12.5"));
        assertThat(auditor.get("/api/lists/returns/groups?chart=reason:count&filter=customer:any:" + customer)
                        .body()
                        .get(0)
                        .get("words")
                        .asString())
                .isEqualTo("Not wanted");
    }
}
