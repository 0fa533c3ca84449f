package app.euthyna.server.billing;

import app.euthyna.core.billing.Depositing;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Deposits that customers were asked for. */
@Component
class DepositRequests {

    private final PaymentQueries queries;
    private final Ids ids;
    private final ChainReader chains;
    private final Locks locks;
    private final Company company;

    DepositRequests(PaymentQueries queries, Ids ids, ChainReader chains, Locks locks, Company company) {
        this.company = company;
        this.locks = locks;
        this.chains = chains;
        this.queries = queries;
        this.ids = ids;
    }

    /** Asks for a share of an order, or for an amount. */
    void ask(CommandContext context, String order, @Nullable BigDecimal percent, @Nullable BigDecimal amount) {
        locks.customerAndOrder(order);
        keep(
                context,
                order,
                percent,
                amount == null ? Depositing.share(chains.chain(order), percent) : company.given("amount", amount));
    }

    /** What was asked for of an order. */
    Optional<PaymentQueries.AskedRow> asked(String order) {
        return queries.asked(ids.order(order));
    }

    /** Whether something was asked for of an order. */
    boolean areThereFor(String order) {
        return queries.depositRequests(ids.order(order)) > 0;
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
        queries.session().upsert(row);
    }
}
