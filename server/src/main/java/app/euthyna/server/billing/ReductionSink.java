package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.math.BigDecimal;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Keeps what of invoices is settled without money. */
@Component
@Order(46)
class ReductionSink implements EffectSink {

    private final ReductionQueries queries;
    private final History history;
    private final Ids ids;
    private final DisputeEnds disputes;
    private final CustomerOpenSink open;

    ReductionSink(ReductionQueries queries, History history, Ids ids, DisputeEnds disputes, CustomerOpenSink open) {
        this.open = open;
        this.disputes = disputes;
        this.queries = queries;
        this.history = history;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.InvoiceReduced reduced) {
            reduced(context, reduced.reduction());
        } else if (effect instanceof Effect.ReductionReversed reversed) {
            reversed(context, reversed.reduction());
        }
    }

    private void reduced(CommandContext context, Reduction reduction) {
        var payment =
                reduction.isDiscount() ? queries.payment(reduction.document().number()) : writeOff(reduction);
        var invoice = settle(context, payment, reduction, reduction.amount().amount());
        var row = new ReductionEntity();
        row.kind = reduction.kind();
        row.paymentId = payment.id;
        row.invoiceId = invoice.id;
        row.customerId = invoice.customerId;
        row.reducedOn = reduction.on();
        row.amount = reduction.amount().amount();
        row.reason = reduction.reason();
        row.moment = history.moment();
        queries.session().insert(row);
        for (var share : reduction.shares()) {
            var vat = new ReductionVatEntity();
            vat.reductionId = row.id;
            vat.vatCategory = share.vat().category();
            vat.vatRate = share.vat().ratePercent();
            vat.base = share.base().amount();
            vat.net = share.net().amount();
            vat.tax = share.tax().amount();
            queries.session().insert(vat);
        }
        disputes.settled(context, invoice, reduction.isDiscount() ? Disputing.State.PAID : Disputing.State.WRITTEN_OFF);
    }

    /** It stands where payments do, so that whatever settles an invoice is found in one place. */
    private PaymentEntity writeOff(Reduction reduction) {
        var row = new PaymentEntity();
        row.number = reduction.document().number();
        row.kind = DocumentKind.WRITE_OFF;
        row.customerId = ids.customer(reduction.customer());
        row.receivedOn = reduction.on();
        row.amount = reduction.amount().amount();
        row.leftAmount = BigDecimal.ZERO;
        queries.session().insert(row);
        return row;
    }

    private void reversed(CommandContext context, Reduction reduction) {
        var payment = queries.payment(reduction.document().number());
        if (!reduction.isDiscount()) {
            payment.reversed = true;
            payment.reversedOn = context.date();
            queries.session().update(payment);
        }
        settle(context, payment, reduction, reduction.amount().amount().negate());
        var row = queries.standingOf(payment.number, reduction.invoice(), reduction.kind());
        row.reversedOn = context.date();
        row.reversedMoment = history.moment();
        queries.session().update(row);
    }

    private InvoiceEntity settle(
            CommandContext context, PaymentEntity payment, Reduction reduction, BigDecimal amount) {
        var invoice = queries.invoice(reduction.invoice());
        invoice.settle(amount, context);
        invoice.reduced = true;
        queries.session().update(invoice);
        open.touch(invoice);
        var allocation = new AllocationEntity();
        allocation.paymentId = payment.id;
        allocation.invoiceId = invoice.id;
        allocation.amount = amount;
        allocation.allocatedOn = context.date();
        allocation.moment = history.moment();
        allocation.discount = reduction.isDiscount();
        queries.session().insert(allocation);
        return invoice;
    }
}
