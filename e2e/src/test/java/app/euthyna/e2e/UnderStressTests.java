package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Many at once on the same orders, and a process that is killed in the middle of its work. Longer with -Dstress.kills.
 */
class UnderStressTests {

    private static final int KILLS = Integer.getInteger("stress.kills", 2);

    @Test
    void eightClientsAtOnceOnTheSameOrdersLeaveBooksThatAgree() throws Exception {
        try (var application = Application.start("jdbc:h2:mem:stress;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024", 0)) {
            ManyAtOnce.onTheSameOrders(List.of(application.url()));
        }
    }

    /**
     * Killed while it bills many: what was answered is there, nothing is half done, and the next process goes on
     * without doubles.
     */
    @Test
    void bulkBillingGoesOnAfterEveryKillWithoutDoublesOrGaps() throws Exception {
        var random = new Random(Long.getLong("seed", System.nanoTime()));
        var database = "jdbc:h2:file:" + Files.createTempDirectory("euthyna").resolve("books")
                + ";WRITE_DELAY=0;QUERY_CACHE_SIZE=1024";
        var application = Application.start(database, 0);
        var admin = Api.signIn(application.url(), "admin", "admin");
        var lead = Api.signIn(application.url(), "lead", "lead");
        admin.post("/api/customers", Map.of("code", "KL", "name", "Killed", "creditLimit", 10_000_000));
        ManyAtOnce.goods(admin, lead, "KL-1", 10_000);
        var billedOnce = new HashMap<String, Integer>();
        for (int kill = 0; kill < KILLS; kill++) {
            var orders = thirtyLeave(lead, kill);
            var asker = lead;
            var answered = killedDuring(application, 150 + random.nextInt(1_200), () -> billed(asker, orders))
                    .orElse(List.of());
            application = Application.start(database, 0);
            lead = Api.signIn(application.url(), "lead", "lead");
            for (var invoice : answered) {
                assertThat(lead.get("/api/invoices/" + invoice).get("number").asString())
                        .isEqualTo(invoice);
            }
            ManyAtOnce.booksAgree(lead);
            finish(lead, orders);
            ManyAtOnce.booksAgree(lead);
            for (var order : orders) {
                assertThat(lead.get("/api/orders/" + order).get("state").asString())
                        .isEqualTo("COMPLETED");
            }
        }
        lead.get("/api/invoices")
                .get("rows")
                .forEach(row -> billedOnce.merge(row.get("number").asString(), 1, Integer::sum));
        assertThat(billedOnce.values()).allMatch(times -> times == 1);
        application.close();
    }

    /** Thirty orders of which all has left. */
    private static List<String> thirtyLeave(Api lead, int kill) {
        var orders = new ArrayList<String>();
        for (int at = 0; at < 30; at++) {
            var number = Journey.ordered(
                    lead, "KL", "KL-%d-%d".formatted(kill, at * 7919), Map.of("item", "KL-1", "quantity", 2));
            Journey.leaves(lead, number);
            orders.add(number);
        }
        return orders;
    }

    /** Orders are billed in bulk, each alone; the invoices. */
    private static List<String> billed(Api api, List<String> orders) {
        return billing(api, orders)
                .get("entries")
                .valueStream()
                .filter(e -> e.get("state").asString().equals("DONE"))
                .map(e -> e.get("result").asString())
                .toList();
    }

    private static JsonNode billing(Api api, List<String> orders) {
        return api.post(
                "/api/batches/billings",
                Map.of(
                        "invoices",
                        orders.stream().map(o -> Map.of("orders", List.of(o))).toList()));
    }

    /** The server is killed so many milliseconds after it was asked; what it answered, unless it was cut off. */
    private static <T> Optional<T> killedDuring(Application running, int after, Callable<T> asking) throws Exception {
        var pool = Executors.newSingleThreadExecutor();
        try {
            var asked = pool.submit(asking);
            Thread.sleep(after);
            running.kill();
            return Optional.of(asked.get());
        } catch (ExecutionException cutOff) {
            assertThat(cutOff.getCause()).isInstanceOf(UncheckedIOException.class);
            return Optional.empty();
        } finally {
            pool.shutdown();
        }
    }

    /**
     * Plans that wait for goods outlive the server, and go on when the goods come, also where it is killed meanwhile:
     * what was answered is there, what was not is whole or absent, and asking again does nothing twice.
     */
    @Test
    void plansThatWaitOutliveTheServerAndGoOnOnce() throws Exception {
        var random = new Random(11);
        var database = "jdbc:h2:file:"
                + Files.createTempDirectory("euthyna-plans").resolve("db") + ";WRITE_DELAY=0;DB_CLOSE_ON_EXIT=FALSE";
        var application = Application.start(database, 0);
        var lead = Api.signIn(application.url(), "lead", "lead");
        var recorder = Api.signIn(application.url(), "receivables", "receivables");
        lead.post("/api/customers", Map.of("code", "PL", "name", "Plans", "creditLimit", 9_000_000));
        ManyAtOnce.goods(Api.signIn(application.url(), "admin", "admin"), lead, "PL-1", 1_000);
        payThroughAServiceThatLosesAnswers(lead);
        var orders = new ArrayList<String>();
        var returns = new ArrayList<String>();
        for (int at = 0; at < 12; at++) {
            var order = soldAndPaid(lead, recorder, "PL-" + at * 7919);
            returns.add(takenBack(lead, order));
            orders.add(order);
        }
        for (int kill = 0; kill < KILLS; kill++) {
            var asker = lead;
            killedDuring(application, 100 + random.nextInt(900), () -> {
                returns.forEach(goods -> ManyAtOnce.handle(asker, goods));
                return returns;
            });
            application = Application.start(database, 0);
            lead = Api.signIn(application.url(), "lead", "lead");
            ManyAtOnce.booksAgree(lead);
        }
        for (var goods : returns) {
            ManyAtOnce.handle(lead, goods);
        }
        for (var order : orders) {
            var plan = lead.get("/api/unwind/done?order=" + order).get("rows").get(0);
            assertThat(plan.get("state").asString()).as("%s", plan).isEqualTo("DONE");
        }
        for (var goods : returns) {
            assertThat(lead.get("/api/returns/" + goods).get("credits"))
                    .as("credited once")
                    .hasSize(1);
        }
        everyRefundIsPaidOutOnce(lead, returns.size());
        ManyAtOnce.booksAgree(lead);
        application.close();
    }

    /** An order of which all has left, is billed and paid. */
    private static String soldAndPaid(Api lead, Api recorder, String po) {
        var order = Journey.ordered(lead, "PL", po, Map.of("item", "PL-1", "quantity", 3));
        Journey.leaves(lead, order);
        Journey.billedAndPaid(lead, recorder, "PL", order);
        return order;
    }

    /** A plan to take the goods of an order back and to refund it; the return that it waits for. */
    private static String takenBack(Api lead, String order) {
        var unwinding = new TreeMap<String, Object>(Map.of(
                "kind",
                "ORDER",
                "number",
                order,
                "intent",
                "take-goods-back",
                "money",
                "refund",
                "reason",
                "broken",
                "reasonCode",
                "damaged"));
        unwinding.put(
                "fingerprint",
                lead.post("/api/unwind/plans", unwinding).get("fingerprint").asString());
        return lead.post("/api/unwind/executions", unwinding)
                .get("returnNumber")
                .asString();
    }

    private static void payThroughAServiceThatLosesAnswers(Api lead) {
        var rules = (ObjectNode) lead.get("/api/rules");
        rules.remove("changes");
        rules.put("reason", "refunds go through the service");
        ((ObjectNode) rules.get("unwind")).put("refundsThroughService", true);
        lead.put("/api/rules", rules);
        lead.put("/api/simulated-payment-service", Map.of("behaviour", "LOSES_ANSWER"));
    }

    /** Whatever a killed server had begun is taken up under the same key. */
    private static void everyRefundIsPaidOutOnce(Api lead, int refunds) throws InterruptedException {
        var deadline = System.nanoTime() + TimeUnit.SECONDS.toNanos(90);
        while (System.nanoTime() < deadline
                && !lead.get("/api/payouts").get("rows").isEmpty()) {
            Thread.sleep(500);
        }
        var given = lead.get("/api/refunds").get("rows");
        assertThat(given)
                .hasSize(refunds)
                .allSatisfy(
                        refund -> assertThat(refund.get("payout").asString()).isEqualTo("PAID"));
        var service = lead.get("/api/simulated-payment-service");
        assertThat(service.get("payouts").asInt()).isEqualTo(refunds);
        assertThat(new BigDecimal(service.get("amount").asString()))
                .isEqualByComparingTo(given.valueStream()
                        .map(r -> new BigDecimal(r.get("amount").asString()))
                        .reduce(BigDecimal.ZERO, BigDecimal::add));
    }

    /** The batch goes on by itself; where it was never asked for, it is asked for again. */
    private static void finish(Api lead, List<String> orders) throws InterruptedException {
        var batches = lead.get("/api/batches?kind=BILLING").get("rows");
        var mine = batches.isEmpty()
                ? null
                : lead.get("/api/batches/" + batches.get(0).get("id").asString());
        if (mine == null
                || !mine.get("entries").get(0).get("subject").asString().equals(orders.get(0))) {
            billing(lead, orders);
            mine = lead.get("/api/batches/"
                    + lead.get("/api/batches?kind=BILLING")
                            .get("rows")
                            .get(0)
                            .get("id")
                            .asString());
        }
        for (int tries = 0; tries < 240 && mine.get("waiting").asInt() > 0; tries++) {
            Thread.sleep(250);
            mine = lead.get("/api/batches/" + mine.get("id").asString());
        }
        assertThat(mine.get("waiting").asInt())
                .as("the batch has come to its end: %s", mine)
                .isZero();
        assertThat(mine.get("refused").asInt())
                .as("nothing was refused, so nothing was billed before: %s", mine)
                .isZero();
    }
}
