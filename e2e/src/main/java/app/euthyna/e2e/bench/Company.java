package app.euthyna.e2e.bench;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** A build of the application that answers on a copy of the company's database, and what is asked of it. */
final class Company implements AutoCloseable {

    /** As ./euthyna demo opens its file; asked twice, H2 shall not answer from memory. */
    private static final String SETTINGS =
            ";WRITE_DELAY=0;QUERY_CACHE_SIZE=1024;CACHE_SIZE=262144;OPTIMIZE_REUSE_RESULTS=FALSE";
    /** Orders that questions are asked about. */
    private static final int ORDERS = 2_000;

    private static final Duration DAILY_WORK = Duration.ofMinutes(5);

    private final Application application;
    private final Path file;
    final Api lead;
    /** What the questions of a round hand on from one to the next. */
    final Map<String, Object> handed = new HashMap<>();

    private final List<String> orders = new ArrayList<>();

    Company(Application application, Path file) {
        this.application = application;
        this.file = file;
        this.lead = Api.signIn(application.url(), "lead", "lead");
    }

    /** The address of a database file, without its ending. */
    static String address(Path file) {
        return "jdbc:h2:file:" + file.toAbsolutePath() + SETTINGS;
    }

    /** Makes the database of so many orders, unless it is there. */
    static void found(Path home, Path file, int count) throws Exception {
        if (Files.exists(ended(file))) {
            return;
        }
        var began = System.nanoTime();
        var application = Application.start(home, address(file), Map.of("EUTHYNA_DEMO_ORDERS", "" + count));
        System.out.printf("a company of %d orders was made in %.0f s%n", count, (System.nanoTime() - began) / 1e9);
        rest(application);
        application.close();
        System.out.printf("its file has %.1f MB%n", Files.size(ended(file)) / 1e6);
    }

    /** Opens a build on a copy of the database. The bench may look into it while it is open. */
    static Company open(Path home, Path original, String name) throws Exception {
        var copy = original.resolveSibling(name);
        Files.copy(ended(original), ended(copy), StandardCopyOption.REPLACE_EXISTING);
        var application = Application.start(home, address(copy) + ";AUTO_SERVER=TRUE", Map.of());
        rest(application);
        var company = new Company(application, copy);
        Question.stock(company);
        return company;
    }

    /** What a day begins with is done before anything is timed. */
    private static void rest(Application application) throws InterruptedException {
        var began = System.nanoTime();
        var rests = application.rests(DAILY_WORK);
        System.out.printf(
                "the work of the day %s after %.0f s%n",
                rests ? "was done" : "goes on", (System.nanoTime() - began) / 1e9);
    }

    static Path ended(Path file) {
        return file.resolveSibling(file.getFileName() + ".mv.db");
    }

    /** See {@link Application#liveHeap}. */
    long liveHeap() throws IOException {
        return application.liveHeap();
    }

    Path file() {
        return file;
    }

    /** One of the orders, the same in both builds for the same draw. */
    String order(int draw) {
        if (orders.isEmpty()) {
            for (String after = ""; after != null && orders.size() < ORDERS; ) {
                var page = lead.get("/api/orders" + (after.isEmpty() ? "" : "?after=" + after));
                page.get("rows").forEach(row -> orders.add(row.get("number").asString()));
                after = page.get("next").isNull() ? null : page.get("next").asString();
            }
        }
        return orders.get(Math.floorMod(draw, orders.size()));
    }

    @Override
    public void close() {
        application.close();
    }
}
