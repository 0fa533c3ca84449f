package app.euthyna.server.batch;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Jobs;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.BiConsumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.hibernate.LockMode;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

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

    private static final Duration FIRST_LOOK = Duration.ofMillis(5);
    private static final Duration LONGEST_PAUSE = Duration.ofMillis(100);

    /** Between the number of a batch and what tells one job of it from another. */
    private static final String AGAIN = " ";

    /** May stop whatever others have asked for. */
    private static final List<Role> MASTERS = List.of(Role.CONTROLLER, Role.LEAD);

    private final BatchQueries queries;
    private final Commands commands;
    private final CompanyClock clock;
    private final ObjectProvider<BatchWork> works;
    private final Jobs jobs;
    private final OneTimeTask<Void> batch = Jobs.asked("batch", name -> work(numberIn(name)));

    Batches(BatchQueries queries, Commands commands, CompanyClock clock, ObjectProvider<BatchWork> works, Jobs jobs) {
        this.jobs = jobs;
        this.queries = queries;
        this.commands = commands;
        this.clock = clock;
        this.works = works;
    }

    /** Carries out batches. */
    @Bean
    Task<?> batchJob() {
        return batch;
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
        CANCELLING,
        UNWINDING,
        WRITING_OFF;

        /** Who reads what became of it: of goods everybody of the business, of prices and money whoever reads those. */
        Set<Role> readers() {
            return this == STAGING || this == DEPARTURE ? Reading.BUSINESS : Reading.SELLING;
        }

        /** Whether what it comes to is put on paper: dispatches and invoices. */
        boolean isOnPaper() {
            return this == STAGING || this == DEPARTURE || this == BILLING;
        }
    }

    /** What became of an entry. */
    public enum State {
        WAITING,
        DONE,
        REFUSED,
        /** Somebody took it out before it was done. */
        LEFT_OUT
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
            long id,
            Kind kind,
            Instant at,
            String by,
            String reason,
            int waiting,
            int done,
            int refused,
            int leftOut,
            @Nullable String stoppedBy) {}

    /**
     * A batch with its entries, or a page of them.
     *
     * @param stoppedBy who has stopped it; null where nobody has
     * @param results the numbers of all documents that it came to, in its sequence, where they go on paper
     * @param following what whoever is signed in may have done next with the documents that it came to; null for
     *     nothing
     */
    public record BatchView(
            long id,
            Kind kind,
            Instant at,
            String by,
            String reason,
            int waiting,
            int done,
            int refused,
            int leftOut,
            @Nullable String stoppedBy,
            @Nullable Kind following,
            List<String> results,
            List<Entry> entries,
            @Nullable String next) {}

    public record BatchPage(List<BatchRow> rows, @Nullable String next) {}

    /**
     * Does many things that somebody asks for over HTTP, each on its own; the answer is the log, which goes on where it
     * is long.
     *
     * @param told the day and the reason of all
     * @param asked looked for in the command's transaction
     */
    public BatchView run(
            HttpServletRequest http,
            Object request,
            UnaryOperator<CommandContext> told,
            Kind kind,
            Supplier<List<Asked>> asked) {
        return carryOut(
                commands.run(http, request, Long.class, context -> begin(told.apply(context), kind, asked.get())));
    }

    /** Keeps what is asked for, in the command's transaction; {@link #carryOut} is to follow it. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long begin(CommandContext context, Kind kind, List<Asked> asked) {
        var id = insert(context, kind);
        var no = 1;
        var rows = new ArrayList<BatchEntryEntity>();
        for (var one : asked) {
            var entry = new Entry(no++, one.subjectKind(), one.subject(), State.WAITING, "", "", null, null);
            rows.add(row(id, entry, Records.write(one.request())));
        }
        queries.session().insertMultiple(rows);
        jobs.ask(batch, String.valueOf(id));
        return id;
    }

    /** Keeps the log of what one transaction has done. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long keep(CommandContext context, Kind kind, List<Entry> entries) {
        var id = insert(context, kind);
        queries.session()
                .insertMultiple(
                        entries.stream().map(entry -> row(id, entry, "")).toList());
        return id;
    }

    private long insert(CommandContext context, Kind kind) {
        var row = new BatchEntity();
        row.kind = kind.name();
        row.askedAt = Instant.now();
        row.askedBy = context.person().username();
        row.role = context.person().role().name();
        row.standsIn =
                context.person().standsInFor().stream().map(Role::name).sorted().collect(Collectors.joining(","));
        row.onDate = context.date();
        row.reason = context.reason();
        queries.session().insert(row);
        return row.id;
    }

    private static BatchEntryEntity row(long batch, Entry entry, String request) {
        var row = new BatchEntryEntity();
        row.batchId = batch;
        row.no = entry.no();
        row.subjectKind = entry.subjectKind().name();
        row.subject = Texts.cut(entry.subject(), 400);
        row.request = request;
        row.state = entry.state().name();
        row.code = entry.code();
        row.sentence = Texts.cut(entry.sentence(), 4000);
        row.resultKind = entry.resultKind() == null ? null : entry.resultKind().name();
        row.result = entry.result();
        return row;
    }

    /** Answers when a batch is done or patience ends; it goes on in the background then. */
    public BatchView carryOut(long id) {
        var until = Instant.now().plus(PATIENCE);
        var pause = FIRST_LOOK;
        while (queries.leftOf(id) > 0
                && queries.stopped(id) == 0
                && Instant.now().isBefore(until)) {
            try {
                Thread.sleep(pause.toMillis());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                throw new IllegalStateException("stopped while batch " + id + " was carried out", stopped);
            }
            pause = pause.multipliedBy(2).compareTo(LONGEST_PAUSE) < 0 ? pause.multipliedBy(2) : LONGEST_PAUSE;
        }
        return view(id, null, null);
    }

    /** Stops it: what is being done is done, what waits is left until it is told to go on. */
    BatchView stop(HttpServletRequest http, long id) {
        return changed(http, "stop", id, (context, row) -> {
            if (row.stoppedAt == null && queries.leftOf(id) > 0) {
                row.stoppedAt = Instant.now();
                row.stoppedBy = context.person().username();
            }
        });
    }

    /** Has it go on, as whoever asked for it. */
    BatchView goOn(HttpServletRequest http, long id) {
        return changed(http, "go on", id, (context, row) -> {
            if (row.stoppedAt != null) {
                row.stoppedAt = null;
                row.stoppedBy = null;
                // a name of its own: the job that was stopped may not have ended yet
                jobs.ask(batch, id + AGAIN + UUID.randomUUID());
            }
        });
    }

    /** Leaves an entry out, unless it has been done meanwhile: the answer says so. */
    BatchView leaveOut(HttpServletRequest http, long id, int no) {
        return changed(http, "leave out " + no, id, (context, row) -> {
            var entry = queries.session()
                    .get(BatchEntryEntity.class, new BatchEntryEntity.Key(id, no), LockMode.PESSIMISTIC_WRITE);
            if (entry == null) {
                throw new RefusedException(new CommonRefusal.NotFound("entry", String.valueOf(no)));
            }
            settle(
                    id,
                    no,
                    State.LEFT_OUT,
                    "",
                    "Left out by %s.".formatted(context.person().username()),
                    null);
        });
    }

    /** The work that goes on with what work of a kind came to. */
    private Optional<BatchWork> following(Kind kind) {
        return works.stream()
                .filter(work ->
                        work.following().filter(one -> one.after() == kind).isPresent())
                .findFirst();
    }

    /** Goes on with the documents that a batch came to: what was staged is sent off, what left is billed. */
    BatchView goOnWith(HttpServletRequest http, long id) {
        var work = following(head(id).kind()).orElseThrow(() -> nothingToGoOnWith(id));
        var following = work.following().orElseThrow();
        following.right().check(commands.context().person(), "go on with that");
        return run(http, "go on with " + id, context -> context, work.kind(), () -> {
            var asked = following.asked().apply(queries.results(id));
            if (asked.isEmpty()) {
                throw nothingToGoOnWith(id);
            }
            return asked;
        });
    }

    private static RefusedException nothingToGoOnWith(long id) {
        return new RefusedException(new CommonRefusal.NotFound("document to go on with of run", String.valueOf(id)));
    }

    /** Those who asked for it change how it goes on, and those who may do whatever it does. */
    private BatchView changed(
            HttpServletRequest http, String what, long id, BiConsumer<CommandContext, BatchEntity> change) {
        commands.run(http, what + " " + id, Long.class, context -> {
            head(id);
            var row = queries.session().get(BatchEntity.class, id, LockMode.PESSIMISTIC_WRITE);
            var role = context.person().role();
            if (!row.askedBy.equals(context.person().username()) && !MASTERS.contains(role)) {
                throw new RefusedException(
                        new CommonRefusal.NotAuthorised("change what somebody else has asked for", role, MASTERS));
            }
            change.accept(context, row);
            queries.session().update(row);
            return id;
        });
        return view(id, null, null);
    }

    /** The number of the batch that a job is about. */
    private static long numberIn(String name) {
        var end = name.indexOf(AGAIN);
        return Long.parseLong(end < 0 ? name : name.substring(0, end));
    }

    private void work(long id) {
        var row = queries.batch(id);
        var batch = new Batch(
                Kind.valueOf(row.kind()),
                new CommandContext(
                                new Person(
                                        row.askedBy(),
                                        Role.valueOf(row.role()),
                                        Arrays.stream(row.standsIn().split(","))
                                                .filter(role -> !role.isEmpty())
                                                .map(Role::valueOf)
                                                .collect(Collectors.toSet())),
                                clock.today(),
                                row.reason())
                        .dated(row.onDate()));
        var doer = works.stream()
                .filter(work -> work.kind() == batch.kind())
                .findFirst()
                .orElseThrow();
        for (var no : queries.waiting(id)) {
            if (Thread.currentThread().isInterrupted()) {
                throw new IllegalStateException("batch " + id + " goes on when a server is there again");
            }
            if (queries.stopped(id) > 0) {
                return;
            }
            one(batch.context(), doer, id, no);
        }
    }

    private record Batch(Kind kind, CommandContext context) {}

    /** Carries out an entry unless someone else has; whoever comes second waits for its row and finds it done. */
    private void one(CommandContext context, BatchWork doer, long batch, int no) {
        try {
            commands.inTransaction(() -> {
                var entry = queries.session()
                        .get(BatchEntryEntity.class, new BatchEntryEntity.Key(batch, no), LockMode.PESSIMISTIC_WRITE);
                var request = Optional.of(entry)
                        .filter(one -> one.state.equals(State.WAITING.name()))
                        .map(one -> one.request);
                request.map(asked -> doer.carryOut(context, asked))
                        .ifPresent(done -> settle(batch, no, State.DONE, "", done.sentence(), done.document()));
                return null;
            });
        } catch (RefusedException refused) {
            refuse(batch, no, refused.refusals().get(0).code(), refused.getMessage());
        } catch (RuntimeException bug) {
            var incident = UUID.randomUUID().toString();
            LOG.error("incident {}: entry {} of batch {}", incident, no, batch, bug);
            refuse(batch, no, "broken", "Internal error; incident " + incident + ".");
        }
    }

    private void refuse(long batch, int no, String code, String sentence) {
        commands.inTransaction(() -> {
            settle(batch, no, State.REFUSED, code, sentence, null);
            return null;
        });
    }

    private void settle(long batch, int no, State state, String code, String sentence, DocumentRef result) {
        queries.settle(
                state.name(),
                code,
                Texts.cut(sentence, 4000),
                result == null ? null : result.kind().name(),
                result == null ? null : result.number(),
                batch,
                no);
    }

    /** A batch that whoever is signed in reads. */
    private BatchRow head(long id) {
        return rows(queries.heads(read(), null, id, null)).stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("batch", String.valueOf(id))));
    }

    /**
     * A batch with a page of its entries.
     *
     * @param state only entries of which this became; null for all
     */
    BatchView view(long id, @Nullable State state, @Nullable String after) {
        var row = head(id);
        var entries = queries
                .entries(
                        id,
                        after == null ? 0 : Math.toIntExact(Pages.key(after).number(0)),
                        state == null ? null : state.name())
                .stream()
                .map(Batches::entry)
                .toList();
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
                row.leftOut(),
                row.stoppedBy(),
                following(row.kind())
                        .filter(work -> row.done() > 0)
                        .filter(work -> work.following()
                                .orElseThrow()
                                .right()
                                .isOf(commands.context().person()))
                        .map(BatchWork::kind)
                        .orElse(null),
                row.kind().isOnPaper() ? queries.results(id) : List.of(),
                page.rows(),
                page.next());
    }

    private static Entry entry(BatchEntryEntity row) {
        return new Entry(
                row.no,
                DocumentKind.valueOf(row.subjectKind),
                row.subject,
                State.valueOf(row.state),
                row.code,
                row.sentence,
                row.resultKind == null ? null : DocumentKind.valueOf(row.resultKind),
                row.result);
    }

    /** Batches newest first, of one kind or of all. */
    BatchPage page(Kind kind, String after) {
        var rows = rows(queries.heads(
                read(),
                kind == null ? null : kind.name(),
                null,
                after == null ? null : Pages.key(after).number(0)));
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new BatchPage(page.rows(), page.next());
    }

    /** The kinds that whoever is signed in reads. */
    private static String[] read() {
        return Arrays.stream(Kind.values())
                .filter(kind -> Reading.isOne(kind.readers()))
                .map(Kind::name)
                .toArray(String[]::new);
    }

    private List<BatchRow> rows(List<BatchEntity> found) {
        var heads = found.stream()
                .map(b -> new BatchRow(
                        b.id, Kind.valueOf(b.kind), b.askedAt, b.askedBy, b.reason, 0, 0, 0, 0, b.stoppedBy))
                .toList();
        if (heads.isEmpty()) {
            return heads;
        }
        var counts =
                heads.stream().collect(Collectors.toMap(BatchRow::id, row -> new EnumMap<State, Integer>(State.class)));
        queries.counts(Many.ids(counts.keySet()))
                .forEach(
                        row -> counts.get(row.batchId()).put(State.valueOf(row.state()), Math.toIntExact(row.count())));
        return heads.stream()
                .map(row -> new BatchRow(
                        row.id(),
                        row.kind(),
                        row.at(),
                        row.by(),
                        row.reason(),
                        counts.get(row.id()).getOrDefault(State.WAITING, 0),
                        counts.get(row.id()).getOrDefault(State.DONE, 0),
                        counts.get(row.id()).getOrDefault(State.REFUSED, 0),
                        counts.get(row.id()).getOrDefault(State.LEFT_OUT, 0),
                        row.stoppedBy()))
                .toList();
    }
}
