package app.euthyna.server.billing;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectListener;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import jakarta.persistence.EntityManager;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Keeps invoices, payments and what was set against what. */
@Component
@Order(45)
class BillingSink implements EffectSink {

    private final DocumentDetails details;
    private final EntityManager entities;
    private final History history;
    private final Ids ids;

    BillingSink(EntityManager entities, History history, Ids ids, DocumentDetails details) {
        this.details = details;
        this.entities = entities;
        this.history = history;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        effect.accept(new Store(context));
    }

    private final class Store extends EffectListener {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
        }

        @Override
        public Void invoiced(Effect.Invoiced effect) {
            var invoice = effect.invoice();
            var entity = new InvoiceEntity();
            entity.number = invoice.number();
            entity.customerId = ids.customer(invoice.customer());
            entity.invoicedOn = invoice.on();
            entity.dueOn = invoice.dueOn();
            entity.net = invoice.totals().net().amount();
            entity.vat = invoice.totals().vat().amount();
            entity.gross = invoice.totals().gross().amount();
            entity.openAmount = entity.gross;
            for (var line : invoice.lines()) {
                var stored = new InvoiceLineEntity();
                stored.invoice = entity;
                stored.lineNo = line.no();
                stored.rootOrderId = ids.order(line.orderLine().number());
                stored.orderLineNo = line.orderLine().line();
                stored.kind = line.kind();
                stored.itemCode = line.item();
                stored.description = line.description();
                stored.quantity = line.quantity().value();
                stored.unitPrice = line.price().unit();
                stored.discountPercent = line.price().discountPercent();
                stored.net = line.net().amount();
                stored.vatCategory = line.vat().category();
                stored.vatRate = line.vat().ratePercent();
                line.sources().forEach(source -> stored.sources.add(new InvoiceLineEntity.Source(stored.rootOrderId,
                        ids.dispatch(source.dispatchLine().number()), source.dispatchLine().line(), source.quantity().value(),
                        source.cost().amount())));
                entity.lines.add(stored);
            }
            entities.persist(entity);
            details.carry("INVOICE", invoice.number(), entity.lines.stream().map(line -> line.rootOrderId).distinct().toList());
            return null;
        }

        @Override
        public Void paymentReceived(Effect.PaymentReceived effect) {
            var payment = new PaymentEntity();
            payment.number = effect.payment();
            payment.customerId = ids.customer(effect.customer());
            payment.receivedOn = context.date();
            payment.amount = effect.amount().amount();
            payment.leftAmount = payment.amount;
            settle(payment, effect.settlements());
            entities.persist(payment);
            return null;
        }

        @Override
        public Void creditAllocated(Effect.CreditAllocated effect) {
            settle(entities.createQuery("select p from PaymentEntity p where p.number = :number", PaymentEntity.class)
                    .setParameter("number", effect.payment()).getSingleResult(), effect.settlements());
            return null;
        }

        private void settle(PaymentEntity payment, List<Settlement> settlements) {
            var moment = history.moment();
            for (var settlement : settlements) {
                var invoice = entities.createQuery("select i from InvoiceEntity i where i.number = :number", InvoiceEntity.class)
                        .setParameter("number", settlement.invoice()).getSingleResult();
                invoice.openAmount = invoice.openAmount.subtract(settlement.amount().amount());
                payment.leftAmount = payment.leftAmount.subtract(settlement.amount().amount());
                payment.allocations.add(new PaymentEntity.Allocation(invoice.id, settlement.amount().amount(), context.date(), moment));
            }
        }
    }
}
