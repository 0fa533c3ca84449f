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
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.node.ObjectNode;

/**
 * Many at once on the same orders, and a process that is killed in the middle of its work. Longer with -Dstress.seconds
 * and -Dstress.kills.
 */
class UnderStressTests {

    private static final int SECONDS = Integer.getInteger("stress.seconds", 12);
    private static final int KILLS = Integer.getInteger("stress.kills", 2);
    private static final Set<String> WANTED = Set.of("staged", "sent off", "billed", "paid", "take-back-invoice");
    private static final Set<String> EXPECTED = Set.of(
            "not-reserved",
            "more-than-open",
            "more-than-dispatched",
            "already-billed",
            "departed-goods",
            "already-reversed",
            "stale-version",
            "busy",
            "not-cleared",
            "order-ended",
            "staged-goods",
            "nothing-open",
            "deposit-attached",
            "plan-changed",
            "already-credited",
            "already-returned",
            "payment-attached",
            "more-than-returnable",
            "more-than-creditable");

    private static void booksAgree(Api api) {
        var failures = new ArrayList<String>();
        api.post("/api/proofs", Map.of())
                .get("statements")
                .forEach(s -> s.get("failures")
                        .forEach(f -> failures.add(f.get("sentence").asString())));
        assertThat(failures).isEmpty();
    }

    private static void goods(Api admin, Api warehouse, String item, int onHand) {
        admin.post(
                "/api/items",
                Map.of(
                        "code",
                        item,
                        "name",
                        "Stress " + item,
                        "kind",
                        "STOCK",
                        "price",
                        "9.99",
                        "vatCategory",
                        "S",
                        "vatRate",
                        21));
        warehouse.post("/api/stock-receipts", Map.of("item", item, "quantity", onHand, "unitCost", "3.3333"));
    }

    /**
     * Eight clients stage, send off, void, bill, pay, pay ahead and undo on the same dozen orders: whatever they do,
     * the books agree.
     */
    @Test
    void eightClientsAtOnceOnTheSameOrdersLeaveBooksThatAgree() throws Exception {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("eight clients from seed " + seed);
        try (var application = Application.start("jdbc:h2:mem:stress;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024", 0)) {
            var admin = Api.signIn(application.url(), "admin", "admin");
            var lead = Api.signIn(application.url(), "lead", "lead");
            admin.post("/api/customers", Map.of("code", "ST", "name", "Stress", "creditLimit", 10_000_000));
            goods(admin, lead, "ST-1", 400);
            goods(admin, lead, "ST-2", 150);
            var orders = new ArrayList<String>();
            for (int at = 0; at < 12; at++) {
                orders.add(lead.post(
                                "/api/orders",
                                Map.of(
                                        "customer",
                                        "ST",
                                        "po",
                                        "ST-" + at * 7919,
                                        "lines",
                                        List.of(
                                                Map.of("item", "ST-1", "quantity", 40),
                                                Map.of("item", "ST-2", "quantity", 20, "price", "0.333"))))
                        .get("number")
                        .asString());
            }
            var done = new ConcurrentHashMap<String, AtomicInteger>();
            var until = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
            var pool = Executors.newFixedThreadPool(8);
            var clients = new ArrayList<Callable<Void>>();
            for (int client = 0; client < 8; client++) {
                var random = new Random(seed + client);
                clients.add(() -> {
                    var api = Api.signIn(application.url(), "lead", "lead");
                    // a slow machine gets more time, until everything has happened at least once
                    while (System.nanoTime() < until
                            || (System.nanoTime() < until + TimeUnit.SECONDS.toNanos(120)
                                    && !done.keySet().containsAll(WANTED))) {
                        var order = orders.get(random.nextInt(orders.size()));
                        try {
                            var what = act(api, random, order);
                            done.computeIfAbsent(what, w -> new AtomicInteger()).incrementAndGet();
                        } catch (Api.Refused refused) {
                            assertThat(EXPECTED)
                                    .as("%s: %s", order, refused.getMessage())
                                    .contains(refused.code());
                        }
                    }
                    return null;
                });
            }
            for (var outcome : pool.invokeAll(clients)) {
                outcome.get();
            }
            pool.shutdown();
            System.out.println("done by eight clients in " + SECONDS + " s: " + done);
            assertThat(done.keySet()).containsAll(WANTED);
            for (var item : List.of("ST-1", "ST-2")) {
                for (var shelf : lead.get("/api/stock/" + item)) {
                    assertThat(new BigDecimal(shelf.get("onHand").asString()))
                            .isGreaterThanOrEqualTo(
                                    new BigDecimal(shelf.get("reserved").asString()));
                    assertThat(new BigDecimal(shelf.get("reserved").asString()).signum())
                            .isNotNegative();
                }
            }
            booksAgree(lead);
        }
    }

    private static String act(Api api, Random random, String order) {
        var version = api.get("/api/orders/" + order).get("version").asLong();
        switch (random.nextInt(11)) {
            case 0, 1 -> {
                api.post(
                        "/api/dispatches",
                        Map.of(
                                "order",
                                order,
                                "version",
                                version,
                                "lines",
                                List.of(Map.of("line", 1 + random.nextInt(2), "quantity", 1 + random.nextInt(5)))));
                return "staged";
            }
            case 2, 3 -> {
                var notes = api.get("/api/goods/dispatches").get("rows");
                if (notes.isEmpty()) {
                    return "nothing staged";
                }
                var note = notes.get(random.nextInt(notes.size()));
                var voids = random.nextInt(5) == 0;
                api.post(
                        "/api/dispatches/" + note.get("number").asString() + (voids ? "/voiding" : "/departure"),
                        Map.of("version", note.get("version").asLong()));
                return voids ? "voided" : "sent off";
            }
            case 4, 5 -> {
                api.post("/api/invoices", Map.of("orders", List.of(order), "ahead", random.nextInt(6) == 0));
                return "billed";
            }
            case 6 -> {
                var open = api.get("/api/invoices?open=true&customer=ST").get("rows");
                if (open.isEmpty()) {
                    return "nothing open";
                }
                var invoice = open.get(random.nextInt(open.size()));
                api.post(
                        "/api/payments",
                        Map.of(
                                "customer",
                                "ST",
                                "amount",
                                invoice.get("open").asString(),
                                "allocate",
                                List.of(Map.of(
                                        "invoice",
                                        invoice.get("number").asString(),
                                        "amount",
                                        invoice.get("open").asString()))));
                return "paid";
            }
            case 7, 8 -> {
                return undo(api, random, order);
            }
            case 9 -> {
                var back = api.get("/api/returns?lane=" + (random.nextBoolean() ? "EXPECTED" : "INSPECTING"))
                        .get("rows");
                if (back.isEmpty()) {
                    return "nothing comes back";
                }
                handle(api, back.get(random.nextInt(back.size())).get("number").asString());
                return "came back";
            }
            default -> {
                if (random.nextInt(3) == 0) {
                    api.post("/api/stock-receipts", Map.of("item", "ST-2", "quantity", 3, "unitCost", "2.0001"));
                    return "imported";
                }
                api.post("/api/deposits", Map.of("order", order, "amount", "7.77"));
                return "received ahead";
            }
        }
    }

    private static String undo(Api api, Random random, String order) {
        var ways = new ArrayList<Map<String, Object>>();
        for (var way : api.get("/api/unwind/ways?kind=ORDER&number=" + order).get("ways")) {
            if (way.get("possible").asBoolean() && !way.get("intent").asString().startsWith("cancel")) {
                ways.add(new TreeMap<>(Map.of(
                        "kind",
                        way.get("kind").asString(),
                        "number",
                        way.get("number").asString(),
                        "intent",
                        way.get("intent").asString(),
                        "reason",
                        "in error",
                        "withDispatch",
                        random.nextInt(3) == 0)));
            }
        }
        if (ways.isEmpty()) {
            return "nothing to undo";
        }
        var unwinding = ways.get(random.nextInt(ways.size()));
        unwinding.put(
                "fingerprint",
                api.post("/api/unwind/plans", unwinding).get("fingerprint").asString());
        api.post("/api/unwind/executions", unwinding);
        return String.valueOf(unwinding.get("intent"));
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
        goods(admin, lead, "KL-1", 10_000);
        var billedOnce = new HashMap<String, Integer>();
        for (int kill = 0; kill < KILLS; kill++) {
            var orders = new ArrayList<String>();
            for (int at = 0; at < 30; at++) {
                var order = lead.post(
                        "/api/orders",
                        Map.of(
                                "customer",
                                "KL",
                                "po",
                                "KL-%d-%d".formatted(kill, at * 7919),
                                "lines",
                                List.of(Map.of("item", "KL-1", "quantity", 2))));
                var number = order.get("number").asString();
                Journey.leaves(lead, number);
                orders.add(number);
            }
            var running = application;
            var asker = lead;
            var pool = Executors.newSingleThreadExecutor();
            var asked = pool.submit(() -> asker.post(
                    "/api/batches/billings",
                    Map.of(
                            "invoices",
                            orders.stream()
                                    .map(o -> Map.of("orders", List.of(o)))
                                    .toList())));
            Thread.sleep(150 + random.nextInt(1_200));
            running.kill();
            var answered = List.<String>of();
            try {
                var done = new ArrayList<String>();
                asked.get().get("entries").forEach(e -> {
                    if (e.get("state").asString().equals("DONE")) {
                        done.add(e.get("result").asString());
                    }
                });
                answered = done;
            } catch (ExecutionException cutOff) {
                assertThat(cutOff.getCause()).isInstanceOf(UncheckedIOException.class);
            }
            pool.shutdown();
            application = Application.start(database, 0);
            lead = Api.signIn(application.url(), "lead", "lead");
            for (var invoice : answered) {
                assertThat(lead.get("/api/invoices/" + invoice).get("number").asString())
                        .isEqualTo(invoice);
            }
            booksAgree(lead);
            finish(lead, orders);
            booksAgree(lead);
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
        goods(Api.signIn(application.url(), "admin", "admin"), lead, "PL-1", 1_000);
        payThroughAServiceThatLosesAnswers(lead);
        var orders = new ArrayList<String>();
        var returns = new ArrayList<String>();
        for (int at = 0; at < 12; at++) {
            var order = lead.post(
                    "/api/orders",
                    Map.of(
                            "customer",
                            "PL",
                            "po",
                            "PL-" + at * 7919,
                            "lines",
                            List.of(Map.of("item", "PL-1", "quantity", 3))));
            var number = order.get("number").asString();
            var note = lead.post(
                    "/api/dispatches",
                    Map.of("order", number, "version", order.get("version").asLong()));
            lead.post(
                    "/api/dispatches/" + note.get("number").asString() + "/departure",
                    Map.of("version", note.get("version").asLong()));
            var invoice = lead.post("/api/invoices", Map.of("orders", List.of(number)));
            recorder.post(
                    "/api/payments",
                    Map.of(
                            "customer",
                            "PL",
                            "amount",
                            invoice.get("gross").asString(),
                            "allocate",
                            List.of(Map.of(
                                    "invoice",
                                    invoice.get("number").asString(),
                                    "amount",
                                    invoice.get("gross").asString()))));
            var unwinding = new TreeMap<String, Object>(Map.of(
                    "kind",
                    "ORDER",
                    "number",
                    number,
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
            returns.add(lead.post("/api/unwind/executions", unwinding)
                    .get("returnNumber")
                    .asString());
            orders.add(number);
        }
        for (int kill = 0; kill < KILLS; kill++) {
            var asker = lead;
            var running = application;
            var pool = Executors.newSingleThreadExecutor();
            var handled = pool.submit(() -> {
                for (var goods : returns) {
                    handle(asker, goods);
                }
                return null;
            });
            Thread.sleep(100 + random.nextInt(900));
            running.kill();
            try {
                handled.get();
            } catch (ExecutionException cutOff) {
                assertThat(cutOff.getCause()).isInstanceOf(UncheckedIOException.class);
            }
            pool.shutdown();
            application = Application.start(database, 0);
            lead = Api.signIn(application.url(), "lead", "lead");
            booksAgree(lead);
        }
        for (var goods : returns) {
            handle(lead, goods);
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
        booksAgree(lead);
        application.close();
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

    /** Receives and inspects what of a return is not yet; each step may have been done before the server was killed. */
    private static void handle(Api api, String goods) {
        if (api.get("/api/returns/" + goods).get("expects").asBoolean()) {
            api.post("/api/returns/" + goods + "/receipts", Map.of());
        }
        // looked at once: others may decide on the same goods meanwhile
        for (var line : api.get("/api/returns/" + goods).get("lines")) {
            if (new BigDecimal(line.get("inInspection").asString()).signum() > 0) {
                api.post(
                        "/api/returns/" + goods + "/inspections",
                        Map.of(
                                "lines",
                                List.of(Map.of(
                                        "line",
                                        line.get("no").asInt(),
                                        "restock",
                                        line.get("inInspection").asString()))));
            }
        }
    }

    /** The batch goes on by itself; where it was never asked for, it is asked for again. */
    private static void finish(Api lead, List<String> orders) throws InterruptedException {
        var batches = lead.get("/api/batches?kind=BILLING").get("rows");
        var mine = batches.isEmpty()
                ? null
                : lead.get("/api/batches/" + batches.get(0).get("id").asString());
        if (mine == null
                || !mine.get("entries").get(0).get("subject").asString().equals(orders.get(0))) {
            lead.post(
                    "/api/batches/billings",
                    Map.of(
                            "invoices",
                            orders.stream()
                                    .map(o -> Map.of("orders", List.of(o)))
                                    .toList()));
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
