package app.euthyna.server.approval;

import app.euthyna.core.approval.Level;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.outbox.Outbox;
import app.euthyna.server.people.Deputies;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Jobs;
import app.euthyna.server.platform.RefusedException;
import com.github.kagkarlsson.scheduler.task.Task;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Tells those who carry a level, and their deputies, what waits for them: each morning, or when someone asks. */
@Service
class Reminders {

    private static final int NAMED = 30;

    private final ApprovalQueries queries;
    private final People people;
    private final Deputies deputies;
    private final Outbox outbox;
    private final History history;
    private final Commands commands;

    Reminders(
            ApprovalQueries queries,
            People people,
            Deputies deputies,
            Outbox outbox,
            History history,
            Commands commands) {
        this.queries = queries;
        this.people = people;
        this.deputies = deputies;
        this.outbox = outbox;
        this.history = history;
        this.commands = commands;
    }

    /** Reminds each morning. */
    @Bean
    Task<?> dailyRemindersJob() {
        return Jobs.every("daily-reminders", Duration.ofSeconds(90), Duration.ofMinutes(10), this::onceADay);
    }

    void onceADay() {
        var today = commands.today();
        commands.inTransaction(() -> {
            // a company that is still being set up has nobody to remind; its day is not over with that
            if (!people.isEmpty() && queries.runs(today) == 0) {
                var row = new ReminderRunEntity();
                row.runOn = today;
                row.startedAt = Instant.now();
                queries.session().insert(row);
                remindAll(today);
            }
            return null;
        });
    }

    private record Waiting(String number, String customer, LocalDate since, Level level) {}

    /** One message to each who can decide on something that has waited since before a day. */
    void remindAll(LocalDate before) {
        var waiting = queries.waitingSinceBefore(before).stream()
                .map(row -> new Waiting(row.order(), row.customerName(), row.askedOn(), Level.valueOf(row.waitsFor())))
                .toList();
        for (var colleague : people.all()) {
            var theirs = waiting.stream()
                    .filter(w -> w.level().roles().contains(colleague.role()))
                    .toList();
            if (!theirs.isEmpty()) {
                var more = theirs.size() > NAMED ? "\nand " + (theirs.size() - NAMED) + " more" : "";
                deputies.insteadOf(colleague.username(), before)
                        .forEach(to -> outbox.send(
                                "clock",
                                to,
                                theirs.size() == 1
                                        ? "One order waits for your approval"
                                        : theirs.size() + " orders wait for your approval",
                                theirs.stream()
                                                .limit(NAMED)
                                                .map(w -> "%s, %s, since %s"
                                                        .formatted(w.number(), w.customer(), w.since()))
                                                .collect(Collectors.joining("\n"))
                                        + more,
                                null,
                                null));
            }
        }
    }

    /** Tells those who can decide on one order that someone waits for it; answers whom. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<String> remind(CommandContext context, String order) {
        var level = queries.waitsFor(order)
                .map(Level::valueOf)
                .orElseThrow(() ->
                        new RefusedException(new CommonRefusal.NotFound("waiting approval request of order", order)));
        var told = new TreeSet<String>();
        people.all().stream()
                .filter(p -> level.roles().contains(p.role()))
                .forEach(p -> told.addAll(deputies.insteadOf(p.username(), context.today())));
        told.remove(context.person().username());
        told.forEach(to -> outbox.send(
                context.person().username(),
                to,
                "Order " + order + " waits for " + level.words(),
                people.displayName(context.person().username()) + " asks you to decide on order " + order + ".",
                "ORDER",
                order));
        history.note(context, order, "reminded", "reminded " + String.join(", ", told));
        return List.copyOf(told);
    }
}
