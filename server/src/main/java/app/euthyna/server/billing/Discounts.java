package app.euthyna.server.billing;

import app.euthyna.core.billing.Reducing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Discounts for paying early, as money comes in and is taken off again (section 16). */
@Component
class Discounts {

    private final DocumentChains documents;
    private final WriteOffs writeOffs;
    private final Reductions reductions;

    Discounts(DocumentChains documents, WriteOffs writeOffs, Reductions reductions) {
        this.documents = documents;
        this.writeOffs = writeOffs;
        this.reductions = reductions;
    }

    /**
     * What of money settles an invoice with its discount.
     *
     * @param source whose money it is
     * @param on the day on which it came
     */
    record Paid(DocumentRef source, Settlement settlement, LocalDate on) {}

    /** The discounts that are taken with money that came in time, or that whoever acts grants. */
    List<Effect.InvoiceReduced> taken(CommandContext context, List<Paid> paid) {
        if (paid.isEmpty()) {
            return List.of();
        }
        var orders = new TreeSet<String>();
        paid.forEach(one -> orders.addAll(
                documents.orders(DocumentKind.INVOICE, one.settlement().invoice())));
        var chains = documents.locked(orders);
        var taken = new ArrayList<Effect.InvoiceReduced>();
        var refusals = new ArrayList<Refusal>();
        for (var one : paid) {
            Decision<Effect.InvoiceReduced> decided = Reducing.discount(
                    one.source(),
                    one.settlement().amount(),
                    writeOffs.standing(chains, one.settlement().invoice()),
                    new Reducing.Grant(context.person(), context.date(), one.on(), context.reason()));
            decided.result().ifPresent(taken::add);
            refusals.addAll(decided.refusals());
        }
        RefusedException.where(refusals);
        return taken;
    }

    /** What is left of an invoice is a small difference. */
    void writeOffShort(CommandContext context, Settlement cents) {
        writeOffs.write(
                context,
                cents.invoice(),
                writeOffs.versionOf(cents.invoice()),
                Reduction.Kind.SMALL_DIFFERENCE,
                cents.amount());
    }

    /** What settles an invoice with its discount. */
    Money due(String invoice) {
        return Reducing.due(writeOffs.standing(documents.of(DocumentKind.INVOICE, invoice), invoice));
    }

    /** The discounts that were taken with money. */
    List<RefundRules.Discount> takenWith(String payment) {
        return reductions.discounts(List.of(payment)).getOrDefault(payment, List.of());
    }
}
