package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;

/** What servers do by the clock, each job as the server itself does it. */
class JobsTests extends OnServer {

    private static final Duration PATIENCE = Duration.ofSeconds(60);

    @Autowired
    private Scheduler scheduler;

    private record Told(Instant succeeded, int failures) {}

    /** Has a job done now, and waits until it is told how it went. */
    private Told done(String job) throws InterruptedException {
        jdbc.sql("update job set last_success = null, last_failure = null where task_name = ?")
                .param(job)
                .update();
        scheduler.reschedule(TaskInstanceId.of(job, "recurring"), Instant.now());
        scheduler.triggerCheckForDueExecutions();
        var until = Instant.now().plus(PATIENCE);
        while (Instant.now().isBefore(until)) {
            var told = jdbc.sql("select last_success, coalesce(consecutive_failures, 0) from job where task_name = ?"
                            + " and (last_success is not null or last_failure is not null)")
                    .param(job)
                    .query((row, no) -> new Told(
                            row.getTimestamp(1) == null
                                    ? null
                                    : row.getTimestamp(1).toInstant(),
                            row.getInt(2)))
                    .optional();
            if (told.isPresent()) {
                return told.get();
            }
            Thread.sleep(50);
        }
        throw new AssertionError(job + " was not done");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"daily-recheck", "daily-reminders", "left-rechecks", "left-stock-offers", "forget-old-answers"})
    void areDoneWithoutAFault(String job) throws InterruptedException {
        var told = done(job);
        assertThat(told.failures()).isZero();
        assertThat(told.succeeded()).isNotNull();
    }

    @Test
    void lookAtADayOnce() throws InterruptedException {
        done("daily-recheck");
        var days = days();
        assertThat(days).hasSize(1);
        done("daily-recheck");
        assertThat(days()).isEqualTo(days);
    }

    private List<Instant> days() {
        return jdbc.sql("select finished_at from daily_recheck where run_on = ?")
                .param(clock.today())
                .query((row, no) -> row.getTimestamp(1).toInstant())
                .list();
    }
}
