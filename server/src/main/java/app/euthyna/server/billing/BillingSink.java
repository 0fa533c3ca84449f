package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Keeps invoices, deposits, payments and refunds, and what was set against what. */
@Component
@Order(44)
class BillingSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.InvoicePosted.class, Store::invoicePosted)
            .on(Effect.DispatchDeparted.class, Store::dispatchDeparted)
            .on(Effect.DispatchReversed.class, Store::dispatchReversed)
            .on(Effect.InvoiceReversed.class, Store::invoiceReversed)
            .on(Effect.CreditNotePosted.class, Store::creditNotePosted)
            .on(Effect.CreditNoteReversed.class, Store::creditNoteReversed)
            .on(Effect.PaymentReceived.class, Store::paymentReceived)
            .on(Effect.CreditAllocated.class, Store::creditAllocated)
            .on(Effect.AllocationTakenOff.class, Store::allocationTakenOff)
            .on(Effect.PaymentReversed.class, Store::paymentReversed)
            .on(Effect.DepositReceived.class, Store::depositReceived)
            .on(Effect.DepositApplied.class, Store::depositApplied)
            .on(Effect.DepositTakenOff.class, Store::depositTakenOff)
            .on(Effect.DepositMoved.class, Store::depositMoved)
            .on(Effect.DepositCredited.class, Store::depositCredited)
            .on(Effect.DepositReversed.class, Store::depositReversed)
            .on(Effect.RefundGiven.class, Store::refundGiven)
            .on(Effect.RefundReversed.class, Store::refundReversed)
            .othersDoNotConcernIt();

    private final DocumentDetails details;
    private final History history;
    private final Ids ids;
    private final PaymentQueries queries;
    private final DisputeEnds disputes;
    private final CustomerOpenSink open;

    BillingSink(
            History history,
            Ids ids,
            DocumentDetails details,
            PaymentQueries queries,
            DisputeEnds disputes,
            CustomerOpenSink open) {
        this.open = open;
        this.disputes = disputes;
        this.queries = queries;
        this.details = details;
        this.history = history;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        STORES.of(new Store(context), effect);
    }

    private final class Store {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
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
            entity.opened();
            invoice.earlyPayment().ifPresent(agreed -> {
                entity.earlyPercent = agreed.percent();
                entity.earlyUntil = agreed.until();
            });
            queries.session().insert(entity);
            open.touch(entity);
            invoice.lines().forEach(line -> insert(entity.id, line));
            details.carry(
                    "INVOICE",
                    invoice.number(),
                    invoice.lines().stream()
                            .map(line -> ids.order(line.orderLine().number()))
                            .distinct()
                            .toList());
        }

        private void insert(long invoice, Invoice.Line line) {
            var stored = new InvoiceLineEntity();
            stored.invoiceId = invoice;
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
            queries.session().insert(stored);
            line.sources().forEach(source -> insert(stored, source));
        }

        private void insert(InvoiceLineEntity line, Invoice.Source source) {
            var stored = new InvoiceLineSourceEntity();
            stored.invoiceLineId = line.id;
            stored.rootOrderId = line.rootOrderId;
            stored.dispatchId = ids.dispatch(source.dispatchLine().number());
            stored.dispatchLineNo = source.dispatchLine().line();
            stored.quantity = source.quantity().value();
            stored.cost = source.cost().amount();
            stored.ahead = source.ahead();
            stored.earned = source.earned().amount();
            queries.session().insert(stored);
        }

        /** Goods that were billed ahead have left: they are noted on the invoice's line. */
        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            effect.deliveries().forEach(delivery -> insert(line(delivery.invoiceLine()), delivery.source()));
        }

        /** Goods that were billed ahead have not left after all. */
        private void dispatchReversed(Effect.DispatchReversed effect) {
            effect.takenBack()
                    .forEach(delivery -> insert(
                            line(delivery.invoiceLine()), delivery.source().negated()));
        }

        private InvoiceLineEntity line(LineRef ref) {
            return queries.invoiceLine(ref.number(), ref.line());
        }

        private void invoiceReversed(Effect.InvoiceReversed effect) {
            var invoice = queries.invoice(effect.invoice().number());
            if (invoice.openAmount.compareTo(invoice.gross) != 0) {
                throw new IllegalStateException("invoice " + invoice.number + " is settled with "
                        + invoice.gross.subtract(invoice.openAmount) + " and can't be reversed");
            }
            invoice.takenBack(context);
            invoice.reversedMoment = history.moment();
            keep(invoice);
            disputes.settled(context, invoice, Disputing.State.TAKEN_BACK);
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
            settle(
                    credit,
                    effect.settled().isPositive()
                            ? List.of(new Settlement(effect.credit().invoice(), effect.settled()))
                            : List.of());
        }

        private void paymentReceived(Effect.PaymentReceived effect) {
            var payment = new PaymentEntity();
            payment.number = effect.payment();
            payment.customerId = ids.customer(effect.customer());
            payment.receivedOn = context.date();
            payment.amount = effect.amount().amount();
            payment.leftAmount = payment.amount;
            settle(payment, effect.settlements());
        }

        private void creditAllocated(Effect.CreditAllocated effect) {
            settle(payment(effect.source().number()), effect.settlements());
        }

        private void allocationTakenOff(Effect.AllocationTakenOff effect) {
            settle(payment(effect.source().number()), negated(effect.settlements()));
        }

        private void paymentReversed(Effect.PaymentReversed effect) {
            isNoMore(payment(effect.payment()), effect.settlements());
        }

        private void creditNoteReversed(Effect.CreditNoteReversed effect) {
            isNoMore(payment(effect.credit().number()), effect.settlements());
        }

        /** Money that is there no more; what it settled is open again. */
        private void isNoMore(PaymentEntity payment, List<Settlement> settlements) {
            payment.reversed = true;
            payment.reversedOn = context.date();
            payment.leftAmount = BigDecimal.ZERO;
            queries.session().update(payment);
            negated(settlements).forEach(settlement -> allocate(payment, settlement));
        }

        private void depositReceived(Effect.DepositReceived effect) {
            queries.session()
                    .insert(deposit(effect.deposit(), effect.customer(), effect.order(), effect.on(), effect.amount()));
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
            var settled = new ArrayList<InvoiceEntity>();
            for (var settlement : settlements) {
                var invoice = queries.invoice(settlement.invoice());
                invoice.settle(settlement.amount().amount(), context);
                keep(invoice);
                settled.add(invoice);
                use(
                        number,
                        DepositFact.Kind.APPLIED,
                        new DocumentRef(DocumentKind.INVOICE, settlement.invoice()),
                        invoice.id,
                        settlement.amount());
            }
            // what belongs together keeps one moment: what a dispute's end adds to the history comes after it
            settled.forEach(invoice -> disputes.settled(context, invoice, Disputing.State.PAID));
        }

        private DepositEntity use(
                String number, DepositFact.Kind kind, DocumentRef document, Long invoice, Money amount) {
            var deposit = queries.deposit(number);
            deposit.leftAmount = deposit.leftAmount.subtract(amount.amount());
            queries.session().update(deposit);
            var use = new DepositUseEntity();
            use.depositId = deposit.id;
            use.kind = kind;
            use.invoiceId = invoice;
            use.documentKind = document.kind();
            use.documentNumber = document.number();
            use.amount = amount.amount();
            use.usedOn = context.date();
            use.moment = history.moment();
            queries.session().insert(use);
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
            queries.session().insert(to);
        }

        /** Credit stands where payments do, under the deposit's number. */
        private void depositCredited(Effect.DepositCredited effect) {
            use(
                    effect.deposit(),
                    DepositFact.Kind.CREDITED,
                    new DocumentRef(DocumentKind.DEPOSIT, effect.deposit()),
                    null,
                    effect.amount());
            var credit = queries.payment(effect.deposit()).orElseGet(() -> {
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
            keep(credit);
        }

        private void depositReversed(Effect.DepositReversed effect) {
            if (effect.credited().isPositive()) {
                isNoMore(payment(effect.deposit()), List.of());
            }
            var deposit = use(
                    effect.deposit(),
                    DepositFact.Kind.REVERSED,
                    new DocumentRef(DocumentKind.DEPOSIT, effect.deposit()),
                    null,
                    effect.amount().minus(effect.credited()));
            deposit.reversedOn = context.date();
            deposit.reversedMoment = history.moment();
            queries.session().update(deposit);
            effect.cameFrom()
                    .ifPresent(origin -> use(
                            origin.deposit(),
                            DepositFact.Kind.MOVED,
                            new DocumentRef(DocumentKind.DEPOSIT, effect.deposit()),
                            null,
                            effect.amount().negated()));
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
            queries.session().insert(refund);
            if (effect.order().isEmpty()) {
                var payment = payment(effect.source().number());
                payment.leftAmount = payment.leftAmount.subtract(refund.amount);
                payment.refunded = payment.refunded.add(refund.amount);
                queries.session().update(payment);
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
            var refund = queries.refund(effect.refund());
            refund.reversedOn = context.date();
            refund.reversedMoment = history.moment();
            queries.session().update(refund);
            if (effect.order().isEmpty()) {
                var payment = payment(effect.source().number());
                payment.leftAmount = payment.leftAmount.add(refund.amount);
                payment.refunded = payment.refunded.subtract(refund.amount);
                queries.session().update(payment);
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
            return queries.payment(number).orElseThrow();
        }

        private static List<Settlement> negated(List<Settlement> settlements) {
            return settlements.stream()
                    .map(s -> new Settlement(s.invoice(), s.amount().negated()))
                    .toList();
        }

        /** Sets money against invoices, or takes it off again, and keeps what is left of it. */
        private void settle(PaymentEntity payment, List<Settlement> settlements) {
            settlements.forEach(settlement -> payment.leftAmount =
                    payment.leftAmount.subtract(settlement.amount().amount()));
            keep(payment);
            var settled = settlements.stream()
                    .map(settlement -> allocate(payment, settlement))
                    .toList();
            settled.forEach(invoice -> disputes.settled(
                    context,
                    invoice,
                    payment.kind == DocumentKind.CREDIT_NOTE ? Disputing.State.CREDITED : Disputing.State.PAID));
        }

        private void keep(InvoiceEntity invoice) {
            queries.session().update(invoice);
            open.touch(invoice);
        }

        private void keep(PaymentEntity payment) {
            if (payment.id == null) {
                queries.session().insert(payment);
            } else {
                queries.session().update(payment);
            }
        }

        private InvoiceEntity allocate(PaymentEntity payment, Settlement settlement) {
            var amount = settlement.amount().amount();
            var invoice = queries.invoice(settlement.invoice());
            invoice.settle(amount, context);
            keep(invoice);
            var allocation = new AllocationEntity();
            allocation.paymentId = payment.id;
            allocation.invoiceId = invoice.id;
            allocation.amount = amount;
            allocation.allocatedOn = context.date();
            allocation.moment = history.moment();
            queries.session().insert(allocation);
            return invoice;
        }
    }
}
