package app.euthyna.server.exchange;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.exchange.CsvTable.BadCell;
import app.euthyna.server.exchange.ImportPageEntity.Part;
import app.euthyna.server.exchange.OrderFile.FileOrder;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import tools.jackson.databind.ObjectMapper;

/**
 * Takes in orders from a file, by the same road as an order typed in. Whole: all orders or none. In part: each order
 * whole or not at all, and told which. An order whose reference was imported before is not imported again.
 *
 * <p>A long file goes on in the background; how far it is stands in the database, so that it can be left and found
 * again.
 */
@Service
class OrderImport {

    private static final Logger LOG = LoggerFactory.getLogger(OrderImport.class);

    /** So many orders to a transaction: each small commit costs the same as a large one. */
    private static final int TOGETHER = 25;
    /** An answer waits so long for a file to be done, then tells how far it is. */
    private static final Duration PATIENCE = Duration.ofSeconds(8);
    /** Who has not been heard of for so long is gone. */
    static final Duration SILENCE = Duration.ofMinutes(2);

    private final OrderService orders;
    private final Commands commands;
    private final ImportQueries queries;
    private final Locks locks;
    private final Ids ids;
    private final ObjectMapper json;
    private final ExecutorService workers = Executors.newFixedThreadPool(2, task -> {
        var thread = new Thread(task, "import");
        thread.setDaemon(true);
        return thread;
    });

    OrderImport(
            OrderService orders, Commands commands, ImportQueries queries, Locks locks, Ids ids, ObjectMapper json) {
        this.locks = locks;
        this.ids = ids;
        this.orders = orders;
        this.commands = commands;
        this.queries = queries;
        this.json = json;
    }

    @PreDestroy
    void close() {
        workers.shutdownNow();
    }

    /** What can become of an order of the file. */
    enum Outcome {
        TAKEN,
        TAKEN_BEFORE,
        REFUSED,
        NOT_TAKEN
    }

    /** How far the taking in has come; broken off when the server that did it is gone. */
    enum Progress {
        RUNNING,
        DONE,
        BROKEN_OFF
    }

    /**
     * What became of one order.
     *
     * @param order its number here; empty where none was made
     * @param state as the checks left it; null where none was made
     */
    record Result(
            String reference,
            String customer,
            List<Long> rows,
            Outcome outcome,
            String order,
            @Nullable OrderState state,
            String sentence) {}

    /**
     * What became of a file; while it runs, only how far it is. Of its orders and its bad cells the first page, with
     * the cursors of the next.
     */
    record Report(
            long id,
            String fileName,
            boolean whole,
            Progress progress,
            long rows,
            int found,
            int done,
            int taken,
            int held,
            int takenBefore,
            int refused,
            List<Result> results,
            @Nullable String nextResults,
            List<BadCell> bad,
            @Nullable String nextBad,
            String sentence) {}

    record ResultPage(List<Result> rows, @Nullable String next) {}

    record BadCellPage(List<BadCell> rows, @Nullable String next) {}

    /** A file in the list of those imported. */
    record Taken(long id, String fileName, Instant at, String by, Progress progress, long rows, int found, int done) {}

    Report take(CommandContext context, String fileName, byte[] content, CsvTable.Dialect dialect, boolean whole) {
        var customers = new HashSet<>(queries.customerCodes());
        var items = new HashSet<>(queries.itemCodes());
        var read = OrderFile.read(content, dialect, customers::contains, items::contains);
        var id = begin(context, fileName, content, whole, read);
        var running = workers.submit(() -> {
            try {
                finish(id, fileName, whole, read, results(context, id, whole, read));
            } catch (RuntimeException broken) {
                LOG.error("import {} of {} failed", id, fileName, broken);
                queries.touch(Instant.EPOCH, id);
            }
        });
        try {
            running.get(PATIENCE.toSeconds(), TimeUnit.SECONDS);
        } catch (TimeoutException goesOn) {
            return report(id);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("stopped during an import", stopped);
        } catch (ExecutionException broken) {
            throw new IllegalStateException("file " + fileName + " could not be imported", broken.getCause());
        }
        return report(id);
    }

    private long begin(CommandContext context, String fileName, byte[] content, boolean whole, OrderFile.Read read) {
        var now = Instant.now();
        var row = new ImportLogEntity();
        row.fileName = fileName;
        row.fileHash = Hashes.sha256(content);
        row.whole = whole;
        row.rowsRead = Math.toIntExact(read.rows());
        row.ordersFound = read.orders().size();
        row.ordersDone = 0;
        row.takenAt = now;
        row.touchedAt = now;
        row.takenBy = context.person().username();
        commands.aside(() -> queries.session().insert(row));
        return row.id;
    }

    private List<Result> results(CommandContext context, long id, boolean whole, OrderFile.Read read) {
        if (whole && !read.bad().isEmpty()) {
            return read.orders().stream()
                    .map(order -> notTaken(order, "Not imported: other rows of the file are wrong."))
                    .toList();
        }
        return whole ? allOrNone(context, id, read.orders()) : inGroups(context, id, read.orders());
    }

    private List<Result> inGroups(CommandContext context, long id, List<FileOrder> found) {
        var results = new ArrayList<Result>();
        for (int from = 0; from < found.size(); from += TOGETHER) {
            results.addAll(group(context, found.subList(from, Math.min(from + TOGETHER, found.size()))));
            touch(id, results.size());
        }
        return results;
    }

    /** Some orders in one transaction; where one is refused, each again in its own. */
    private List<Result> group(CommandContext context, List<FileOrder> group) {
        try {
            return together(group, order -> one(context, order));
        } catch (RuntimeException oneOfThem) {
            return group.stream()
                    .map(order -> {
                        try {
                            return together(() -> one(context, order));
                        } catch (RefusedException refused) {
                            return refused(order, refused.getMessage());
                        } catch (RuntimeException bug) {
                            var incident = UUID.randomUUID().toString();
                            LOG.error("incident {}: rows {} of an import", incident, order.rows(), bug);
                            return refused(order, "Internal error; incident " + incident + ".");
                        }
                    })
                    .toList();
        }
    }

    /**
     * All orders of a file or none. What fits into one transaction is one; of a longer file every order is looked at
     * first, in groups, so that nobody waits for its customers and items for longer than a group takes.
     */
    private List<Result> allOrNone(CommandContext context, long id, List<FileOrder> found) {
        if (found.size() <= TOGETHER) {
            try {
                return together(found, order -> attempt(context, order));
            } catch (RefusedOrder refused) {
                return noneBecause(found, List.of(refused.result));
            }
        }
        var refusals = new ArrayList<Result>();
        for (int from = 0; from < found.size(); from += TOGETHER) {
            refusals.addAll(lookedAt(context, found.subList(from, Math.min(from + TOGETHER, found.size()))));
            touch(id, 0);
        }
        return refusals.isEmpty() ? inGroups(context, id, found) : noneBecause(found, refusals);
    }

    /** Orders that would be refused; nothing of the group is kept. */
    private List<Result> lookedAt(CommandContext context, List<FileOrder> group) {
        var left = new ArrayList<>(group);
        var refusals = new ArrayList<Result>();
        // each refusal ends a transaction; what stood behind it is looked at in the next
        while (!left.isEmpty()) {
            try {
                commands.simulated(() -> {
                    lock(left);
                    left.forEach(order -> attempt(context, order));
                    return null;
                });
                left.clear();
            } catch (RefusedOrder refused) {
                refusals.add(refused.result);
                left.removeIf(order -> order.rows().equals(refused.result.rows()));
            }
        }
        return refusals;
    }

    /** What several orders want is locked before the first of them takes anything: files name them in any sequence. */
    private void lock(List<FileOrder> several) {
        locks.customers(several.stream()
                .map(order -> ids.customer(order.customer()))
                .distinct()
                .toList());
        var items = several.stream()
                .flatMap(order -> order.draft().lines().stream())
                .map(OrderDraft.Line::item)
                .filter(item -> item != null && !item.isEmpty())
                .distinct()
                .toList();
        locks.quotas(items);
        locks.shelves(items);
    }

    private Result attempt(CommandContext context, FileOrder order) {
        try {
            return one(context, order);
        } catch (RefusedException refused) {
            throw new RefusedOrder(refused(order, refused.getMessage()));
        }
    }

    /** An order of a file that is imported whole was refused. */
    private static final class RefusedOrder extends RuntimeException {

        private static final long serialVersionUID = 1L;
        private final transient Result result;

        private RefusedOrder(Result result) {
            super(result.sentence());
            this.result = result;
        }
    }

    private static List<Result> noneBecause(List<FileOrder> found, List<Result> refusals) {
        var byRows = refusals.stream().collect(Collectors.toMap(Result::rows, result -> result));
        return found.stream()
                .map(order -> byRows.getOrDefault(
                        order.rows(), notTaken(order, "Not imported: another order of the file was refused.")))
                .toList();
    }

    private List<Result> together(List<FileOrder> several, Function<FileOrder, Result> each) {
        return together(() -> {
            lock(several);
            return several.stream().map(each).toList();
        });
    }

    private <T> T together(Supplier<T> work) {
        return commands.inTransaction(work);
    }

    /** Notes how far it is, outside the transaction that takes the orders in. */
    private void touch(long id, int done) {
        commands.aside(() -> queries.progress(done, Instant.now(), id));
    }

    private Result one(CommandContext context, FileOrder order) {
        var before = orders.takenIn(order.customer(), order.reference());
        if (before.isPresent()) {
            return new Result(
                    order.reference(),
                    order.customer(),
                    order.rows(),
                    Outcome.TAKEN_BEFORE,
                    before.get(),
                    null,
                    "This reference was imported before, as order " + before.get() + ".");
        }
        var view = orders.submit(context, order.draft());
        return new Result(
                order.reference(), order.customer(), order.rows(), Outcome.TAKEN, view.number(), view.state(), "");
    }

    private static Result refused(FileOrder order, String sentence) {
        return new Result(order.reference(), order.customer(), order.rows(), Outcome.REFUSED, "", null, sentence);
    }

    private static Result notTaken(FileOrder order, String sentence) {
        return new Result(order.reference(), order.customer(), order.rows(), Outcome.NOT_TAKEN, "", null, sentence);
    }

    private void finish(long id, String fileName, boolean whole, OrderFile.Read read, List<Result> results) {
        var taken =
                (int) results.stream().filter(r -> r.outcome() == Outcome.TAKEN).count();
        var held =
                (int) results.stream().filter(r -> r.state() == OrderState.HELD).count();
        var before = (int) results.stream()
                .filter(r -> r.outcome() == Outcome.TAKEN_BEFORE)
                .count();
        var refused = results.size() - taken - before;
        var resultPages = pages(results, ResultPage::new);
        var badPages = pages(read.bad(), BadCellPage::new);
        var report = new Report(
                id,
                fileName,
                whole,
                Progress.DONE,
                read.rows(),
                results.size(),
                results.size(),
                taken,
                held,
                before,
                refused,
                resultPages.get(0).rows(),
                resultPages.get(0).next(),
                badPages.get(0).rows(),
                badPages.get(0).next(),
                sentence(taken, held, before, refused, read.bad().size()));
        commands.aside(() -> {
            keep(id, Part.RESULTS, resultPages);
            keep(id, Part.BAD_CELLS, badPages);
            return queries.finish(results.size(), Instant.now(), json.writeValueAsString(report), id);
        });
    }

    /** Cuts rows into pages, of which there is one at least; each names the next. */
    private static <T, P> List<P> pages(List<T> rows, BiFunction<List<T>, String, P> page) {
        var pages = new ArrayList<P>();
        for (int from = 0; from < Math.max(rows.size(), 1); from += Pages.SIZE) {
            var to = Math.min(from + Pages.SIZE, rows.size());
            pages.add(page.apply(
                    rows.subList(from, to),
                    to < rows.size() ? Pages.cursor(List.of(String.valueOf(pages.size() + 1))) : null));
        }
        return pages;
    }

    private void keep(long id, Part part, List<?> pages) {
        for (int no = 1; no < pages.size(); no++) {
            var page = new ImportPageEntity();
            page.importId = id;
            page.part = part;
            page.no = no;
            page.content = json.writeValueAsString(pages.get(no));
            queries.session().insert(page);
        }
    }

    /** A page of what became of the orders of a file. */
    ResultPage results(long id, @Nullable String after) {
        if (after == null) {
            var report = report(id);
            return new ResultPage(report.results(), report.nextResults());
        }
        return page(id, Part.RESULTS, after, ResultPage.class);
    }

    /** A page of the cells of a file that are not as expected. */
    BadCellPage badCells(long id, @Nullable String after) {
        if (after == null) {
            var report = report(id);
            return new BadCellPage(report.bad(), report.nextBad());
        }
        return page(id, Part.BAD_CELLS, after, BadCellPage.class);
    }

    private <T> T page(long id, Part part, String after, Class<T> type) {
        var no = (int) Math.min(Pages.key(after).number(0), Integer.MAX_VALUE);
        var page = queries.page(id, part, no);
        if (page == null) {
            throw new RefusedException(new CommonRefusal.NotFound("page of import", String.valueOf(id)));
        }
        return json.readValue(page.content, type);
    }

    private static String sentence(int taken, int held, int before, int refused, int bad) {
        var text = new StringBuilder(
                taken == 0 ? "No orders imported" : taken == 1 ? "One order imported" : taken + " orders imported");
        if (held > 0) {
            text.append(", ").append(held).append(" of them held");
        }
        if (before > 0) {
            text.append("; ").append(before).append(before == 1 ? " was imported before" : " were imported before");
        }
        if (refused > 0) {
            text.append("; ").append(refused).append(refused == 1 ? " was not imported" : " were not imported");
        }
        if (bad > 0) {
            text.append("; ").append(bad).append(bad == 1 ? " cell is wrong" : " cells are wrong");
        }
        return text.append('.').toString();
    }

    /** The report of a file that is done, or how far it is. */
    Report report(long id) {
        var log = queries.log(id);
        if (log == null) {
            throw new RefusedException(new CommonRefusal.NotFound("import", String.valueOf(id)));
        }
        return log.result == null ? underway(taken(log), log.whole) : json.readValue(log.result, Report.class);
    }

    private static Report underway(Taken taken, boolean whole) {
        var sentence = taken.progress() == Progress.RUNNING
                ? "Importing: %d of %d orders so far.".formatted(taken.done(), taken.found())
                : "The server stopped after %d of %d orders. Import the file again; no order is imported twice."
                        .formatted(taken.done(), taken.found());
        return new Report(
                taken.id(),
                taken.fileName(),
                whole,
                taken.progress(),
                taken.rows(),
                taken.found(),
                taken.done(),
                0,
                0,
                0,
                0,
                List.of(),
                null,
                List.of(),
                null,
                sentence);
    }

    private static Taken taken(ImportLogEntity log) {
        var progress = log.result != null
                ? Progress.DONE
                : log.touchedAt.plus(SILENCE).isBefore(Instant.now()) ? Progress.BROKEN_OFF : Progress.RUNNING;
        return new Taken(
                log.id,
                log.fileName,
                log.takenAt,
                log.takenBy,
                progress,
                log.rowsRead,
                log.ordersFound,
                log.ordersDone);
    }
}
