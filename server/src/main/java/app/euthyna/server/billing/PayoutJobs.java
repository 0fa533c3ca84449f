package app.euthyna.server.billing;

import app.euthyna.server.platform.Jobs;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;

/** Has payouts sent after the answer to whoever gave the refund, by whichever server is there. */
@Component
public class PayoutJobs {

    private final Payouts payouts;
    private final Jobs jobs;
    private final OneTimeTask<Void> payout = Jobs.asked("payout", name -> send(name));

    PayoutJobs(Payouts payouts, Jobs jobs) {
        this.payouts = payouts;
        this.jobs = jobs;
    }

    /** Asks the payment service after refunds. */
    @Bean
    Task<?> payoutJob() {
        return payout;
    }

    /** Has a payout sent once the transaction stands; under a name of its own each time it is asked for. */
    void ask(PayoutEntity asked) {
        jobs.ask(payout, asked.id + "." + asked.version);
    }

    /** Sends what waits, while a company is set up. */
    public void sendNow() {
        jobs.doNow(payout);
    }

    private void send(String name) {
        payouts.send(Long.parseLong(name.substring(0, name.indexOf('.'))));
    }

    /** Asks the service once more what became of a refund. */
    void askAgain(String refund, long version) {
        ask(payouts.toAskAgain(refund, version));
    }
}
