package app.euthyna.e2e.bench;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Something to time, asked anew each round.
 *
 * @param rounds at most so many are asked
 */
record Question(String name, int rounds, Asking asking) {

    /** As many as are asked for. */
    static final int ALL = Integer.MAX_VALUE;

    /** Customers whom nobody limits and who owe nothing overdue: no round holds the next. */
    private static final List<String> CUSTOMERS = List.of("C127", "C136");

    private static final String ITEM = "RP-112";

    interface Asking {
        /**
         * Asks it once.
         *
         * @param draw the same for both builds in a round, and another in each
         */
        void ask(Company company, int draw);
    }

    /** Plenty of the goods that the questions are about. */
    static void stock(Company company) {
        company.lead.post(
                "/api/stock-receipts", Map.of("item", ITEM, "site", "QUAY", "quantity", 100_000, "unitCost", 1));
    }

    /** The frequent questions; those of one order follow one another. */
    static List<Question> all() {
        return List.of(
                frequent(
                        "first page of Review",
                        (c, draw) -> c.lead.get("/api/review?sort=" + (draw % 2 == 0 ? "PRIORITY" : "VALUE"))),
                frequent("first page of Orders", (c, draw) -> c.lead.get("/api/orders")),
                frequent("Today", (c, draw) -> c.lead.get("/api/today")),
                frequent("case of an order", (c, draw) -> c.lead.get("/api/review/" + c.order(draw))),
                frequent("one trail", (c, draw) -> c.lead.get("/api/trails/ORDER/" + c.order(draw))),
                frequent(
                        "Find while typing",
                        (c, draw) -> c.lead.get("/api/find?q=" + c.order(draw).substring(0, 6))),
                frequent("one import with checks", Question::importOne),
                frequent("order with checks", Question::enter),
                frequent("staging", Question::stage),
                frequent("departure", Question::depart),
                frequent("invoice", Question::bill),
                frequent("payment", Question::pay),
                new Question("proof over all", 3, (c, draw) -> c.lead.post("/api/proofs", Map.of())));
    }

    private static Question frequent(String name, Asking asking) {
        return new Question(name, ALL, asking);
    }

    private static String po(int draw) {
        return Integer.toString(draw * 7919, 36) + "-" + Long.toString(System.nanoTime(), 36);
    }

    private static void importOne(Company company, int draw) {
        company.lead.upload(
                "/api/imports",
                "bench.csv",
                "reference,customer,po,item,quantity%n%1$s,%2$s,%1$s,SV-02,1%n"
                        .formatted(po(draw), CUSTOMERS.get(draw % CUSTOMERS.size()))
                        .getBytes(StandardCharsets.UTF_8));
    }

    private static void enter(Company company, int draw) {
        var customer = CUSTOMERS.get(draw % CUSTOMERS.size());
        var order = company.lead.post(
                "/api/orders",
                Map.of("customer", customer, "po", po(draw), "lines", List.of(Map.of("item", ITEM, "quantity", 1))));
        company.handed.put("customer", customer);
        company.handed.put("order", order.get("number").asString());
        company.handed.put("version", order.get("version").asLong());
    }

    private static void stage(Company company, int draw) {
        var order = company.handed.get("order");
        var dispatch =
                company.lead.post("/api/dispatches", Map.of("order", order, "version", company.handed.get("version")));
        company.handed.put("dispatch", dispatch.get("number").asString());
    }

    private static void depart(Company company, int draw) {
        company.lead.post(
                "/api/dispatches/%s/departure".formatted(company.handed.get("dispatch")), Map.of("version", 0));
    }

    private static void bill(Company company, int draw) {
        var invoice = company.lead.post("/api/invoices", Map.of("orders", List.of(company.handed.get("order"))));
        company.handed.put("invoice", invoice.get("number").asString());
        company.handed.put("gross", invoice.get("gross").asString());
    }

    private static void pay(Company company, int draw) {
        var gross = company.handed.get("gross");
        var body = new LinkedHashMap<String, Object>();
        body.put("customer", company.handed.get("customer"));
        body.put("amount", gross);
        body.put("allocate", List.of(Map.of("invoice", company.handed.get("invoice"), "amount", gross)));
        company.lead.post("/api/payments", body);
    }
}
