package app.euthyna.server.platform;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.function.Consumer;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What servers do without being asked, or after their answer. Jobs stand in the database; each is done by one server of
 * however many, and by another where that one is gone. A capability declares its jobs as beans.
 */
@Component
public class Jobs {

    /** A job that failed, or whose server stopped in the middle of it, is tried again after this. */
    private static final Duration AGAIN = Duration.ofSeconds(10);

    private final ObjectProvider<Scheduler> scheduler;

    Jobs(ObjectProvider<Scheduler> scheduler) {
        this.scheduler = scheduler;
    }

    /** A job that is done again and again: first so long after the start of a company, then so long after its end. */
    public static RecurringTask<Void> every(String name, Duration first, Duration then, Runnable work) {
        return Tasks.recurring(name, new Pauses(first, then)).execute((job, context) -> work.run());
    }

    /** A job that is asked for; {@code work} is given the name under which it was. */
    public static OneTimeTask<Void> asked(String name, Consumer<String> work) {
        return Tasks.oneTime(name)
                .onFailure((failed, job) -> job.reschedule(failed, Instant.now().plus(AGAIN)))
                .onDeadExecutionRevive()
                .execute((job, context) -> work.accept(job.getId()));
    }

    /** Asks for a job with the transaction, and has it begun as soon as that stands. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ask(OneTimeTask<Void> job, String name) {
        scheduler.getObject().schedule(job.instance(name), Instant.now());
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                scheduler.getObject().triggerCheckForDueExecutions();
            }
        });
    }

    /** Does what was asked for of a job, by this thread: while a company is set up, no server does its jobs yet. */
    public void doNow(OneTimeTask<Void> job) {
        scheduler
                .getObject()
                .getScheduledExecutionsForTask(job.getName(), Void.class)
                .forEach(asked -> {
                    var instance = job.instance(asked.getTaskInstance().getId());
                    job.execute(instance, null);
                    scheduler.getObject().cancel(instance);
                });
    }

    /** A pause before the first time and one between two. */
    private record Pauses(Duration first, Duration then) implements Schedule {

        @Override
        public Instant getInitialExecutionTime(Instant now) {
            return now.plus(first);
        }

        @Override
        public Instant getNextExecutionTime(ExecutionComplete done) {
            return done.getTimeDone().plus(then);
        }

        @Override
        public boolean isDeterministic() {
            return false;
        }
    }
}
