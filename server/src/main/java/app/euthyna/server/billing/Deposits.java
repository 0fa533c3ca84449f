package app.euthyna.server.billing;

import app.euthyna.core.billing.Depositing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Money that was received ahead, and refunds. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class Deposits {

    private final ChainReader chains;
    private final Locks locks;
    private final EffectWriter writer;
    private final PaymentQueries queries;
    private final Payments payments;
    private final RefundBounds bounds;

    Deposits(
            ChainReader chains,
            Locks locks,
            EffectWriter writer,
            PaymentQueries queries,
            Payments payments,
            RefundBounds bounds) {
        this.chains = chains;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
        this.payments = payments;
        this.bounds = bounds;
    }

    /** Takes in a deposit for an order; what the order's invoices have open it settles at once. */
    public String deposit(CommandContext context, String order, Money amount) {
        locks.customerAndOrder(order);
        var received = RefusedException.orThrow(
                Depositing.receive(chains.chain(order), writer.number(DocumentKind.DEPOSIT), amount, context.date()));
        writer.write(context, List.of(received));
        return received.deposit();
    }

    /** Sets a deposit against an invoice manually. */
    public void applyDeposit(CommandContext context, String deposit, long version, String invoice, Money amount) {
        var chain = depositLocked(deposit, version);
        var open = Optional.ofNullable(payments.invoices(List.of(new Settlement(invoice, amount)))
                        .get(invoice))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", invoice)));
        writer.write(context, List.of(RefusedException.orThrow(Depositing.applyByHand(chain, deposit, amount, open))));
    }

    /**
     * Moves what is unapplied of a deposit to another order of the customer; answers the deposit that it goes on as.
     */
    public String moveDeposit(
            CommandContext context, String deposit, long version, String order, Optional<Money> amount) {
        var from = depositLocked(deposit, version);
        locks.orders(List.of(from.order().number(), order));
        var again = chains.chain(from.order().number());
        var moved = RefusedException.orThrow(Depositing.move(
                again,
                deposit,
                chains.chain(order),
                writer.number(DocumentKind.DEPOSIT),
                amount.orElse(unapplied(again, deposit)),
                context.date()));
        writer.write(context, List.of(moved));
        return moved.toDeposit();
    }

    /** Turns what is unapplied of a deposit into customer credit. */
    public void creditDeposit(CommandContext context, String deposit, long version, Optional<Money> amount) {
        var chain = depositLocked(deposit, version);
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        Depositing.credit(chain, deposit, amount.orElse(unapplied(chain, deposit))))));
    }

    /** Refunds what is unapplied of a deposit, or customer credit from a document. */
    public String refund(CommandContext context, String of, long version, Optional<Money> amount) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the refund"));
        }
        var number = writer.number(DocumentKind.REFUND);
        if (queries.unapplied(of) > 0) {
            var chain = depositLocked(of, version);
            var deposit = new DocumentRef(DocumentKind.DEPOSIT, of);
            refundable(context, chain.order().customer(), deposit, amount.orElse(unapplied(chain, of)));
            writer.write(
                    context,
                    List.of(RefusedException.orThrow(
                            RefundRules.refundDeposit(number, chain, of, amount.orElse(unapplied(chain, of))))));
            return number;
        }
        payments.lock(of, version);
        var source = payments.source(of);
        refundable(context, source.customer(), source.document(), amount.orElse(source.left()));
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        RefundRules.refundCredit(number, source, amount.orElse(source.left())))));
        return number;
    }

    private void refundable(CommandContext context, String customer, DocumentRef source, Money amount) {
        RefusedException.where(RefundRules.refusal(
                context.person(),
                List.of(new RefundRules.Wanted(source, amount)),
                bounds.of(customer, List.of(source))));
    }

    private static Money unapplied(Chain chain, String deposit) {
        return chain.deposits().stream()
                .filter(d -> d.number().equals(deposit))
                .findFirst()
                .orElseThrow()
                .unapplied();
    }

    /** The chain of a deposit's order, its customer and itself locked. */
    private Chain depositLocked(String deposit, long version) {
        var order = queries.orderOfDeposit(deposit)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("deposit", deposit)));
        locks.customerAndOrder(order);
        Payments.requireVersion("Deposit", deposit, version, queries.versionOfDeposit(deposit));
        return chains.chain(order);
    }
}
