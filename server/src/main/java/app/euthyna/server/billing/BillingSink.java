package app.euthyna.server.billing;

import app.euthyna.core.billing.Depositing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import jakarta.persistence.EntityManager;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Keeps invoices, deposits, payments and refunds, and what was set against what. */
@Component
@Order(45)
class BillingSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.OrderSubmitted.class, Store::orderSubmitted)
            .on(Effect.InvoicePosted.class, Store::invoicePosted)
            .on(Effect.DispatchDeparted.class, Store::dispatchDeparted)
            .on(Effect.DispatchReversed.class, Store::dispatchReversed)
            .on(Effect.InvoiceReversed.class, Store::invoiceReversed)
            .on(Effect.CreditNotePosted.class, Store::creditNotePosted)
            .on(Effect.PaymentReceived.class, Store::paymentReceived)
            .on(Effect.CreditAllocated.class, Store::creditAllocated)
            .on(Effect.AllocationTakenOff.class, Store::allocationTakenOff)
            .on(Effect.PaymentReversed.class, Store::paymentReversed)
            .on(Effect.DepositReceived.class, Store::depositReceived)
            .on(Effect.DepositApplied.class, Store::depositApplied)
            .on(Effect.DepositTakenOff.class, Store::depositTakenOff)
            .on(Effect.DepositMoved.class, Store::depositMoved)
            .on(Effect.DepositCredited.class, Store::depositCredited)
            .on(Effect.RefundGiven.class, Store::refundGiven)
            .on(Effect.RefundReversed.class, Store::refundReversed)
            .othersDoNotConcernIt();

    private final DocumentDetails details;
    private final EntityManager entities;
    private final History history;
    private final Ids ids;
    private final ChainReader chains;
    private final JdbcClient jdbc;
    private final OpenInvoices openInvoices;

    BillingSink(
            EntityManager entities,
            History history,
            Ids ids,
            DocumentDetails details,
            ChainReader chains,
            JdbcClient jdbc,
            OpenInvoices openInvoices) {
        this.chains = chains;
        this.jdbc = jdbc;
        this.openInvoices = openInvoices;
        this.details = details;
        this.entities = entities;
        this.history = history;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        STORES.of(new Store(context), effect);
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
                                further.write(context.dated(day(applied, chain, context)), List.of(applied)));
            }
        }
    }

    /** Of money that was never used: the day on which both the deposit and the invoices were there. */
    private static LocalDate day(Effect.DepositApplied applied, Chain chain, CommandContext context) {
        var deposit = chain.deposits().stream()
                .filter(one -> one.number().equals(applied.deposit()))
                .findFirst()
                .orElseThrow();
        return deposit.unapplied().equals(deposit.amount())
                ? applied.settlements().stream()
                        .map(settlement -> Chain.invoiceOf(List.of(chain), settlement.invoice())
                                .on())
                        .reduce(deposit.on(), (one, other) -> one.isAfter(other) ? one : other)
                : context.today();
    }

    private final class Store {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
        }

        /** Customers of whom a deposit is always asked for are asked for it when they order. */
        private void orderSubmitted(Effect.OrderSubmitted effect) {
            var percent = jdbc.sql("select deposit_percent from customer where code = ?")
                    .param(effect.order().customer())
                    .query(BigDecimal.class)
                    .single();
            if (percent.signum() > 0
                    && jdbc.sql("select count(*) from deposit_request where order_id = ?")
                                    .param(ids.order(effect.order().number()))
                                    .query(Long.class)
                                    .single()
                            == 0) {
                jdbc.sql("insert into deposit_request (order_id, percent, amount, asked_on, asked_by) values"
                                + " (?, ?, ?, ?, ?)")
                        .params(
                                ids.order(effect.order().number()),
                                percent,
                                Depositing.share(Chain.of(effect.order()), percent)
                                        .amount(),
                                context.date(),
                                context.person().username())
                        .update();
            }
        }

        private void invoicePosted(Effect.InvoicePosted effect) {
            var invoice = effect.invoice();
            var entity = new InvoiceEntity();
            entity.number = invoice.number();
            entity.customerId = ids.customer(invoice.customer());
            entity.invoicedOn = invoice.on();
            entity.dueOn = invoice.dueOn();
            entity.text = invoice.text();
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
                stored.deferred = line.deferred().amount();
                stored.vatCategory = line.vat().category();
                stored.vatRate = line.vat().ratePercent();
                line.sources().forEach(source -> stored.sources.add(stored(stored.rootOrderId, source)));
                entity.lines.add(stored);
            }
            entities.persist(entity);
            details.carry(
                    "INVOICE",
                    invoice.number(),
                    entity.lines.stream()
                            .map(line -> line.rootOrderId)
                            .distinct()
                            .toList());
        }

        private InvoiceLineEntity.Source stored(Long order, Invoice.Source source) {
            return new InvoiceLineEntity.Source(
                    order,
                    ids.dispatch(source.dispatchLine().number()),
                    source.dispatchLine().line(),
                    source.quantity().value(),
                    source.cost().amount(),
                    source.ahead(),
                    source.earned().amount());
        }

        /** Goods that were billed ahead have left: they are noted on the invoice's line. */
        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            effect.deliveries().forEach(delivery -> {
                var line = line(delivery.invoiceLine());
                line.sources.add(stored(line.rootOrderId, delivery.source()));
            });
        }

        /** Goods that were billed ahead have not left after all. */
        private void dispatchReversed(Effect.DispatchReversed effect) {
            effect.takenBack().forEach(delivery -> {
                var line = line(delivery.invoiceLine());
                line.sources.add(stored(line.rootOrderId, delivery.source().negated()));
            });
        }

        private InvoiceLineEntity line(LineRef ref) {
            return entities.createQuery(
                            "select l from InvoiceLineEntity l where l.invoice.number = :number and l.lineNo = :line",
                            InvoiceLineEntity.class)
                    .setParameter("number", ref.number())
                    .setParameter("line", ref.line())
                    .getSingleResult();
        }

        private void invoiceReversed(Effect.InvoiceReversed effect) {
            var invoice = invoice(effect.invoice().number());
            if (invoice.openAmount.compareTo(invoice.gross) != 0) {
                throw new IllegalStateException("invoice " + invoice.number + " is settled with "
                        + invoice.gross.subtract(invoice.openAmount) + " and can't be reversed");
            }
            invoice.openAmount = BigDecimal.ZERO;
            invoice.reversedOn = context.date();
            invoice.reversedMoment = history.moment();
        }

        /**
         * What a credit note takes off its invoice, and the customer credit it leaves, stand where payments do, under
         * its own number.
         */
        private void creditNotePosted(Effect.CreditNotePosted effect) {
            var credit = new PaymentEntity();
            credit.number = effect.credit().number();
            credit.kind = DocumentKind.CREDIT_NOTE;
            credit.customerId = ids.customer(effect.credit().customer());
            credit.receivedOn = effect.credit().on();
            credit.amount = effect.credit().totals().gross().amount();
            credit.leftAmount = credit.amount;
            if (effect.settled().isPositive()) {
                settle(credit, List.of(new Settlement(effect.credit().invoice(), effect.settled())));
            }
            entities.persist(credit);
        }

        private void paymentReceived(Effect.PaymentReceived effect) {
            var payment = new PaymentEntity();
            payment.number = effect.payment();
            payment.customerId = ids.customer(effect.customer());
            payment.receivedOn = context.date();
            payment.amount = effect.amount().amount();
            payment.leftAmount = payment.amount;
            settle(payment, effect.settlements());
            entities.persist(payment);
        }

        private void creditAllocated(Effect.CreditAllocated effect) {
            settle(payment(effect.source().number()), effect.settlements());
        }

        private void allocationTakenOff(Effect.AllocationTakenOff effect) {
            settle(payment(effect.source().number()), negated(effect.settlements()));
        }

        private void paymentReversed(Effect.PaymentReversed effect) {
            var payment = payment(effect.payment());
            settle(payment, negated(effect.settlements()));
            payment.leftAmount = BigDecimal.ZERO;
            payment.reversed = true;
        }

        private void depositReceived(Effect.DepositReceived effect) {
            entities.persist(
                    deposit(effect.deposit(), effect.customer(), effect.order(), effect.on(), effect.amount()));
        }

        private DepositEntity deposit(String number, String customer, String order, LocalDate on, Money amount) {
            var deposit = new DepositEntity();
            deposit.number = number;
            deposit.customerId = ids.customer(customer);
            deposit.orderId = ids.order(order);
            deposit.receivedOn = on;
            deposit.amount = amount.amount();
            deposit.leftAmount = deposit.amount;
            return deposit;
        }

        private void depositApplied(Effect.DepositApplied effect) {
            apply(effect.deposit(), effect.settlements());
        }

        private void depositTakenOff(Effect.DepositTakenOff effect) {
            apply(effect.deposit(), negated(effect.settlements()));
        }

        private void apply(String number, List<Settlement> settlements) {
            for (var settlement : settlements) {
                var invoice = invoice(settlement.invoice());
                invoice.openAmount =
                        invoice.openAmount.subtract(settlement.amount().amount());
                use(
                        number,
                        DepositFact.Kind.APPLIED,
                        new DocumentRef(DocumentKind.INVOICE, settlement.invoice()),
                        invoice.id,
                        settlement.amount());
            }
        }

        private DepositEntity use(
                String number, DepositFact.Kind kind, DocumentRef document, Long invoice, Money amount) {
            var deposit = entities.createQuery(
                            "select d from DepositEntity d where d.number = :number", DepositEntity.class)
                    .setParameter("number", number)
                    .getSingleResult();
            deposit.leftAmount = deposit.leftAmount.subtract(amount.amount());
            deposit.uses.add(new DepositEntity.Use(
                    kind,
                    invoice,
                    document.kind(),
                    document.number(),
                    amount.amount(),
                    context.date(),
                    history.moment()));
            return deposit;
        }

        private void depositMoved(Effect.DepositMoved effect) {
            var from = use(
                    effect.deposit(),
                    DepositFact.Kind.MOVED,
                    new DocumentRef(DocumentKind.DEPOSIT, effect.toDeposit()),
                    null,
                    effect.amount());
            var to = deposit(effect.toDeposit(), effect.customer(), effect.toOrder(), effect.on(), effect.amount());
            to.movedFrom = from.id;
            entities.persist(to);
        }

        /** Credit stands where payments do, under the deposit's number. */
        private void depositCredited(Effect.DepositCredited effect) {
            use(
                    effect.deposit(),
                    DepositFact.Kind.CREDITED,
                    new DocumentRef(DocumentKind.DEPOSIT, effect.deposit()),
                    null,
                    effect.amount());
            var credit = entities.createQuery(
                            "select p from PaymentEntity p where p.number = :number", PaymentEntity.class)
                    .setParameter("number", effect.deposit())
                    .getResultStream()
                    .findFirst()
                    .orElseGet(() -> {
                        var added = new PaymentEntity();
                        added.number = effect.deposit();
                        added.kind = DocumentKind.DEPOSIT;
                        added.customerId = ids.customer(effect.customer());
                        added.receivedOn = context.date();
                        added.amount = BigDecimal.ZERO;
                        added.leftAmount = BigDecimal.ZERO;
                        return added;
                    });
            credit.amount = credit.amount.add(effect.amount().amount());
            credit.leftAmount = credit.leftAmount.add(effect.amount().amount());
            entities.persist(credit);
        }

        private void refundGiven(Effect.RefundGiven effect) {
            var refund = new RefundEntity();
            refund.number = effect.refund();
            refund.customerId = ids.customer(effect.customer());
            refund.sourceKind = effect.source().kind();
            refund.sourceNumber = effect.source().number();
            refund.orderId = effect.order().isEmpty() ? null : ids.order(effect.order());
            refund.amount = effect.amount().amount();
            refund.refundedOn = context.date();
            refund.reason = context.reason();
            entities.persist(refund);
            if (effect.order().isEmpty()) {
                var payment = payment(effect.source().number());
                payment.leftAmount = payment.leftAmount.subtract(refund.amount);
                payment.refunded = payment.refunded.add(refund.amount);
            } else {
                use(
                        effect.source().number(),
                        DepositFact.Kind.GIVEN_BACK,
                        new DocumentRef(DocumentKind.REFUND, effect.refund()),
                        null,
                        effect.amount());
            }
        }

        private void refundReversed(Effect.RefundReversed effect) {
            var refund = entities.createQuery(
                            "select r from RefundEntity r where r.number = :number", RefundEntity.class)
                    .setParameter("number", effect.refund())
                    .getSingleResult();
            refund.reversedOn = context.date();
            refund.reversedMoment = history.moment();
            if (effect.order().isEmpty()) {
                var payment = payment(effect.source().number());
                payment.leftAmount = payment.leftAmount.add(refund.amount);
                payment.refunded = payment.refunded.subtract(refund.amount);
            } else {
                use(
                        effect.source().number(),
                        DepositFact.Kind.GIVEN_BACK,
                        new DocumentRef(DocumentKind.REFUND, effect.refund()),
                        null,
                        effect.amount().negated());
            }
        }

        private PaymentEntity payment(String number) {
            return entities.createQuery("select p from PaymentEntity p where p.number = :number", PaymentEntity.class)
                    .setParameter("number", number)
                    .getSingleResult();
        }

        private InvoiceEntity invoice(String number) {
            return entities.createQuery("select i from InvoiceEntity i where i.number = :number", InvoiceEntity.class)
                    .setParameter("number", number)
                    .getSingleResult();
        }

        private static List<Settlement> negated(List<Settlement> settlements) {
            return settlements.stream()
                    .map(s -> new Settlement(s.invoice(), s.amount().negated()))
                    .toList();
        }

        private void settle(PaymentEntity payment, List<Settlement> settlements) {
            var moment = history.moment();
            for (var settlement : settlements) {
                var invoice = invoice(settlement.invoice());
                invoice.openAmount =
                        invoice.openAmount.subtract(settlement.amount().amount());
                payment.leftAmount =
                        payment.leftAmount.subtract(settlement.amount().amount());
                payment.allocations.add(new PaymentEntity.Allocation(
                        invoice.id, settlement.amount().amount(), context.date(), moment));
            }
        }
    }
}
