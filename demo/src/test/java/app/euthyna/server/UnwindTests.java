package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
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
class UnwindTests extends OnUnwinding {

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
}
