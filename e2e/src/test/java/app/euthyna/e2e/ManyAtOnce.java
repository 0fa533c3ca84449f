package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Eight clients stage, send off, void, bill, pay, pay ahead and undo on the same dozen orders: whatever they do, the
 * books agree. Longer with -Dstress.seconds.
 */
final class ManyAtOnce {

    private static final int SECONDS = Integer.getInteger("stress.seconds", 12);
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

    private ManyAtOnce() {}

    /** @param urls of one process or several over the same database, of which the clients ask each in turn */
    static void onTheSameOrders(List<String> urls) throws Exception {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("eight clients from seed " + seed);
        var admin = Api.signIn(urls.get(0), "admin", "admin");
        var lead = Api.signIn(urls.get(0), "lead", "lead");
        admin.post("/api/customers", Map.of("code", "ST", "name", "Stress", "creditLimit", 10_000_000));
        goods(admin, lead, "ST-1", 400);
        goods(admin, lead, "ST-2", 150);
        var orders = twelveOrders(lead);
        var done = new ConcurrentHashMap<String, AtomicInteger>();
        var until = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
        var pool = Executors.newFixedThreadPool(8);
        var clients = new ArrayList<Callable<Void>>();
        for (int client = 0; client < 8; client++) {
            var random = new Random(seed + client);
            var url = urls.get(client % urls.size());
            clients.add(() -> {
                var api = Api.signIn(url, "lead", "lead");
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
        noMoreIsReservedThanLies(lead);
        booksAgree(lead);
    }

    private static List<String> twelveOrders(Api lead) {
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
        return orders;
    }

    private static void noMoreIsReservedThanLies(Api lead) {
        for (var item : List.of("ST-1", "ST-2")) {
            for (var shelf : lead.get("/api/stock/" + item)) {
                assertThat(new BigDecimal(shelf.get("onHand").asString()))
                        .isGreaterThanOrEqualTo(
                                new BigDecimal(shelf.get("reserved").asString()));
                assertThat(new BigDecimal(shelf.get("reserved").asString()).signum())
                        .isNotNegative();
            }
        }
    }

    private static String act(Api api, Random random, String order) {
        var version = api.get("/api/orders/" + order).get("version").asLong();
        return switch (random.nextInt(11)) {
            case 0, 1 -> staged(api, random, order, version);
            case 2, 3 -> sentOff(api, random);
            case 4, 5 -> billed(api, random, order);
            case 6 -> paid(api, random);
            case 7, 8 -> undo(api, random, order);
            case 9 -> cameBack(api, random);
            default -> random.nextInt(3) == 0 ? imported(api) : receivedAhead(api, order);
        };
    }

    private static String staged(Api api, Random random, String order, long version) {
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

    private static String sentOff(Api api, Random random) {
        var notes =
                api.get("/api/lists/dispatches/rows?filter=state:any:STAGED").get("rows");
        if (notes.isEmpty()) {
            return "nothing staged";
        }
        var note = notes.get(random.nextInt(notes.size()));
        var voids = random.nextInt(5) == 0;
        api.post(
                "/api/dispatches/" + note.get("opens").asString() + (voids ? "/voiding" : "/departure"),
                Map.of("version", note.get("version").asLong()));
        return voids ? "voided" : "sent off";
    }

    private static String billed(Api api, Random random, String order) {
        api.post("/api/invoices", Map.of("orders", List.of(order), "ahead", random.nextInt(6) == 0));
        return "billed";
    }

    private static String imported(Api api) {
        api.post("/api/stock-receipts", Map.of("item", "ST-2", "quantity", 3, "unitCost", "2.0001"));
        return "imported";
    }

    private static String receivedAhead(Api api, String order) {
        api.post("/api/deposits", Map.of("order", order, "amount", "7.77"));
        return "received ahead";
    }

    private static String paid(Api api, Random random) {
        var open = api.get("/api/invoices?open=true&customer=ST").get("rows");
        if (open.isEmpty()) {
            return "nothing open";
        }
        var invoice = open.get(random.nextInt(open.size()));
        Journey.paid(
                api, "ST", invoice.get("number").asString(), invoice.get("open").asString());
        return "paid";
    }

    private static String cameBack(Api api, Random random) {
        var back = api.get("/api/returns?lane=" + (random.nextBoolean() ? "EXPECTED" : "INSPECTING"))
                .get("rows");
        if (back.isEmpty()) {
            return "nothing comes back";
        }
        handle(api, back.get(random.nextInt(back.size())).get("number").asString());
        return "came back";
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

    static void booksAgree(Api api) {
        var failures = new ArrayList<String>();
        api.post("/api/proofs", Map.of())
                .get("statements")
                .forEach(s -> s.get("failures")
                        .forEach(f -> failures.add(f.get("sentence").asString())));
        assertThat(failures).isEmpty();
    }

    static void goods(Api admin, Api warehouse, String item, int onHand) {
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

    /** Receives and inspects what of a return is not yet; each step may have been done before the server was killed. */
    static void handle(Api api, String goods) {
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
}
