package app.euthyna.server.billing;

import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Deposits that customers were asked for. */
@Component
class DepositRequests {

    private final StatelessSession session;
    private final Ids ids;

    DepositRequests(StatelessSession session, Ids ids) {
        this.session = session;
        this.ids = ids;
    }

    /**
     * Keeps what is asked for of an order, in place of what was asked for before.
     *
     * @param percent of the order's gross that it is; null where an amount was named
     */
    void keep(CommandContext context, String order, @Nullable BigDecimal percent, Money amount) {
        var row = new DepositRequestEntity();
        row.orderId = ids.order(order);
        row.percent = percent;
        row.amount = amount.amount();
        row.askedOn = context.date();
        row.askedBy = context.person().username();
        session.upsert(row);
    }
}
