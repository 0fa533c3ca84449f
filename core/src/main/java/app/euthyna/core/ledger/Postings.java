package app.euthyna.core.ledger;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Totals;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/**
 * What each effect posts (the table of section 8). Orders, reservations, staging and cancellations post nothing.
 *
 * @param itemClass by item
 * @param customerClass by customer; not asked for effects without one
 */
public record Postings(Function<String, String> itemClass, Function<String, String> customerClass) {

    private static final String RETURN_RECEIVED = "return received";
    private static final String INSPECTION = "inspection";
    static final String DISCOUNT_TAKEN = "early-payment discount";
    private static final String CREDIT_ALLOCATED = "customer credit allocated";
    private static final String CREDIT_TAKEN_OFF = "customer credit taken off";
    private static final String DEPOSIT_APPLIED = "deposit applied";
    private static final String DEPOSIT_TAKEN_OFF = "deposit taken off";

    private static final EffectHandlers<Postings, Optional<Proposal>> TABLE =
            EffectHandlers.<Postings, Optional<Proposal>>answers(Optional.empty())
                    .answer(Effect.StockReceived.class, Postings::stockReceived)
                    .answer(Effect.DispatchDeparted.class, Postings::dispatchDeparted)
                    .answer(Effect.InvoicePosted.class, Postings::invoicePosted)
                    .answer(Effect.PaymentReceived.class, Postings::paymentReceived)
                    .answer(Effect.CreditAllocated.class, Postings::creditAllocated)
                    .answer(Effect.AllocationTakenOff.class, Postings::allocationTakenOff)
                    .answer(Effect.DepositReceived.class, Postings::depositReceived)
                    .answer(Effect.DepositApplied.class, Postings::depositApplied)
                    .answer(Effect.DepositTakenOff.class, Postings::depositTakenOff)
                    .answer(Effect.DepositCredited.class, Postings::depositCredited)
                    .answer(Effect.RefundGiven.class, Postings::refundGiven)
                    .answer(Effect.StockCounted.class, Postings::stockCounted)
                    .answer(Effect.RevenueDeferredAgain.class, Postings::revenueDeferredAgain)
                    .answer(Effect.ReturnReceived.class, Postings::returnReceived)
                    .answer(Effect.ReturnInspected.class, Postings::returnInspected)
                    .answer(Effect.CreditNotePosted.class, Postings::creditNotePosted)
                    .answer(Effect.InvoiceReduced.class, Postings::invoiceReduced)
                    // their entries are mirrored line by line: there is nothing to work out
                    .nothing(
                            Effect.PaymentReversed.class,
                            Effect.RefundReversed.class,
                            Effect.DepositReversed.class,
                            Effect.CreditNoteReversed.class,
                            Effect.ReductionReversed.class,
                            Effect.InspectionReversed.class,
                            Effect.ReceiptReversed.class,
                            Effect.InvoiceReversed.class,
                            Effect.DispatchReversed.class)
                    // it stays a deposit of the same customer, so the ledger does not move
                    .nothing(Effect.DepositMoved.class)
                    // it names its accounts itself
                    .nothing(Effect.ManualEntryPosted.class)
                    .nothing(
                            Effect.ReturnAuthorised.class,
                            Effect.ReturnWithdrawn.class,
                            Effect.ReservationTransferred.class,
                            Effect.OrderSubmitted.class,
                            Effect.OrderChanged.class,
                            Effect.StateChanged.class,
                            Effect.StockReserved.class,
                            Effect.ReservationReleased.class,
                            Effect.DispatchStaged.class,
                            Effect.DispatchVoided.class,
                            Effect.QuantityCancelled.class,
                            Effect.CustomerChanged.class)
                    .complete();

    /** A posting with the document and customer it belongs to; the customer is empty for stock movements. */
    public record Proposal(DocumentRef document, String customer, Posting posting) {}

    public Optional<Proposal> of(Effect effect) {
        return TABLE.of(this, effect)
                .filter(proposal -> proposal.posting().lines().stream()
                        .anyMatch(l -> !l.amount().isZero()));
    }

    private Optional<Proposal> stockReceived(Effect.StockReceived effect) {
        var lines = new ArrayList<Posting.Line>();
        lines.add(new Posting.Line(AccountRole.INVENTORY, shelf(effect.item(), effect.site()), effect.value()));
        lines.add(new Posting.Line(
                AccountRole.STOCK_CLEARING, Posting.Keys.NONE, effect.value().negated()));
        return proposal(DocumentKind.STOCK_RECEIPT, effect.receipt(), "", "stock in", lines);
    }

    /**
     * Goods out, not billed ← inventory at cost; goods that are never billed are given away at once. Goods billed ahead
     * are sold at that moment: cost of sales ← inventory, deferred revenue → revenue.
     */
    private Optional<Proposal> dispatchDeparted(Effect.DispatchDeparted effect) {
        var dispatch = effect.dispatch();
        var lines = new ArrayList<Posting.Line>();
        for (var line : dispatch.lines()) {
            var sold = effect.deliveries().stream()
                    .filter(c -> c.source().dispatchLine().line() == line.no())
                    .toList();
            var soldCost = sold.stream().map(c -> c.source().cost()).reduce(zero(line.cost()), Money::plus);
            var role = effect.atNoCharge().contains(line.orderLine()) ? AccountRole.GIVEN_AWAY : AccountRole.GOODS_OUT;
            lines.add(new Posting.Line(role, item(line.item()), line.cost().minus(soldCost)));
            for (var delivery : sold) {
                var sale = sale(customerClass.apply(delivery.customer()), line.item());
                lines.add(new Posting.Line(
                        AccountRole.COGS, sale, delivery.source().cost()));
                lines.add(new Posting.Line(
                        AccountRole.DEFERRED_REVENUE, sale, delivery.source().earned()));
                lines.add(new Posting.Line(
                        AccountRole.REVENUE, sale, delivery.source().earned().negated()));
            }
            lines.add(new Posting.Line(
                    AccountRole.INVENTORY,
                    shelf(line.item(), dispatch.site()),
                    line.cost().negated()));
        }
        return proposal(DocumentKind.DISPATCH, dispatch.number(), "", "departure", lines);
    }

    private Optional<Proposal> invoicePosted(Effect.InvoicePosted effect) {
        var invoice = effect.invoice();
        var classOf = customerClass.apply(invoice.customer());
        var lines = new ArrayList<Posting.Line>();
        lines.add(new Posting.Line(
                AccountRole.RECEIVABLES, customer(classOf), invoice.totals().gross()));
        for (var line : invoice.lines()) {
            lines.add(new Posting.Line(
                    AccountRole.REVENUE,
                    sale(classOf, line.item()),
                    line.net().minus(line.deferred()).negated()));
            lines.add(new Posting.Line(
                    AccountRole.DEFERRED_REVENUE,
                    sale(classOf, line.item()),
                    line.deferred().negated()));
        }
        for (var band : invoice.totals().bands()) {
            lines.add(new Posting.Line(
                    AccountRole.OUTPUT_VAT,
                    new Posting.Keys("", "", "", band.vat()),
                    band.tax().negated()));
        }
        for (var line : invoice.lines()) {
            if (line.kind() == LineKind.STOCK) {
                var cost = line.sources().stream().map(s -> s.cost()).reduce(zero(line.net()), Money::plus);
                lines.add(new Posting.Line(AccountRole.COGS, sale(classOf, line.item()), cost));
                lines.add(new Posting.Line(AccountRole.GOODS_OUT, item(line.item()), cost.negated()));
            }
        }
        var ahead = invoice.lines().stream().anyMatch(line -> line.ahead().isPositive());
        var event = ahead
                ? "invoice ahead of dispatch"
                : Billing.cost(invoice).isZero() ? "invoice of services" : "invoice of dispatched goods";
        return proposal(DocumentKind.INVOICE, invoice.number(), invoice.customer(), event, lines);
    }

    private Optional<Proposal> paymentReceived(Effect.PaymentReceived effect) {
        var settled = settled(effect.settlements(), effect.amount());
        var classOf = customerClass.apply(effect.customer());
        var lines = List.of(
                new Posting.Line(AccountRole.BANK, Posting.Keys.NONE, effect.amount()),
                new Posting.Line(AccountRole.RECEIVABLES, customer(classOf), settled.negated()),
                new Posting.Line(
                        AccountRole.CUSTOMER_CREDIT,
                        customer(classOf),
                        effect.amount().minus(settled).negated()));
        return proposal(DocumentKind.PAYMENT, effect.payment(), effect.customer(), "payment", lines);
    }

    private Optional<Proposal> creditAllocated(Effect.CreditAllocated effect) {
        var settled = settled(effect.settlements(), effect.settlements().get(0).amount());
        var classOf = customerClass.apply(effect.customer());
        var lines = List.of(
                new Posting.Line(AccountRole.CUSTOMER_CREDIT, customer(classOf), settled),
                new Posting.Line(AccountRole.RECEIVABLES, customer(classOf), settled.negated()));
        return proposal(effect.source().kind(), effect.source().number(), effect.customer(), CREDIT_ALLOCATED, lines);
    }

    private Optional<Proposal> allocationTakenOff(Effect.AllocationTakenOff effect) {
        var classOf = customerClass.apply(effect.customer());
        var taken = Settlement.sum(effect.settlements());
        return two(
                effect.source().kind(),
                effect.source().number(),
                effect.customer(),
                CREDIT_TAKEN_OFF,
                AccountRole.RECEIVABLES,
                customer(classOf),
                AccountRole.CUSTOMER_CREDIT,
                customer(classOf),
                taken);
    }

    /**
     * What an effect mirrors: the entries of a document, or those of one event on it.
     *
     * @param event empty for all of them
     */
    public record Mirrored(DocumentRef document, String event) {}

    /** What an effect mirrors; empty where it mirrors nothing. */
    public static Optional<Mirrored> mirrored(Effect effect) {
        if (effect instanceof Effect.InspectionReversed reversed) {
            return Optional.of(new Mirrored(
                    new DocumentRef(DocumentKind.RETURN, reversed.before().number()), INSPECTION));
        }
        if (effect instanceof Effect.ReceiptReversed reversed) {
            return Optional.of(new Mirrored(
                    new DocumentRef(DocumentKind.RETURN, reversed.before().number()), RETURN_RECEIVED));
        }
        if (effect instanceof Effect.ReductionReversed reversed
                && reversed.reduction().isDiscount()) {
            return Optional.of(new Mirrored(reversed.reduction().standsWith(), DISCOUNT_TAKEN));
        }
        return undone(effect).map(document -> new Mirrored(document, ""));
    }

    /** The document that an effect undoes whole. */
    private static Optional<DocumentRef> undone(Effect effect) {
        if (effect instanceof Effect.PaymentReversed reversed) {
            return Optional.of(new DocumentRef(DocumentKind.PAYMENT, reversed.payment()));
        }
        if (effect instanceof Effect.InvoiceReversed reversed) {
            return Optional.of(
                    new DocumentRef(DocumentKind.INVOICE, reversed.invoice().number()));
        }
        if (effect instanceof Effect.DispatchReversed reversed) {
            return Optional.of(
                    new DocumentRef(DocumentKind.DISPATCH, reversed.dispatch().number()));
        }
        if (effect instanceof Effect.RefundReversed reversed) {
            return Optional.of(new DocumentRef(DocumentKind.REFUND, reversed.refund()));
        }
        if (effect instanceof Effect.DepositReversed reversed) {
            return Optional.of(new DocumentRef(DocumentKind.DEPOSIT, reversed.deposit()));
        }
        if (effect instanceof Effect.ReductionReversed reversed) {
            return Optional.of(reversed.reduction().document());
        }
        if (effect instanceof Effect.CreditNoteReversed reversed) {
            return Optional.of(
                    new DocumentRef(DocumentKind.CREDIT_NOTE, reversed.credit().number()));
        }
        return Optional.empty();
    }

    /** What moves money of a document to and fro, and never the document itself. */
    private static final Set<String> TO_AND_FRO =
            Set.of(CREDIT_ALLOCATED, CREDIT_TAKEN_OFF, DEPOSIT_APPLIED, DEPOSIT_TAKEN_OFF);

    /**
     * Which of a document's entries are mirrored to undo it: all of them, but not what moved its money to and fro where
     * that has come to nothing account by account.
     *
     * @param all that are not undone yet
     * @param event empty for all of them
     */
    public static List<Entry> toMirror(List<Entry> all, String event) {
        var entries = all.stream()
                .filter(entry -> event.isEmpty() || entry.event().equals(event))
                .toList();
        var byAccount = new HashMap<String, Money>();
        entries.stream()
                .filter(entry -> TO_AND_FRO.contains(entry.event()))
                .flatMap(entry -> entry.lines().stream())
                .forEach(line -> byAccount.merge(line.role() + "/" + line.account(), line.amount(), Money::plus));
        var cameToNothing = byAccount.values().stream().allMatch(Money::isZero);
        return entries.stream()
                .filter(entry -> !cameToNothing || !TO_AND_FRO.contains(entry.event()))
                .toList();
    }

    private Optional<Proposal> depositReceived(Effect.DepositReceived effect) {
        return two(
                DocumentKind.DEPOSIT,
                effect.deposit(),
                effect.customer(),
                "deposit received",
                AccountRole.BANK,
                Posting.Keys.NONE,
                AccountRole.DEPOSITS,
                ofCustomer(effect.customer()),
                effect.amount());
    }

    private Optional<Proposal> depositApplied(Effect.DepositApplied effect) {
        return two(
                DocumentKind.DEPOSIT,
                effect.deposit(),
                effect.customer(),
                DEPOSIT_APPLIED,
                AccountRole.DEPOSITS,
                ofCustomer(effect.customer()),
                AccountRole.RECEIVABLES,
                ofCustomer(effect.customer()),
                Settlement.sum(effect.settlements()));
    }

    private Optional<Proposal> depositTakenOff(Effect.DepositTakenOff effect) {
        return two(
                DocumentKind.DEPOSIT,
                effect.deposit(),
                effect.customer(),
                DEPOSIT_TAKEN_OFF,
                AccountRole.RECEIVABLES,
                ofCustomer(effect.customer()),
                AccountRole.DEPOSITS,
                ofCustomer(effect.customer()),
                Settlement.sum(effect.settlements()));
    }

    private Optional<Proposal> depositCredited(Effect.DepositCredited effect) {
        return two(
                DocumentKind.DEPOSIT,
                effect.deposit(),
                effect.customer(),
                "deposit to customer credit",
                AccountRole.DEPOSITS,
                ofCustomer(effect.customer()),
                AccountRole.CUSTOMER_CREDIT,
                ofCustomer(effect.customer()),
                effect.amount());
    }

    private Optional<Proposal> refundGiven(Effect.RefundGiven effect) {
        var from = effect.order().isEmpty() ? AccountRole.CUSTOMER_CREDIT : AccountRole.DEPOSITS;
        return two(
                DocumentKind.REFUND,
                effect.refund(),
                effect.customer(),
                effect.order().isEmpty() ? "refund" : "deposit refunded",
                from,
                ofCustomer(effect.customer()),
                AccountRole.BANK,
                Posting.Keys.NONE,
                effect.amount());
    }

    /** Found goods: inventory ← stock adjustment; missing ones the other way round. */
    private Optional<Proposal> stockCounted(Effect.StockCounted effect) {
        return two(
                DocumentKind.STOCK_COUNT,
                effect.correction(),
                "",
                "stock count",
                AccountRole.INVENTORY,
                shelf(effect.item(), effect.site()),
                AccountRole.STOCK_ADJUSTMENT,
                item(effect.item()),
                effect.value());
    }

    /**
     * What the departure of goods billed ahead had sold is goods out again, and its revenue waits with the invoice that
     * is taken back.
     */
    private Optional<Proposal> revenueDeferredAgain(Effect.RevenueDeferredAgain effect) {
        var lines = new ArrayList<Posting.Line>();
        for (var delivery : effect.deliveries()) {
            var sale = sale(customerClass.apply(delivery.customer()), delivery.item());
            lines.add(new Posting.Line(
                    AccountRole.GOODS_OUT,
                    item(delivery.item()),
                    delivery.source().cost()));
            lines.add(new Posting.Line(
                    AccountRole.COGS, sale, delivery.source().cost().negated()));
            lines.add(new Posting.Line(
                    AccountRole.REVENUE, sale, delivery.source().earned()));
            lines.add(new Posting.Line(
                    AccountRole.DEFERRED_REVENUE,
                    sale,
                    delivery.source().earned().negated()));
        }
        return proposal(DocumentKind.DISPATCH, effect.dispatch(), "", "invoice ahead of it taken back", lines);
    }

    /**
     * Goods in inspection ← cost of sales where they had been billed; ← goods out, not billed, or given away otherwise.
     */
    private Optional<Proposal> returnReceived(Effect.ReturnReceived effect) {
        var lines = new ArrayList<Posting.Line>();
        for (var arrival : effect.arrivals()) {
            var item = effect.before().line(arrival.line()).item();
            lines.add(new Posting.Line(
                    AccountRole.GOODS_IN_INSPECTION, item(item), arrival.part().cost()));
            lines.add(stood(
                    arrival.part().standing(),
                    effect.before().customer(),
                    item,
                    arrival.part().cost().negated()));
        }
        return proposal(
                DocumentKind.RETURN, effect.before().number(), effect.before().customer(), RETURN_RECEIVED, lines);
    }

    private Posting.Line stood(Return.Standing standing, String customer, String item, Money amount) {
        return switch (standing) {
            case BILLED -> new Posting.Line(AccountRole.COGS, sale(customerClass.apply(customer), item), amount);
            case UNBILLED -> new Posting.Line(AccountRole.GOODS_OUT, item(item), amount);
            case GIVEN_AWAY -> new Posting.Line(AccountRole.GIVEN_AWAY, item(item), amount);
        };
    }

    /**
     * Restock: inventory, scrap: write-off, back to the customer: where the goods had come from; each ← goods in
     * inspection.
     */
    private Optional<Proposal> returnInspected(Effect.ReturnInspected effect) {
        var lines = new ArrayList<Posting.Line>();
        for (var result : effect.results()) {
            var line = effect.before().line(result.line());
            var outcome = result.outcome();
            lines.add(
                    switch (outcome.kind()) {
                        case RESTOCK ->
                            new Posting.Line(AccountRole.INVENTORY, shelf(line.item(), outcome.site()), outcome.cost());
                        case SCRAP -> new Posting.Line(AccountRole.WRITE_OFF, item(line.item()), outcome.cost());
                        case SEND_BACK ->
                            stood(
                                    line.part(result.part()).standing(),
                                    effect.before().customer(),
                                    line.item(),
                                    outcome.cost());
                    });
            lines.add(new Posting.Line(
                    AccountRole.GOODS_IN_INSPECTION,
                    item(line.item()),
                    outcome.cost().negated()));
        }
        return proposal(
                DocumentKind.RETURN, effect.before().number(), effect.before().customer(), INSPECTION, lines);
    }

    /** Sales returns, output VAT ← receivables up to what the invoice has open, the rest customer credit. */
    private Optional<Proposal> creditNotePosted(Effect.CreditNotePosted effect) {
        var credit = effect.credit();
        var classOf = customerClass.apply(credit.customer());
        var lines = new ArrayList<Posting.Line>();
        for (var line : credit.lines()) {
            lines.add(new Posting.Line(
                    AccountRole.SALES_RETURNS,
                    sale(classOf, line.item()),
                    line.net().minus(line.deferred())));
            if (!line.deferred().isZero()) {
                lines.add(new Posting.Line(AccountRole.DEFERRED_REVENUE, sale(classOf, line.item()), line.deferred()));
            }
        }
        // what was never paid is not credited: the share of a discount that was taken on the invoice
        var discounted =
                credit.discounted().stream().map(Totals.Band::taxable).reduce(zero(effect.settled()), Money::plus);
        if (!discounted.isZero()) {
            lines.add(new Posting.Line(AccountRole.SALES_DISCOUNTS, customer(classOf), discounted.negated()));
        }
        credit.totals()
                .bands()
                .forEach(band -> lines.add(new Posting.Line(
                        AccountRole.OUTPUT_VAT, new Posting.Keys("", "", "", band.vat()), band.tax())));
        lines.add(new Posting.Line(
                AccountRole.RECEIVABLES, customer(classOf), effect.settled().negated()));
        lines.add(new Posting.Line(
                AccountRole.CUSTOMER_CREDIT,
                customer(classOf),
                credit.totals().gross().minus(effect.settled()).negated()));
        return proposal(DocumentKind.CREDIT_NOTE, credit.number(), credit.customer(), "credit note", lines);
    }

    /**
     * Payment differences, bad debt or sales discounts, and the VAT that goes with it ← receivables. A discount stands
     * with its invoice, whose consideration it lowers.
     */
    private Optional<Proposal> invoiceReduced(Effect.InvoiceReduced effect) {
        var reduction = effect.reduction();
        var keys = ofCustomer(reduction.customer());
        var lines = new ArrayList<Posting.Line>();
        lines.add(new Posting.Line(
                switch (reduction.kind()) {
                    case SMALL_DIFFERENCE -> AccountRole.PAYMENT_DIFFERENCES;
                    case BAD_DEBT -> AccountRole.BAD_DEBT;
                    case DISCOUNT -> AccountRole.SALES_DISCOUNTS;
                },
                keys,
                reduction.amount().minus(reduction.tax())));
        reduction
                .shares()
                .forEach(share -> lines.add(new Posting.Line(
                        AccountRole.OUTPUT_VAT, new Posting.Keys("", "", "", share.vat()), share.tax())));
        lines.add(new Posting.Line(
                AccountRole.RECEIVABLES, keys, reduction.amount().negated()));
        var document = reduction.standsWith();
        var event = switch (reduction.kind()) {
            case SMALL_DIFFERENCE -> "small difference written off";
            case BAD_DEBT -> "bad debt written off";
            case DISCOUNT -> DISCOUNT_TAKEN;
        };
        return proposal(document.kind(), document.number(), reduction.customer(), event, lines);
    }

    private static Optional<Proposal> two(
            DocumentKind kind,
            String number,
            String customer,
            String event,
            AccountRole debit,
            Posting.Keys debitKeys,
            AccountRole credit,
            Posting.Keys creditKeys,
            Money amount) {
        return proposal(
                kind,
                number,
                customer,
                event,
                List.of(
                        new Posting.Line(debit, debitKeys, amount),
                        new Posting.Line(credit, creditKeys, amount.negated())));
    }

    private Posting.Keys ofCustomer(String customer) {
        return customer(customerClass.apply(customer));
    }

    private static Money settled(List<Settlement> settlements, Money like) {
        return settlements.stream().map(Settlement::amount).reduce(zero(like), Money::plus);
    }

    private static Money zero(Money like) {
        return Money.zero(like.currency());
    }

    private Posting.Keys item(String item) {
        return new Posting.Keys("", itemClass.apply(item), "", null);
    }

    private Posting.Keys shelf(String item, String site) {
        return new Posting.Keys("", itemClass.apply(item), site, null);
    }

    private Posting.Keys sale(String classOfCustomer, String item) {
        return new Posting.Keys(classOfCustomer, itemClass.apply(item), "", null);
    }

    private static Posting.Keys customer(String classOfCustomer) {
        return new Posting.Keys(classOfCustomer, "", "", null);
    }

    private static Optional<Proposal> proposal(
            DocumentKind kind, String number, String customer, String event, List<Posting.Line> lines) {
        return Optional.of(new Proposal(new DocumentRef(kind, number), customer, new Posting(event, lines)));
    }
}
