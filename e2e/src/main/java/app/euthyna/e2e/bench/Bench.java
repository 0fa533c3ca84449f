package app.euthyna.e2e.bench;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import tools.jackson.databind.json.JsonMapper;

/**
 * Opens a demo company of so many orders once, times the frequent questions over REST, stops the application and asks
 * the same of the same file by bare JDBC. Prints a table, and writes it as JSON beside the database. No figure is
 * asserted.
 */
public final class Bench {

    private static final int ROUNDS = 60;
    private static final int WARM_UP = 20;

    private final Random random = new Random(7);
    private final Map<String, double[]> rest = new LinkedHashMap<>();
    private final Map<String, double[]> bare = new LinkedHashMap<>();
    private final List<String> orders = new ArrayList<>();

    private Bench() {}

    /** Something to time, asked anew each round. */
    private interface Question {
        void ask(int round) throws Exception;
    }

    /** Arguments: the directory for the database, the number of orders. */
    public static void main(String[] arguments) throws Exception {
        new Bench().run(Path.of(arguments[0]), Integer.parseInt(arguments[1]));
    }

    private void run(Path directory, int count) throws Exception {
        var file = directory.resolve("bench-" + count);
        var database = "jdbc:h2:file:" + file.toAbsolutePath()
                + ";WRITE_DELAY=0;QUERY_CACHE_SIZE=1024;CACHE_SIZE=262144;OPTIMIZE_REUSE_RESULTS=FALSE";
        try (var application = Application.start(database, count)) {
            overRest(Api.signIn(application.url(), "controller", "controller"));
        }
        try (var connection = DriverManager.getConnection(database, "sa", "")) {
            byJdbc(connection);
        }
        print(count);
        var json = directory.resolve("bench-" + count + ".json");
        Files.writeString(
                json,
                JsonMapper.builder()
                        .build()
                        .writerWithDefaultPrettyPrinter()
                        .writeValueAsString(Map.of(
                                "orders",
                                count,
                                "rounds",
                                ROUNDS,
                                "restP50P95Millis",
                                rest,
                                "jdbcP50P95Millis",
                                bare)));
        System.out.println("written to " + json);
    }

    private void overRest(Api api) throws Exception {
        for (String after = ""; after != null && orders.size() < 2_000; ) {
            var page = api.get("/api/orders" + (after.isEmpty() ? "" : "?after=" + after));
            page.get("rows").forEach(row -> orders.add(row.get("number").asString()));
            after = page.get("next").isNull() ? null : page.get("next").asString();
        }
        time(
                rest,
                "first page of Review",
                round -> api.get("/api/review?sort=" + (round % 2 == 0 ? "PRIORITY" : "VALUE")));
        time(rest, "one trail", round -> api.get("/api/trails/ORDER/" + any()));
        time(rest, "Find while typing", round -> api.get("/api/find?q=" + any().substring(0, 5)));
        var run = Long.toString(System.nanoTime(), 36);
        time(
                rest,
                "one import with checks",
                round -> api.upload(
                        "/api/imports",
                        "bench.csv",
                        ("reference,customer,po,item,quantity\n" + "B-" + run + round + ",C104,B-" + run + round
                                        + ",SV-02,1\n")
                                .getBytes(StandardCharsets.UTF_8)));
        var toBill = new ArrayList<String>();
        for (int at = 0; at < ROUNDS + WARM_UP; at++) {
            toBill.add(api.post(
                            "/api/orders",
                            Map.of(
                                    "customer",
                                    "C117",
                                    "po",
                                    "I-" + run + at,
                                    "lines",
                                    List.of(Map.of("item", "SV-02", "quantity", 1))))
                    .get("number")
                    .asString());
        }
        time(rest, "one invoice", round -> api.post("/api/invoices", Map.of("orders", List.of(toBill.get(round)))));
        time(rest, "proof over all", round -> api.post("/api/proofs", Map.of()), 5);
    }

    private void byJdbc(Connection connection) throws Exception {
        time(bare, "first page of Review", round -> read(connection, """
            select o.number, c.name, x.open_gross from open_order x join sales_order o on o.id = x.order_id
            join customer c on c.id = x.customer_id where x.reviewable = true
            order by x.open_gross desc fetch first 101 rows only\
            """));
        time(bare, "one trail", round -> {
            var number = any();
            for (var sql : List.of(
                    "select * from sales_order o join sales_order_line l on l.order_id = o.id where o.number = ?",
                    "select * from dispatch d join dispatch_line l on l.dispatch_id = d.id where d.order_id = (select"
                            + " id from sales_order where number = ?)",
                    "select * from invoice i join invoice_line l on l.invoice_id = i.id where l.root_order_id ="
                            + " (select id from sales_order where number = ?)",
                    "select * from history where order_id = (select id from sales_order where number = ?)")) {
                read(connection, sql, number);
            }
        });
        time(bare, "Find while typing", round -> {
            var start = any().substring(0, 5);
            read(
                    connection,
                    "select number from sales_order where number >= ? and number < ? fetch first 6 rows only",
                    start,
                    start + "\uffff");
        });
        connection.setAutoCommit(false);
        time(bare, "one import with checks", round -> {
            for (int row = 0; row < 6; row++) {
                note(connection, "import");
            }
            connection.commit();
        });
        time(bare, "one invoice", round -> {
            for (int row = 0; row < 13; row++) {
                note(connection, "invoice");
            }
            connection.commit();
        });
        time(
                bare,
                "proof over all",
                round -> {
                    read(connection, "select entry_id from journal_line group by entry_id having sum(amount) <> 0");
                    read(connection, "select role, sum(amount) from journal_line group by role");
                    read(connection, "select sum(stock_value) from shelf");
                    read(connection, "select sum(gross) - (select sum(amount) from allocation) from invoice");
                },
                5);
    }

    private static void read(Connection connection, String sql, String... parameters) throws SQLException {
        try (var statement = connection.prepareStatement(sql)) {
            for (int at = 0; at < parameters.length; at++) {
                statement.setString(at + 1, parameters[at]);
            }
            try (var rows = statement.executeQuery()) {
                while (rows.next()) {
                    rows.getObject(1);
                }
            }
        }
    }

    /** One row of about the size that the commands write. */
    private static void note(Connection connection, String event) throws SQLException {
        try (var statement = connection.prepareStatement(
                "insert into history (document_kind, document_number, event, happened_on, written_on, at, by_user,"
                        + " sentence)"
                        + " values ('BENCH', 'B', ?, current_date, current_date, current_timestamp, 'bench', 'a row')")) {
            statement.setString(1, event);
            statement.executeUpdate();
        }
    }

    private String any() {
        return orders.get(random.nextInt(orders.size()));
    }

    private void time(Map<String, double[]> into, String name, Question question) throws Exception {
        time(into, name, question, ROUNDS);
    }

    private void time(Map<String, double[]> into, String name, Question question, int rounds) throws Exception {
        var warm = Math.min(WARM_UP, rounds);
        var millis = new double[rounds];
        for (int round = 0; round < warm + rounds; round++) {
            var started = System.nanoTime();
            question.ask(round);
            if (round >= warm) {
                millis[round - warm] = (System.nanoTime() - started) / 1e6;
            }
        }
        Arrays.sort(millis);
        into.put(name, new double[] {millis[rounds / 2], millis[Math.min(rounds - 1, rounds * 95 / 100)]});
    }

    private void print(int count) {
        System.out.printf("%d orders, milliseconds, p50 / p95 of %d rounds%n", count, ROUNDS);
        System.out.printf("%-26s %18s %18s%n", "", "over REST", "bare JDBC");
        rest.forEach((name, figures) -> System.out.printf(
                "%-26s %8.1f / %7.1f %8.2f / %7.2f%n",
                name, figures[0], figures[1], bare.get(name)[0], bare.get(name)[1]));
    }
}
