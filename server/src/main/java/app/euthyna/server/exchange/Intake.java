package app.euthyna.server.exchange;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.exchange.OrderFile.BadCell;
import app.euthyna.server.exchange.OrderFile.FileOrder;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.RefusedException;
import jakarta.persistence.EntityManager;
import java.sql.Timestamp;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.ObjectMapper;

/**
 * Takes in orders from a file, by the same road as an order typed in. Whole: all orders in one transaction, or none. In part: each
 * order whole or not at all, and told which. An order whose reference was taken in before is not taken again.
 */
@Service
class Intake {

    private final EntityManager entities;
    private final OrderService orders;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final JdbcClient jdbc;
    private final ObjectMapper json;
    private final Clock clock;

    Intake(EntityManager entities, OrderService orders, Commands commands, TransactionTemplate transactions, JdbcClient jdbc,
            ObjectMapper json, Clock clock) {
        this.entities = entities;
        this.orders = orders;
        this.commands = commands;
        this.transactions = transactions;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** What can become of an order of the file. */
    enum Outcome { TAKEN, TAKEN_BEFORE, REFUSED, NOT_TAKEN }

    /**
     * What became of one order.
     *
     * @param order its number here; empty where none was made
     * @param state as the checks left it; null where none was made
     */
    record Result(String reference, String customer, List<Long> rows, Outcome outcome, String order, OrderState state, String sentence) {
    }

    /** What became of a file. */
    record Report(long id, String fileName, boolean whole, long rows, int taken, int held, int takenBefore, int refused, List<Result> results,
            List<BadCell> bad, String sentence) {
    }

    Report take(CommandContext context, String fileName, byte[] content, boolean comma, char separator, boolean whole) {
        var customers = new HashSet<>(jdbc.sql("select code from customer").query(String.class).list());
        var items = new HashSet<>(jdbc.sql("select code from item").query(String.class).list());
        var read = OrderFile.read(content, comma, separator, customers::contains, items::contains);
        List<Result> results;
        if (whole && !read.bad().isEmpty()) {
            results = read.orders().stream().map(order -> notTaken(order, "Not taken: other rows of the file are wrong.")).toList();
        } else {
            results = whole ? allOrNone(context, read.orders()) : oneByOne(context, read.orders());
        }
        return keep(context, fileName, content, whole, read, results);
    }

    private List<Result> oneByOne(CommandContext context, List<FileOrder> found) {
        return found.stream().map(order -> {
            try {
                return commands.retrying(() -> transactions.execute(status -> one(context, order)));
            } catch (RefusedException refused) {
                return refused(order, refused);
            }
        }).toList();
    }

    private List<Result> allOrNone(CommandContext context, List<FileOrder> found) {
        var refusals = new ArrayList<Result>();
        try {
            return commands.retrying(() -> transactions.execute(status -> {
                refusals.clear();
                var taken = new ArrayList<Result>();
                for (var order : found) {
                    try {
                        taken.add(one(context, order));
                        // what is done with is let go of, or every later order would be looked through for changes with it
                        entities.flush();
                        entities.clear();
                    } catch (RefusedException refused) {
                        refusals.add(refused(order, refused));
                        throw refused;
                    }
                }
                return taken;
            }));
        } catch (RefusedException refused) {
            return found.stream().map(order -> refusals.stream().filter(r -> r.rows().equals(order.rows())).findFirst()
                    .orElseGet(() -> notTaken(order, "Not taken: another order of the file was refused."))).toList();
        }
    }

    private Result one(CommandContext context, FileOrder order) {
        var before = orders.takenIn(order.customer(), order.reference());
        if (before.isPresent()) {
            return new Result(order.reference(), order.customer(), order.rows(), Outcome.TAKEN_BEFORE, before.get(), null,
                    "This reference was taken in before, as order " + before.get() + ".");
        }
        var view = orders.submit(context, order.draft());
        return new Result(order.reference(), order.customer(), order.rows(), Outcome.TAKEN, view.number(), view.state(), "");
    }

    private static Result refused(FileOrder order, RefusedException refused) {
        return new Result(order.reference(), order.customer(), order.rows(), Outcome.REFUSED, "", null, refused.getMessage());
    }

    private static Result notTaken(FileOrder order, String sentence) {
        return new Result(order.reference(), order.customer(), order.rows(), Outcome.NOT_TAKEN, "", null, sentence);
    }

    private Report keep(CommandContext context, String fileName, byte[] content, boolean whole, OrderFile.Read read, List<Result> results) {
        var taken = (int) results.stream().filter(r -> r.outcome() == Outcome.TAKEN).count();
        var held = (int) results.stream().filter(r -> r.state() == OrderState.HELD).count();
        var before = (int) results.stream().filter(r -> r.outcome() == Outcome.TAKEN_BEFORE).count();
        var refused = results.size() - taken - before;
        var report = new Report(0, fileName, whole, read.rows(), taken, held, before, refused, results, read.bad(),
                sentence(taken, held, before, refused, read.bad().size()));
        return transactions.execute(status -> {
            jdbc.sql("insert into intake (file_name, file_hash, whole, rows_read, taken_at, taken_by, result) values (?, ?, ?, ?, ?, ?, ?)")
                    .params(fileName, Hashes.sha256(content), whole, read.rows(), Timestamp.from(clock.instant()),
                            context.person().username(), json.writeValueAsString(report)).update();
            var id = jdbc.sql("select max(id) from intake").query(Long.class).single();
            return withId(report, id);
        });
    }

    private static Report withId(Report r, long id) {
        return new Report(id, r.fileName(), r.whole(), r.rows(), r.taken(), r.held(), r.takenBefore(), r.refused(), r.results(), r.bad(),
                r.sentence());
    }

    private static String sentence(int taken, int held, int before, int refused, int bad) {
        var text = new StringBuilder(taken == 0 ? "No order was taken in" : taken == 1 ? "One order was taken in" : taken + " orders were taken in");
        if (held > 0) {
            text.append(", ").append(held).append(" of them held");
        }
        if (before > 0) {
            text.append("; ").append(before).append(before == 1 ? " was taken before" : " were taken before");
        }
        if (refused > 0) {
            text.append("; ").append(refused).append(refused == 1 ? " was not taken" : " were not taken");
        }
        if (bad > 0) {
            text.append("; ").append(bad).append(bad == 1 ? " cell is wrong" : " cells are wrong");
        }
        return text.append('.').toString();
    }

    Report report(long id) {
        return jdbc.sql("select result from intake where id = ?").param(id).query(String.class).optional()
                .map(stored -> withId(json.readValue(stored, Report.class), id))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("intake", String.valueOf(id))));
    }
}
