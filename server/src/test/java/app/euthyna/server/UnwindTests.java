package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * UnwindRequest through the whole stack: what is previewed is what happens, once; what waits goes on. Rules from the
 * domain reference, sections 9 and 10.
 */
class UnwindTests extends OnServer {

    private static String unwindRequest(String kind, String number, String intent, String more) {
        return "{\"kind\":\"%s\",\"number\":\"%s\",\"intent\":\"%s\",\"reason\":\"in error\",\"reasonCode\":\"entered-in-error\"%s}"
                .formatted(kind, number, intent, more);
    }

    private Rest.Answer plan(String unwindRequest) {
        return controller.post("/api/unwind/plans", unwindRequest);
    }

    private static String bound(String unwindRequest, Rest.Answer plan) {
        return unwindRequest.substring(0, unwindRequest.length() - 1) + ",\"fingerprint\":\"" + plan.text("fingerprint")
                + "\"}";
    }

    private Rest.Answer carriedOut(String unwindRequest) {
        var plan = plan(unwindRequest);
        assertThat(plan.status())
                .as("plan of %s: %s", unwindRequest, plan.body())
                .isEqualTo(200);
        var done = controller.post("/api/unwind/executions", bound(unwindRequest, plan));
        assertThat(done.status()).as("%s", done.body()).isEqualTo(200);
        return done;
    }

    private String pay(String invoice, String amount) {
        return receivables
                .post(
                        "/api/payments",
                        "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s}]}"
                                .formatted(customer, amount, invoice, amount))
                .text("number");
    }

    private JsonNode undone(String order) {
        return auditor.get("/api/unwind/done?order=" + order).body().get("rows").get(0);
    }

    private void received(String goods, String more) {
        assertThat(warehouse
                        .post("/api/returns/" + goods + "/receipts", "{" + more + "}")
                        .status())
                .isEqualTo(200);
    }

    private void inspected(String goods, String line) {
        assertThat(warehouse
                        .post("/api/returns/" + goods + "/inspections", "{\"lines\":[" + line + "]}")
                        .status())
                .isEqualTo(200);
    }

    /** Ten shipped, billed and paid: gross 121.00, cost 40.00. */
    private record Sold(String order, String dispatch, String invoice) {}

    private Sold sold() {
        var order = cleared(10);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        pay(invoice, "121");
        return new Sold(order, dispatch, invoice);
    }

    @Nested
    class Previews {

        /** Random lives of an order, each each unwound until nothing is left. */
        @Test
        void areWhatHappensToTheCent() {
            var seed = Long.getLong("seed", System.nanoTime());
            System.out.println("tangled orders undone from seed " + seed + " (-Dseed=" + seed + " runs them again)");
            var undone = new TreeMap<String, Integer>();
            for (int life = 0; life < Integer.getInteger("lives", 5); life++) {
                var random = new Random(seed + life);
                var order = cleared(3 + random.nextInt(12));
                for (int step = 0; step < 9; step++) {
                    live(order, random);
                }
                for (int step = 0;
                        step < 12 && undo(order, random, undone, "seed %d, life %d".formatted(seed, life));
                        step++) {
                    if (random.nextInt(3) == 0) {
                        live(order, random);
                    }
                }
                agrees("ORDER", order);
            }
            booksAgree();
            assertThat(undone).as("every way was gone").hasSizeGreaterThanOrEqualTo(4);
        }

        private void live(String order, Random random) {
            switch (random.nextInt(8)) {
                case 0, 1 ->
                    warehouse.post(
                            "/api/dispatches",
                            "{\"order\":\"%s\",\"version\":%s,\"lines\":[{\"line\":1,\"quantity\":%d}]}"
                                    .formatted(order, versionOf("/api/orders/" + order), 1 + random.nextInt(4)));
                case 2, 3 ->
                    documents(order, "DISPATCH", "STAGED").stream()
                            .findFirst()
                            .ifPresent(d -> warehouse.post(
                                    "/api/dispatches/" + d.get("number").asString() + "/departure",
                                    "{\"version\":" + d.get("version").asString() + "}"));
                case 4 ->
                    receivables.post(
                            "/api/invoices",
                            "{\"orders\":[\"%s\"],\"ahead\":%s,\"lines\":[{\"order\":\"%s\",\"line\":1,\"quantity\":%d}]}"
                                    .formatted(order, random.nextBoolean(), order, 1 + random.nextInt(3)));
                case 5 ->
                    documents(order, "INVOICE", "OPEN").stream()
                            .findFirst()
                            .ifPresent(i -> pay(i.get("number").asString(), "7.77"));
                case 6 ->
                    receivables.post(
                            "/api/deposits",
                            "{\"order\":\"%s\",\"amount\":%d.5}".formatted(order, 1 + random.nextInt(30)));
                default ->
                    documents(order, "INVOICE", "OPEN").stream()
                            .findFirst()
                            .ifPresent(i -> receivables.post(
                                    "/api/credit-notes",
                                    "{\"ofInvoice\":\"%s\",\"reason\":\"a scratch\",\"lines\":[{\"line\":1,\"amount\":1.23}]}"
                                            .formatted(i.get("number").asString())));
            }
        }

        private List<JsonNode> documents(String order, String kind, String state) {
            var found = new ArrayList<JsonNode>();
            auditor.get("/api/review/" + order).body().get("documents").forEach(d -> {
                if (d.get("kind").asString().equals(kind)
                        && d.get("state").asString().equals(state)) {
                    found.add(d);
                }
            });
            return found;
        }

        /** Goes one way of those that are open; false where none is. Those that are not open must change nothing. */
        private boolean undo(String order, Random random, Map<String, Integer> undone, String name) {
            var possible = new ArrayList<JsonNode>();
            for (var way : auditor.get("/api/unwind/ways?kind=ORDER&number=" + order)
                    .body()
                    .get("ways")) {
                if (way.get("code").isNull() || way.get("code").asString().equals("not-authorised")) {
                    possible.add(way);
                }
            }
            if (possible.isEmpty()) {
                return false;
            }
            var way = possible.get(random.nextInt(possible.size()));
            var more = List.of("", ",\"money\":\"refund\"", ",\"money\":\"customer-credit\"", ",\"withDispatch\":true")
                    .get(random.nextInt(4));
            var unwindRequest = unwindRequest(
                    way.get("kind").asString(),
                    way.get("number").asString(),
                    way.get("intent").asString(),
                    more);
            var before = balances();
            var plan = plan(unwindRequest);
            assertThat(balances()).as("%s: a preview keeps nothing", name).isEqualTo(before);
            if (plan.status() != 200) {
                undone.merge(plan.code(), 1, Integer::sum);
                return true;
            }
            var done = controller.post("/api/unwind/executions", bound(unwindRequest, plan));
            assertThat(done.status()).as("%s: %s", name, done.body()).isEqualTo(200);
            undone.merge(way.get("intent").asString(), 1, Integer::sum);
            same(plan.body(), before, name + ", " + unwindRequest);
            if (!done.body().get("returnNumber").isNull()) {
                comesBack(done.text("returnNumber"), plan.body(), before, name + ", " + unwindRequest);
            }
            return true;
        }

        /** Everything comes back sound: then it is what the preview said of the end. */
        private void comesBack(String goods, JsonNode plan, Map<String, BigDecimal> before, String name) {
            received(goods, "");
            var lines = new ArrayList<String>();
            auditor.get("/api/returns/" + goods)
                    .body()
                    .get("lines")
                    .forEach(l -> lines.add("{\"line\":%s,\"restock\":%s}"
                            .formatted(
                                    l.get("no").asString(),
                                    l.get("inInspection").asString())));
            inspected(goods, String.join(",", lines));
            entries(plan, true, before, name);
            figures(plan, "done", name);
        }

        private void same(JsonNode plan, Map<String, BigDecimal> before, String name) {
            entries(plan, false, before, name);
            figures(plan, "now", name);
        }

        private void entries(JsonNode plan, boolean all, Map<String, BigDecimal> before, String name) {
            var expected = new TreeMap<String, BigDecimal>();
            for (var step : plan.get("steps")) {
                if (!all && !step.get("timing").asString().equals("NOW")) {
                    break;
                }
                step.get("entries")
                        .forEach(e -> e.get("lines")
                                .forEach(l -> expected.merge(
                                        l.get("role").asString(),
                                        new BigDecimal(l.get("amount").asString()),
                                        BigDecimal::add)));
            }
            expected.values().removeIf(amount -> amount.signum() == 0);
            var text = new TreeMap<String, String>();
            expected.forEach((role, amount) -> text.put(role, amount.toPlainString()));
            assertThat(moved(before, balances()))
                    .as("%s: the ledger, by %s", name, plan.get("steps"))
                    .isEqualTo(text);
        }

        private void figures(JsonNode plan, String when, String name) {
            for (var line : plan.get("lines")) {
                for (var flow : auditor.get("/api/review/" + line.get("order").asString())
                        .body()
                        .get("flows")) {
                    if (flow.get("no").asString().equals(line.get("line").asString())) {
                        line.get(when)
                                .properties()
                                .forEach(measure -> assertThat(new BigDecimal(
                                                flow.get(measure.getKey()).asString()))
                                        .as("%s: %s", name, measure.getKey())
                                        .isEqualByComparingTo(measure.getValue().asString()));
                    }
                }
            }
            for (var money : plan.get("money")) {
                var number = money.get("number").asString();
                var now = switch (money.get("kind").asString()) {
                    case "INVOICE" -> auditor.get("/api/invoices/" + number).text("open");
                    case "DEPOSIT" -> auditor.get("/api/deposits/" + number).text("unapplied");
                    default ->
                        auditor.get("/api/customers/" + number + "/credit").text("credit");
                };
                assertThat(new BigDecimal(now))
                        .as("%s: %s", name, money)
                        .isEqualByComparingTo(money.get(when).asString());
            }
            for (var shelf : plan.get("shelves")) {
                for (var there : auditor.get("/api/stock/" + shelf.get("item").asString())
                        .body()) {
                    if (there.get("site").asString().equals(shelf.get("site").asString())) {
                        shelf.get(when)
                                .properties()
                                .forEach(figure -> assertThat(new BigDecimal(
                                                there.get(figure.getKey()).asString()))
                                        .as("%s: stock %s", name, figure.getKey())
                                        .isEqualByComparingTo(figure.getValue().asString()));
                    }
                }
            }
            plan.get("states")
                    .forEach(state -> assertThat(auditor.get(
                                            "/api/orders/" + state.get("order").asString())
                                    .text("state"))
                            .as(name)
                            .isEqualTo(state.get(when).asString()));
        }

        @Test
        void sayWhatElseFollows() {
            var scarce = "S-" + UUID.randomUUID().toString().substring(0, 8);
            admin.post(
                    "/api/items",
                    "{\"code\":\"%s\",\"name\":\"Scarce\",\"kind\":\"STOCK\",\"price\":10.00,\"vatCategory\":\"S\",\"vatRate\":21}"
                            .formatted(scarce));
            warehouse.post("/api/stock-receipts", "{\"item\":\"%s\",\"quantity\":5,\"unitCost\":4}".formatted(scarce));
            var asked = "{\"customer\":\"%s\",\"po\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":5}]}";
            var first = clerk.post("/api/orders", asked.formatted(customer, UUID.randomUUID(), scarce))
                    .text("number");
            var second = clerk.post("/api/orders", asked.formatted(customer, UUID.randomUUID(), scarce))
                    .text("number");
            var besides = plan(unwindRequest("ORDER", first, "cancel-order", ""))
                    .body()
                    .get("besides");
            assertThat(besides.get(0).asString())
                    .isEqualTo("Order %s, which waits for item %s, gets 5".formatted(second, scarce));
        }
    }

    @Nested
    class Once {

        @Test
        void twoWhoUndoTheSameDoItOnce() throws Exception {
            for (int round = 0; round < 3; round++) {
                var sold = sold();
                var unwindRequest =
                        unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ",\"withDispatch\":true");
                var first = bound(unwindRequest, plan(unwindRequest));
                var before = balances();
                var both = Executors.newFixedThreadPool(2);
                try {
                    Callable<Rest.Answer> one =
                            () -> new Rest(mvc, "controller", "CONTROLLER").post("/api/unwind/executions", first);
                    Callable<Rest.Answer> other =
                            () -> new Rest(mvc, "lead", "LEAD").post("/api/unwind/executions", first);
                    var answers = new ArrayList<String>();
                    for (var answer : both.invokeAll(List.of(one, other))) {
                        answers.add(
                                answer.get().status() == 200
                                        ? "done"
                                        : answer.get().code());
                    }
                    assertThat(answers)
                            .as("one did it, the other is told why not")
                            .contains("done")
                            .containsAnyOf("already-reversed", "plan-changed")
                            .hasSize(2);
                } finally {
                    both.shutdown();
                }
                assertThat(moved(before, balances()))
                        .containsEntry("inventory", "40.00")
                        .containsEntry("cogs", "-40.00")
                        .containsEntry("customer_credit", "-121.00");
                agrees("ORDER", sold.order());
            }
        }

        @Test
        void sentTwiceItHasTheEffectOfOnce() {
            var order = cleared(10);
            var unwindRequest = unwindRequest("ORDER", order, "cancel-rest", "");
            var bound = bound(unwindRequest, plan(unwindRequest));
            var key = UUID.randomUUID().toString();
            var first = controller.send("POST", "/api/unwind/executions", bound, key);
            assertThat(controller
                            .send("POST", "/api/unwind/executions", bound, key)
                            .body())
                    .isEqualTo(first.body());
            assertThat(controller.post("/api/unwind/executions", bound).code()).isEqualTo("more-than-open");
            assertThat(auditor.get("/api/unwind/done?order=" + order).body().get("rows"))
                    .hasSize(1);
        }

        @Test
        void whatChangedSinceIsRefusedWithThePlanAnew() {
            var order = cleared(10);
            var unwindRequest = unwindRequest("ORDER", order, "cancel-rest", "");
            var bound = bound(unwindRequest, plan(unwindRequest));
            staged(order);
            var before = balances();
            var refused = controller.post("/api/unwind/executions", bound);
            assertThat(refused.code()).isEqualTo("plan-changed");
            assertThat(balances()).isEqualTo(before);
            assertThat(plan(unwindRequest)
                            .body()
                            .get("steps")
                            .get(0)
                            .get("kind")
                            .asString())
                    .isEqualTo("void-staged");
        }
    }

    @Nested
    class TakenBack {

        /**
         * Billed and paid; only the paper was wrong. Its entries are linked, both marked, and the number stays used.
         */
        @Test
        void leavesTheRecordAndTheOrderAsIfItHadNotBeenBilled() {
            var sold = sold();
            carriedOut(unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ""));
            assertThat(auditor.get("/api/invoices/" + sold.invoice()).text("state"))
                    .isEqualTo("REVERSED");
            assertThat(auditor.get("/api/orders/" + sold.order()).text("state")).isEqualTo("CLEARED");
            var rows =
                    auditor.get("/api/trails/INVOICE/" + sold.invoice()).body().get("rows");
            var marked = new ArrayList<String>();
            rows.forEach(row -> {
                if (row.get("document").get("number").asString().equals(sold.invoice())) {
                    marked.add((row.get("undoes").asBoolean() ? "takes back " : "stood for ")
                            + row.get("billed").asString()
                            + (row.get("dropped").asBoolean() ? ", no longer" : ""));
                }
            });
            assertThat(marked).containsExactly("stood for 121.00, no longer", "takes back -121.00, no longer");
            assertThat(jdbc.sql("select count(*) from journal_entry m join journal_entry o on o.number = m.mirrors"
                                    + " where o.document_number = ?")
                            .param(sold.invoice())
                            .query(Long.class)
                            .single())
                    .isEqualTo(1);
            var again = billed(sold.order()).text("number");
            assertThat(again).as("no number is given twice").isNotEqualTo(sold.invoice());
            assertThat(receivables
                            .post(
                                    "/api/credit-allocations",
                                    "{\"customer\":\"%s\",\"allocate\":[{\"invoice\":\"%s\",\"amount\":121}]}"
                                            .formatted(customer, again))
                            .status())
                    .isEqualTo(200);
            booksAgree();
        }

        @Test
        void isRefusedWhereGoodsOrCreditsHangOnIt() {
            var sold = sold();
            var goods = controller
                    .post(
                            "/api/returns",
                            "{\"lines\":[{\"invoice\":\"%s\",\"line\":1,\"quantity\":2}],\"reason\":\"damaged\"}"
                                    .formatted(sold.invoice()))
                    .text("number");
            assertThat(plan(unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ""))
                            .text("instead"))
                    .isEqualTo("Withdraw return %s first.".formatted(goods));
            assertThat(plan(unwindRequest("DISPATCH", sold.dispatch(), "take-back-dispatch", ""))
                            .code())
                    .isEqualTo("already-returned");
            assertThat(controller
                            .post("/api/returns/" + goods + "/withdrawals", "{\"reason\":\"found\"}")
                            .status())
                    .isEqualTo(200);
            assertThat(plan(unwindRequest("DISPATCH", sold.dispatch(), "take-back-dispatch", ""))
                            .code())
                    .isEqualTo("already-billed");
            assertThat(plan(unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ""))
                            .status())
                    .isEqualTo(200);
            receivables.post(
                    "/api/credit-notes",
                    "{\"ofInvoice\":\"%s\",\"reason\":\"scratched\",\"lines\":[{\"line\":1,\"amount\":5}]}"
                            .formatted(sold.invoice()));
            assertThat(plan(unwindRequest("INVOICE", sold.invoice(), "take-back-invoice", ""))
                            .code())
                    .isEqualTo("already-credited");
        }

        @Test
        void aDispatchPutsItsGoodsBackForTheirOrder() {
            var order = cleared(10);
            var dispatch = gone(order);
            carriedOut(unwindRequest("DISPATCH", dispatch, "take-back-dispatch", ""));
            var flow = auditor.get("/api/review/" + order).body().get("flows").get(0);
            assertThat(List.of(
                            flow.get("reserved").asString(),
                            flow.get("dispatched").asString(),
                            flow.get("toShip").asString()))
                    .containsExactly("10", "0", "10");
            assertThat(auditor.get("/api/dispatches/" + dispatch).text("state")).isEqualTo("REVERSED");
            assertThat(plan(unwindRequest("DISPATCH", dispatch, "take-back-dispatch", ""))
                            .code())
                    .isEqualTo("already-reversed");
            gone(order);
            agrees("ORDER", order);
        }
    }

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
                    "/api/unwind/leftovers/previews",
                    "{\"orders\":[\"%s\",\"%s\",\"%s\"]}".formatted(first, second, paid));
            assertThat(List.of(preview.text("total"), preview.text("possible"))).containsExactly("70.00", "2");
            assertThat(preview.body().get("orders").get(2).get("code").asString())
                    .isEqualTo("deposit-attached");
            staged(second);
            var orders = new ArrayList<String>();
            preview.body().get("orders").forEach(o -> {
                if (!o.get("fingerprint").isNull()) {
                    orders.add("{\"order\":\"%s\",\"fingerprint\":\"%s\"}"
                            .formatted(
                                    o.get("order").asString(),
                                    o.get("fingerprint").asString()));
                }
            });
            var log = controller.post(
                    "/api/unwind/leftovers/cancellations",
                    "{\"orders\":[%s],\"reasonCode\":\"leftover\",\"reason\":\"nobody waits\"}"
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
            auditor.get("/api/unwind/leftovers?customer=" + customer.toLowerCase(Locale.ROOT))
                    .body()
                    .get("rows")
                    .forEach(row -> left.add(row.get("order").asString()));
            assertThat(left).containsExactlyInAnyOrder(second, paid);
            var report = auditor.get("/api/unwind/report?by=customer").body().get("rows");
            var amounts = new ArrayList<String>();
            report.forEach(row -> {
                if (row.get("key").asString().equals(customer)) {
                    amounts.add(row.get("count").asString() + " "
                            + row.get("amount").asString());
                }
            });
            assertThat(amounts).containsExactly("1 30.00");
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
