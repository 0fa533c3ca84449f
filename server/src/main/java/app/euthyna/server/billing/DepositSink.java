package app.euthyna.server.billing;

import app.euthyna.core.billing.Depositing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What follows for deposits: they are asked for with an order, and put to its invoices. */
@Component
@Order(45)
class DepositSink implements EffectSink {

    private final ChainReader chains;
    private final MasterData masterData;
    private final OpenInvoices openInvoices;
    private final DepositRequests depositRequests;
    private final Ids ids;

    DepositSink(
            ChainReader chains,
            MasterData masterData,
            OpenInvoices openInvoices,
            DepositRequests depositRequests,
            Ids ids) {
        this.chains = chains;
        this.masterData = masterData;
        this.openInvoices = openInvoices;
        this.depositRequests = depositRequests;
        this.ids = ids;
    }

    /** Customers of whom a deposit is always asked for are asked for it when they order. */
    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.OrderSubmitted submitted) {
            var order = submitted.order();
            var percent = masterData.depositPercent(order.customer());
            if (percent.signum() > 0 && !depositRequests.areThereFor(order.number())) {
                depositRequests.keep(context, order.number(), percent, Depositing.share(Chain.of(order), percent));
            }
        }
    }

    /** An order's deposits are put to its invoices as soon as both are there. */
    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        var orders = new TreeSet<String>();
        for (var effect : batch) {
            if (effect instanceof Effect.InvoicePosted
                    || effect instanceof Effect.InvoiceReversed
                    || effect instanceof Effect.DepositReceived) {
                orders.addAll(effect.orders());
            } else if (effect instanceof Effect.DepositMoved moved) {
                orders.add(moved.toOrder());
            }
        }
        for (var order : orders) {
            var chain = chains.chain(order);
            if (chain.unappliedDeposits().isPositive()) {
                Depositing.apply(chain, openInvoices.ofOrder(ids.order(order)))
                        .forEach(applied ->
                                further.write(context.dated(day(applied, chain, context, batch)), List.of(applied)));
            }
        }
    }

    /**
     * Of money that was never used: the day on which both the deposit and the invoices were there. Where all of them
     * were there before, the invoices are open anew: that is of today.
     */
    private static LocalDate day(
            Effect.DepositApplied applied, Chain chain, CommandContext context, List<Effect> batch) {
        var deposit = chain.deposits().stream()
                .filter(one -> one.number().equals(applied.deposit()))
                .findFirst()
                .orElseThrow();
        return deposit.unapplied().equals(deposit.amount()) && isNew(applied, batch)
                ? applied.settlements().stream()
                        .map(settlement -> Chain.invoiceOf(List.of(chain), settlement.invoice())
                                .on())
                        .reduce(deposit.on(), (one, other) -> one.isAfter(other) ? one : other)
                : context.today();
    }

    /** Whether the deposit has come, or an invoice that it settles was written, just now. */
    private static boolean isNew(Effect.DepositApplied applied, List<Effect> batch) {
        return batch.stream()
                .anyMatch(effect -> (effect instanceof Effect.DepositReceived received
                                && received.deposit().equals(applied.deposit()))
                        || (effect instanceof Effect.DepositMoved moved
                                && moved.toDeposit().equals(applied.deposit()))
                        || (effect instanceof Effect.InvoicePosted posted
                                && applied.settlements().stream()
                                        .anyMatch(one -> one.invoice()
                                                .equals(posted.invoice().number()))));
    }
}
