package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Plans that wait for a decision, what is left over, and their paper. */
class WaitingPlanTests extends OnUnwinding {

    @Nested
    class Waiting {

        @Test
        void goesOnByItselfWhenTheGoodsAreThereAndGivesTheMoneyBack() {
            var sold = sold();
            var before = balances();
            var done = carriedOut(unwindRequest(
                    "ORDER",
                    sold.order(),
                    "take-goods-back",
                    ",\"lines\":[{\"line\":1,\"quantity\":4}],\"money\":\"refund\",\"restockingPercent\":10"));
            assertThat(done.text("waitsAt")).isEqualTo("receive-goods");
            assertThat(balances())
                    .as("nothing is posted before the goods are there")
                    .isEqualTo(before);
            var goods = done.text("returnNumber");
            received(goods, "\"lines\":[{\"line\":1,\"quantity\":3}]");
            assertThat(undone(sold.order()).get("waitsFor").asString())
                    .as("one is still to come")
                    .isEqualTo("GOODS");
            inspected(goods, "{\"line\":1,\"restock\":2,\"scrap\":1}");
            received(goods, "");
            assertThat(undone(sold.order()).get("waitsFor").asString()).isEqualTo("INSPECTION");
            assertThat(moved(before, balances())).doesNotContainKey("bank");
            inspected(goods, "{\"line\":1,\"restock\":1}");
            assertThat(undone(sold.order()).get("state").asString()).isEqualTo("DONE");
            // 4 × 10.00 less 10 % = 36.00 net, 7.56 VAT; 3 of 4 at cost 4.00 back on the shelf
            assertThat(moved(before, balances()))
                    .isEqualTo(Map.of(
                            "sales_returns",
                            "36.00",
                            "output_vat",
                            "7.56",
                            "bank",
                            "-43.56",
                            "inventory",
                            "12.00",
                            "write_off",
                            "4.00",
                            "cogs",
                            "-16.00"));
            agrees("ORDER", sold.order());
            booksAgree();
        }

        @Test
        void isAbandonedWithAReasonAndLeavesTheBooksWhole() {
            var sold = sold();
            var goods = carriedOut(unwindRequest("INVOICE", sold.invoice(), "take-goods-back", ""))
                    .text("returnNumber");
            var plan = undone(sold.order());
            var path = "/api/unwind/waiting/" + plan.get("id").asString() + "/abandonments";
            assertThat(controller
                            .post(
                                    path,
                                    "{\"version\":%s}"
                                            .formatted(plan.get("version").asString()))
                            .code())
                    .isEqualTo("incomplete");
            assertThat(clerk.post(path, "{\"version\":0,\"reason\":\"no\"}").code())
                    .isEqualTo("not-authorised");
            assertThat(controller
                            .post(
                                    path,
                                    "{\"version\":%s,\"reason\":\"they keep them\"}"
                                            .formatted(plan.get("version").asString()))
                            .text("state"))
                    .isEqualTo("ABANDONED");
            assertThat(auditor.get("/api/returns/" + goods)
                            .body()
                            .get("expects")
                            .asBoolean())
                    .isFalse();
            assertThat(warehouse
                            .post("/api/returns/" + goods + "/receipts", "{}")
                            .code())
                    .isEqualTo("more-than-returnable");
            assertThat(plan(unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ",\"withDispatch\":true"))
                            .status())
                    .as("the way is free again")
                    .isEqualTo(200);
            agrees("ORDER", sold.order());
        }

        /** Above 50.00 the finance lead decides. */
        @Test
        void forTheLeadWhereMuchMoneyGoesBack() {
            limit("50");
            try {
                var sold = sold();
                var done = carriedOut(
                        unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ",\"money\":\"refund\""));
                assertThat(done.text("waitsAt")).isEqualTo("refund");
                var plan = undone(sold.order());
                assertThat(plan.get("waitsFor").asString()).isEqualTo("DECISION");
                var path = "/api/unwind/waiting/" + plan.get("id").asString() + "/decisions";
                assertThat(clerk.post(path, "{\"version\":0}").code()).isEqualTo("not-authorised");
                assertThat(controller.post(path, "{\"version\":0}").code()).isEqualTo("limit-of-person");
                var payment = auditor.get("/api/payments").body().get("rows").get(0);
                assertThat(controller
                                .post(
                                        "/api/refunds",
                                        "{\"of\":\"%s\",\"version\":%s,\"reason\":\"round the plan\"}"
                                                .formatted(
                                                        payment.get("number").asString(),
                                                        payment.get("version").asString()))
                                .code())
                        .isEqualTo("limit-of-person");
                var before = balances();
                assertThat(lead.post(
                                        path,
                                        "{\"version\":%s}"
                                                .formatted(plan.get("version").asString()))
                                .text("state"))
                        .isEqualTo("DONE");
                assertThat(moved(before, balances())).isEqualTo(Map.of("bank", "-121.00", "customer_credit", "121.00"));
                assertThat(lead.post(path, "{\"version\":1}").code()).isEqualTo("not-found");
                agrees("ORDER", sold.order());
            } finally {
                limit("null");
            }
        }

        private void limit(String amount) {
            limits(amount.equals("null") ? "[]" : "[{\"role\":\"CONTROLLER\",\"amount\":%s}]".formatted(amount), "[]");
        }

        /**
         * What goes on later is dated on the day on which it does: a month that was closed meanwhile is no hindrance.
         */
        @Test
        void goesOnInTheOpenMonth() {
            var sold = sold();
            var goods = carriedOut(unwindRequest(
                            "ORDER", sold.order(), "take-goods-back", ",\"lines\":[{\"line\":1,\"quantity\":2}]"))
                    .text("returnNumber");
            received(goods, "\"lines\":[{\"line\":1,\"quantity\":1}]");
            inspected(goods, "{\"line\":1,\"restock\":1}");
            var month = YearMonth.from(realToday()).atEndOfMonth();
            clock.set(month.plusDays(1));
            assertThat(lead.post("/api/ledger/periods/closings", "{\"through\":\"%s\"}".formatted(month))
                            .status())
                    .isEqualTo(200);
            try {
                assertThat(controller
                                .post("/api/returns/" + goods + "/withdrawals", "{\"reason\":\"the other one stays\"}")
                                .status())
                        .isEqualTo(200);
                assertThat(undone(sold.order()).get("state").asString()).isEqualTo("DONE");
                assertThat(jdbc.sql("select max(credited_on) from credit_note")
                                .query((r, n) -> r.getObject(1, LocalDate.class))
                                .single())
                        .isEqualTo(month.plusDays(1));
                assertThat(plan(unwindRequest("DISPATCH", sold.dispatch(), "take-back-dispatch", ""))
                                .code())
                        .isEqualTo("already-returned");
            } finally {
                lead.post("/api/ledger/periods/reopenings", "{\"reason\":\"the test is over\"}");
            }
            booksAgree();
        }
    }

    @Nested
    class Leftovers {

        @Test
        void ofManyOrdersGoTogetherWithALogAndStandInTheReport() {
            var first = cleared(3);
            var second = cleared(4);
            var paid = cleared(2);
            receivables.post("/api/deposits", "{\"order\":\"%s\",\"amount\":5}".formatted(paid));
            var preview = controller.post(
                    "/api/unwind/together/previews",
                    "{\"kind\":\"ORDER\",\"intent\":\"cancel-rest\",\"numbers\":[\"%s\",\"%s\",\"%s\"]}"
                            .formatted(first, second, paid));
            assertThat(List.of(preview.text("total"), preview.text("possible"))).containsExactly("70.00", "2");
            assertThat(preview.body().get("documents").get(2).get("code").asString())
                    .isEqualTo("deposit-attached");
            staged(second);
            var orders = new ArrayList<String>();
            preview.body().get("documents").forEach(o -> {
                if (!o.get("fingerprint").isNull()) {
                    orders.add("{\"number\":\"%s\",\"fingerprint\":\"%s\"}"
                            .formatted(
                                    o.get("number").asString(),
                                    o.get("fingerprint").asString()));
                }
            });
            var log = controller.post(
                    "/api/unwind/together/executions",
                    "{\"kind\":\"ORDER\",\"intent\":\"cancel-rest\",\"documents\":[%s],\"reasonCode\":\"leftover\",\"reason\":\"nobody waits\"}"
                            .formatted(String.join(",", orders)));
            var told = new ArrayList<String>();
            log.body()
                    .get("entries")
                    .forEach(e -> told.add(
                            e.get("state").asString() + " " + e.get("code").asString()));
            assertThat(told)
                    .as("what changed since is refused, the rest goes")
                    .containsExactly("DONE ", "REFUSED plan-changed");
            assertThat(auditor.get("/api/orders/" + first).text("state")).isEqualTo("CANCELLED");
            var left = new ArrayList<String>();
            auditor.get("/api/lists/orders/rows?filter=remainder:any:YES&filter=customer:any:" + customer)
                    .body()
                    .get("rows")
                    .forEach(row -> left.add(row.get("opens").asString()));
            assertThat(left).containsExactlyInAnyOrder(second, paid);
            var amounts = new ArrayList<String>();
            auditor.get("/api/lists/undone/groups?chart=reason:amount&filter=customer:any:" + customer)
                    .body()
                    .forEach(row -> amounts.add(row.get("words").asString() + " "
                            + row.get("count").asString() + " "
                            + row.get("measured").asString()));
            assertThat(amounts).containsExactly("Remainder no longer wanted 1 30.00");
        }
    }

    @Nested
    class OnPaper {

        @Test
        void aCreditNoteSaysWhatItIsForAndIsSentInItsOwnName() {
            var sold = sold();
            var number = receivables
                    .post(
                            "/api/credit-notes",
                            "{\"ofInvoice\":\"%s\",\"reason\":\"scratched\",\"lines\":[{\"line\":1,\"quantity\":2}]}"
                                    .formatted(sold.invoice()))
                    .body()
                    .get("numbers")
                    .get(0)
                    .asString();
            assertThat(auditor.get("/api/credit-notes/" + number).text("gross")).isEqualTo("24.20");
            assertThat(auditor.get("/api/credit-notes?customer=" + customer)
                            .body()
                            .get("rows")
                            .get(0)
                            .get("number")
                            .asString())
                    .isEqualTo(number);
            var print = receivables.post(
                    "/api/prints", "{\"paper\":\"CREDIT_NOTE\",\"numbers\":[\"%s\"]}".formatted(number));
            assertThat(print.body().get("sheets").get(0).get("copy").asInt()).isZero();
            var mail = controller.post(
                    "/api/mails",
                    "{\"paper\":\"CREDIT_NOTE\",\"number\":\"%s\",\"to\":\"office@yard.example\"}".formatted(number));
            assertThat(mail.status()).as("%s", mail.body()).isEqualTo(200);
        }
    }
}
