package app.euthyna.e2e.bench;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;

/** How many rows a second a list is written as a file, and how much more the heap holds meanwhile. */
final class FileTimes {

    private static final List<String> LISTS =
            List.of("orders", "invoices", "journal-entries", "entry-lines", "stock-movements");
    /** What is expected of them. */
    private static final double LEAST_ROWS = 50_000;

    private static final double MOST_MEGABYTES = 64;

    private final Company company;

    FileTimes(Company company) {
        this.company = company;
    }

    /** Prints the table; rows a second and megabytes, by the name of the list. */
    Map<String, Map<String, Double>> measure() throws Exception {
        var all = new LinkedHashMap<String, Map<String, Double>>();
        System.out.println("lists as CSV: rows a second, megabytes more on the heap meanwhile");
        for (var list : LISTS) {
            var path = "/api/lists/%s/file?format=CSV".formatted(list);
            company.lead.lines(path);
            var began = System.nanoTime();
            var rows = company.lead.lines(path) - 1;
            var perSecond = rows / ((System.nanoTime() - began) / 1e9);
            var megabytes = megabytes(path);
            System.out.printf(
                    "%-22s %8d rows %10.0f /s %8.1f MB%s%n",
                    list,
                    rows,
                    perSecond,
                    megabytes,
                    perSecond < LEAST_ROWS || megabytes > MOST_MEGABYTES ? "  NOT as expected" : "");
            all.put(list, Map.of("rowsPerSecond", perSecond, "megabytes", megabytes));
        }
        return all;
    }

    /** Looked at again and again while the file is read once more, which takes longer for it. */
    private double megabytes(String path) throws Exception {
        var before = company.liveHeap();
        var read = CompletableFuture.runAsync(() -> company.lead.lines(path));
        var most = before;
        do {
            most = Math.max(most, company.liveHeap());
        } while (!read.isDone());
        read.get();
        return (most - before) / 1e6;
    }
}
