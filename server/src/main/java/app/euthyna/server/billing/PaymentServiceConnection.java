package app.euthyna.server.billing;

import app.euthyna.core.shared.Money;
import java.util.concurrent.TimeoutException;

/** How the payment service is reached, which pays money out. Where nobody provides one, payouts stay unanswered. */
public interface PaymentServiceConnection {

    /** What it has done under a key. */
    enum Answer {
        PAID,
        DECLINED
    }

    /**
     * Pays an amount out, once under a key however often it is asked.
     *
     * @throws TimeoutException where it gives no answer in time
     */
    Answer pay(String key, Money amount) throws TimeoutException;
}
