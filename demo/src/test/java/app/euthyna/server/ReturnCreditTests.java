package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/** Credit for what came back, what is settled with it, and what is billed again. */
class ReturnCreditTests extends OnReturns {

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
}
