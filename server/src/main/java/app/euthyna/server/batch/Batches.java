package app.euthyna.server.batch;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.annotation.PreDestroy;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Many commands asked for at once. They are kept first, all or none; then each is carried out in a transaction of its
 * own, which also writes what became of it, so that nothing is done twice and nothing is forgotten whenever a server
 * goes down. What waits is taken up again by any server.
 */
@Service
public class Batches {

    private static final Logger LOG = LoggerFactory.getLogger(Batches.class);

    /** An answer waits so long for a batch to be done, then tells how far it is. */
    private static final Duration PATIENCE = Duration.ofSeconds(6);
    /** A batch that nobody has worked on for so long is taken up again. */
    private static final Duration SILENCE = Duration.ofSeconds(10);

    private final JdbcClient jdbc;
    private final JdbcTemplate many;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final CompanyClock clock;
    private final ObjectProvider<BatchWork> works;
    private final ExecutorService workers = Executors.newFixedThreadPool(2, task -> {
        var thread = new Thread(task, "batch");
        thread.setDaemon(true);
        return thread;
    });

    Batches(
            JdbcClient jdbc,
            JdbcTemplate many,
            Commands commands,
            TransactionTemplate transactions,
            CompanyClock clock,
            ObjectProvider<BatchWork> works) {
        this.jdbc = jdbc;
        this.many = many;
        this.commands = commands;
        this.transactions = transactions;
        this.clock = clock;
        this.works = works;
    }

    @PreDestroy
    void close() {
        workers.shutdownNow();
    }

    /** What is done many times over. */
    public enum Kind {
        CLEARING,
        STAGING,
        DEPARTURE,
        BILLING,
        REMINDERS,
        RETURN_REMINDERS,
        MATCHING,
        CANCELLING;

        /** Who reads what became of it: of goods everybody of the business, of prices and money whoever reads those. */
        Set<Role> readers() {
            return this == STAGING || this == DEPARTURE ? Reading.BUSINESS : Reading.SELLING;
        }
    }

    /** What became of an entry. */
    public enum State {
        WAITING,
        DONE,
        REFUSED
    }

    /** One command of a batch: what it is about, and what is asked. */
    public record Asked(DocumentKind subjectKind, String subject, Object request) {}

    /**
     * A command of a batch and what became of it.
     *
     * @param code of the refusal; empty where it was not refused
     * @param result the document made or moved; null where there is none
     */
    public record Entry(
            int no,
            DocumentKind subjectKind,
            String subject,
            State state,
            String code,
            String sentence,
            @Nullable DocumentKind resultKind,
            @Nullable String result) {}

    /** A batch in the list. */
    public record BatchRow(
            long id, Kind kind, OffsetDateTime at, String by, String reason, int waiting, int done, int refused) {}

    /** A batch with its entries, or a page of them. */
    public record BatchView(
            long id,
            Kind kind,
            OffsetDateTime at,
            String by,
            String reason,
            int waiting,
            int done,
            int refused,
            List<Entry> entries,
            @Nullable String next) {}

    public record BatchPage(List<BatchRow> rows, @Nullable String next) {}

    /** Keeps what is asked for, in the command's transaction; {@link #carryOut} is to follow it. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long begin(CommandContext context, Kind kind, List<Asked> asked) {
        var id = insert(context, kind);
        var no = 1;
        var rows = new ArrayList<Object[]>();
        for (var one : asked) {
            var entry = new Entry(no++, one.subjectKind(), one.subject(), State.WAITING, "", "", null, null);
            rows.add(row(id, entry, Records.write(one.request())));
        }
        many.batchUpdate(INSERT, rows);
        return id;
    }

    /** Keeps the log of what one transaction has done. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long keep(CommandContext context, Kind kind, List<Entry> entries) {
        var id = insert(context, kind);
        many.batchUpdate(
                INSERT, entries.stream().map(entry -> row(id, entry, "")).toList());
        return id;
    }

    private long insert(CommandContext context, Kind kind) {
        var now = Timestamp.from(Instant.now());
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into batch (kind, asked_at, touched_at, asked_by, role, stands_in, on_date, reason)"
                        + " values (?, ?, ?, ?, ?, ?, ?, ?)")
                .params(
                        kind.name(),
                        now,
                        now,
                        context.person().username(),
                        context.person().role().name(),
                        context.person().standsInFor().stream()
                                .map(Role::name)
                                .sorted()
                                .collect(Collectors.joining(",")),
                        context.date(),
                        context.reason())
                .update(key, "id");
        return key.getKeyAs(Long.class);
    }

    private static final String INSERT = """
        insert into batch_entry (batch_id, no, subject_kind, subject, request, state, code, sentence, result_kind,
            result)
        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
        """;

    private static Object[] row(long batch, Entry entry, String request) {
        return new Object[] {
            batch,
            entry.no(),
            entry.subjectKind().name(),
            Texts.cut(entry.subject(), 400),
            request,
            entry.state().name(),
            entry.code(),
            Texts.cut(entry.sentence(), 4000),
            entry.resultKind() == null ? null : entry.resultKind().name(),
            entry.result()
        };
    }

    /** Works on a batch, and answers when it is done or patience ends; it goes on in the background then. */
    public BatchView carryOut(long id) {
        var running = start(id);
        try {
            running.get(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException goesOn) {
            return view(id, null, null);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("stopped while batch " + id + " was carried out", stopped);
        } catch (ExecutionException broken) {
            throw new IllegalStateException("batch " + id + " broke off", broken.getCause());
        }
        return view(id, null, null);
    }

    /** Takes up what a server left that is no longer there. */
    @Scheduled(initialDelay = 3_000, fixedDelay = 5_000)
    void takeUp() {
        jdbc.sql("select distinct b.id from batch_entry e join batch b on b.id = e.batch_id where e.state ="
                        + " 'WAITING' and b.touched_at < ? order by b.id")
                .param(Timestamp.from(Instant.now().minus(SILENCE)))
                .query(Long.class)
                .list()
                .forEach(id -> {
                    var unused = start(id);
                });
    }

    /** Whoever asked may have stopped waiting for it, so what breaks it off is told here too. */
    private Future<?> start(long id) {
        return workers.submit(() -> {
            try {
                work(id);
            } catch (RuntimeException bug) {
                LOG.error("batch {} broke off", id, bug);
                throw bug;
            }
        });
    }

    private void work(long id) {
        var batch = jdbc.sql("select kind, asked_by, role, stands_in, on_date, reason from batch where id = ?")
                .param(id)
                .query((r, n) -> new Batch(
                        Kind.valueOf(r.getString(1)),
                        new CommandContext(
                                        new Person(
                                                r.getString(2),
                                                Role.valueOf(r.getString(3)),
                                                Arrays.stream(r.getString(4).split(","))
                                                        .filter(role -> !role.isEmpty())
                                                        .map(Role::valueOf)
                                                        .collect(Collectors.toSet())),
                                        clock.today(),
                                        r.getString(6))
                                .dated(r.getObject(5, LocalDate.class))))
                .single();
        var doer = works.stream()
                .filter(work -> work.kind() == batch.kind())
                .findFirst()
                .orElseThrow();
        for (var no : jdbc.sql("select no from batch_entry where batch_id = ? and state = 'WAITING' order by no")
                .param(id)
                .query(Integer.class)
                .list()) {
            if (Thread.currentThread().isInterrupted()) {
                return;
            }
            one(batch.context(), doer, id, no);
        }
    }

    private record Batch(Kind kind, CommandContext context) {}

    /** Carries out an entry unless someone else has; whoever comes second waits for its row and finds it done. */
    private void one(CommandContext context, BatchWork doer, long batch, int no) {
        try {
            commands.retrying(() -> transactions.execute(status -> {
                var request = jdbc.sql(
                                "select request from batch_entry where batch_id = ? and no = ? and state = 'WAITING'"
                                        + " for update")
                        .params(batch, no)
                        .query(String.class)
                        .optional();
                request.map(asked -> doer.carryOut(context, asked))
                        .ifPresent(done -> settle(batch, no, State.DONE, "", done.sentence(), done.document()));
                return null;
            }));
        } catch (RefusedException refused) {
            refuse(batch, no, refused.refusals().get(0).code(), refused.getMessage());
        } catch (RuntimeException bug) {
            var incident = UUID.randomUUID().toString();
            LOG.error("incident {}: entry {} of batch {}", incident, no, batch, bug);
            refuse(batch, no, "broken", "Internal error; incident " + incident + ".");
        }
    }

    private void refuse(long batch, int no, String code, String sentence) {
        commands.retrying(() -> transactions.execute(status -> {
            settle(batch, no, State.REFUSED, code, sentence, null);
            return null;
        }));
    }

    private void settle(long batch, int no, State state, String code, String sentence, DocumentRef result) {
        jdbc.sql("update batch_entry set state = ?, code = ?, sentence = ?, result_kind = ?, result = ? where"
                        + " batch_id = ? and no = ? and state = 'WAITING'")
                .param(state.name())
                .param(code)
                .param(Texts.cut(sentence, 4000))
                .param(result == null ? null : result.kind().name())
                .param(result == null ? null : result.number())
                .param(batch)
                .param(no)
                .update();
        jdbc.sql("update batch set touched_at = ? where id = ?")
                .params(Timestamp.from(Instant.now()), batch)
                .update();
    }

    /**
     * A batch with a page of its entries.
     *
     * @param state only entries of which this became; null for all
     */
    BatchView view(long id, @Nullable State state, @Nullable String after) {
        var row = rows("b.id = :id and b.kind in (:kinds)", Map.of("id", id, "kinds", read())).stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("batch", String.valueOf(id))));
        var entries = jdbc.sql(
                        "select no, subject_kind, subject, state, code, sentence, result_kind, result from batch_entry"
                                + " where batch_id = ? and no > ?"
                                + (state == null ? "" : " and state = '" + state.name() + "'")
                                + " order by no fetch first " + (Pages.SIZE + 1) + " rows only")
                .param(id)
                .param(after == null ? 0 : Pages.key(after).number(0))
                .query(Batches::entry)
                .list();
        var page = Pages.of(entries, entry -> List.of(String.valueOf(entry.no())));
        return new BatchView(
                row.id(),
                row.kind(),
                row.at(),
                row.by(),
                row.reason(),
                row.waiting(),
                row.done(),
                row.refused(),
                page.rows(),
                page.next());
    }

    private static Entry entry(ResultSet r, int n) throws SQLException {
        return new Entry(
                r.getInt(1),
                DocumentKind.valueOf(r.getString(2)),
                r.getString(3),
                State.valueOf(r.getString(4)),
                r.getString(5),
                r.getString(6),
                r.getString(7) == null ? null : DocumentKind.valueOf(r.getString(7)),
                r.getString(8));
    }

    /** Batches newest first, of one kind or of all. */
    BatchPage page(Kind kind, String after) {
        var rows = rows(
                "b.id < :before and b.kind in (:kinds)" + (kind == null ? "" : " and b.kind = '" + kind.name() + "'"),
                Map.of(
                        "kinds",
                        read(),
                        "before",
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0)));
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new BatchPage(page.rows(), page.next());
    }

    /** The kinds that whoever is signed in reads. */
    private static List<String> read() {
        return Arrays.stream(Kind.values())
                .filter(kind -> Reading.isOne(kind.readers()))
                .map(Kind::name)
                .toList();
    }

    private List<BatchRow> rows(String which, Map<String, ?> parameters) {
        var heads = jdbc.sql("select b.id, b.kind, b.asked_at, b.asked_by, b.reason from batch b where " + which
                        + " order by b.id desc fetch first " + (Pages.SIZE + 1) + " rows only")
                .params(parameters)
                .query((r, n) -> new BatchRow(
                        r.getLong(1),
                        Kind.valueOf(r.getString(2)),
                        r.getObject(3, OffsetDateTime.class),
                        r.getString(4),
                        r.getString(5),
                        0,
                        0,
                        0))
                .list();
        if (heads.isEmpty()) {
            return heads;
        }
        var counts =
                heads.stream().collect(Collectors.toMap(BatchRow::id, row -> new EnumMap<State, Integer>(State.class)));
        jdbc.sql("select batch_id, state, count(*) from batch_entry where batch_id in (:ids) group by batch_id, state")
                .param("ids", counts.keySet())
                .query((r, n) -> counts.get(r.getLong(1)).put(State.valueOf(r.getString(2)), r.getInt(3)))
                .list();
        return heads.stream()
                .map(row -> new BatchRow(
                        row.id(),
                        row.kind(),
                        row.at(),
                        row.by(),
                        row.reason(),
                        counts.get(row.id()).getOrDefault(State.WAITING, 0),
                        counts.get(row.id()).getOrDefault(State.DONE, 0),
                        counts.get(row.id()).getOrDefault(State.REFUSED, 0)))
                .toList();
    }
}
