package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.shared.LineRef;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Keeps returns with what came of them, and credit notes. */
@Component
@Order(46)
class ReturnsSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.ReturnAuthorised.class, Store::returnAuthorised)
            .on(Effect.ReturnWithdrawn.class, Store::returnWithdrawn)
            .on(Effect.ReturnReceived.class, Store::returnReceived)
            .on(Effect.ReturnInspected.class, Store::returnInspected)
            .on(Effect.InspectionReversed.class, Store::inspectionReversed)
            .on(Effect.ReceiptReversed.class, Store::receiptReversed)
            .on(Effect.CreditNotePosted.class, Store::creditNotePosted)
            .on(Effect.CreditNoteReversed.class, Store::creditNoteReversed)
            .othersDoNotConcernIt();

    private final ReturnQueries queries;
    private final Ids ids;
    private final History history;
    private final ChainReader chains;
    private final Company company;

    ReturnsSink(ReturnQueries queries, Ids ids, History history, ChainReader chains, Company company) {
        this.chains = chains;
        this.company = company;
        this.queries = queries;
        this.ids = ids;
        this.history = history;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        STORES.of(new Store(context), effect);
    }

    /** What is owed for a return is worked out from the chains once all is stored: lists and lanes ask for it. */
    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        var touched = new TreeMap<String, Set<String>>();
        for (var effect : batch) {
            if (effect instanceof Effect.ReturnReceived
                    || effect instanceof Effect.ReturnInspected
                    || effect instanceof Effect.InspectionReversed
                    || effect instanceof Effect.ReceiptReversed
                    || effect instanceof Effect.CreditNotePosted
                    || effect instanceof Effect.CreditNoteReversed) {
                for (var chain : chains.chains(effect.orders()).values()) {
                    chain.returns().forEach(goods -> touched.put(goods.number(), goods.orders()));
                }
            }
        }
        touched.forEach((number, orders) -> {
            var known = chains.chains(orders).values();
            var owed = Crediting.owed(Chain.returnOf(known, number), known, company.currency());
            queries.noteOwed(owed.toCredit().amount(), owed.ahead().amount(), number);
        });
    }

    private final class Store {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
        }

        private void returnAuthorised(Effect.ReturnAuthorised effect) {
            var goods = effect.authorised();
            var authorised = new ReturnEntity();
            authorised.number = goods.number();
            authorised.customerId = ids.customer(goods.customer());
            authorised.authorisedOn = goods.on();
            authorised.reasonCode = goods.reason();
            authorised.remark = context.reason();
            authorised.expects = true;
            queries.session().insert(authorised);
            for (var line : goods.lines()) {
                var row = new ReturnLineEntity();
                row.returnId = authorised.id;
                row.lineNo = line.no();
                row.rootOrderId = ids.order(line.orderLine().number());
                row.orderLineNo = line.orderLine().line();
                row.dispatchId = ids.dispatch(line.dispatchLine().number());
                row.dispatchLineNo = line.dispatchLine().line();
                row.invoiceId = invoice(line.invoiceLine());
                row.invoiceLineNo = line.invoiceLine().map(LineRef::line).orElse(null);
                row.itemId = ids.item(line.item());
                row.siteId = ids.site(line.site());
                row.authorised = line.authorised().value();
                queries.session().insert(row);
            }
        }

        private Long invoice(Optional<LineRef> line) {
            return line.map(LineRef::number).map(ids::invoice).orElse(null);
        }

        private void returnWithdrawn(Effect.ReturnWithdrawn effect) {
            queries.withdraw(effect.before().number());
        }

        private void returnReceived(Effect.ReturnReceived effect) {
            var id = ids.goodsReturn(effect.before().number());
            for (var arrival : effect.arrivals()) {
                var part = arrival.part();
                var row = new ReturnPartEntity();
                row.returnLineId = queries.line(id, arrival.line());
                row.partNo = part.no();
                row.receivedOn = part.on();
                row.standing = part.standing().name();
                row.invoiceId = invoice(part.invoiceLine());
                row.invoiceLineNo = part.invoiceLine().map(LineRef::line).orElse(null);
                row.quantity = part.quantity().value();
                row.cost = part.cost().amount();
                row.moment = history.moment();
                queries.session().insert(row);
            }
            queries.settle(id);
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            decided(effect.before(), effect.results());
        }

        private void inspectionReversed(Effect.InspectionReversed effect) {
            decided(effect.before(), effect.results());
        }

        /** The rows stay; beside each stands one with its signs turned, so that their sums are right. */
        private void receiptReversed(Effect.ReceiptReversed effect) {
            var id = ids.goodsReturn(effect.before().number());
            for (var part : queries.received(id)) {
                part.reversed = true;
                queries.session().update(part);
                var back = new ReturnPartEntity();
                back.returnLineId = part.returnLineId;
                back.partNo = -part.partNo;
                back.receivedOn = context.date();
                back.standing = part.standing;
                back.invoiceId = part.invoiceId;
                back.invoiceLineNo = part.invoiceLineNo;
                back.quantity = part.quantity.negate();
                back.cost = part.cost.negate();
                back.moment = history.moment();
                back.reversed = true;
                queries.session().insert(back);
            }
            queries.settle(id);
        }

        private void decided(Return before, List<Effect.InspectionResult> results) {
            var id = ids.goodsReturn(before.number());
            for (var result : results) {
                var outcome = result.outcome();
                var row = new ReturnOutcomeEntity();
                row.partId = queries.part(id, result.line(), result.part());
                row.kind = outcome.kind().name();
                row.decidedOn = outcome.on();
                row.quantity = outcome.quantity().value();
                row.cost = outcome.cost().amount();
                row.site = outcome.site();
                row.remark = outcome.remark();
                row.moment = history.moment();
                queries.session().insert(row);
            }
            queries.settle(id);
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            var credit = effect.credit();
            var note = new CreditNoteEntity();
            note.number = credit.number();
            note.customerId = ids.customer(credit.customer());
            note.invoiceId = ids.invoice(credit.invoice());
            note.creditedOn = credit.on();
            note.reason = credit.reason();
            note.net = credit.totals().net().amount();
            note.vat = credit.totals().vat().amount();
            note.gross = credit.totals().gross().amount();
            queries.session().insert(note);
            credit.lines().forEach(line -> line(note.id, line));
            for (var band : credit.totals().bands()) {
                var row = new CreditNoteVatEntity();
                row.creditNoteId = note.id;
                row.vatCategory = band.vat().category();
                row.vatRate = band.vat().ratePercent();
                row.taxable = band.taxable().amount();
                row.tax = band.tax().amount();
                credit.discounted().stream()
                        .filter(share -> share.vat().equals(band.vat()))
                        .forEach(share -> {
                            row.discountNet = share.taxable().amount();
                            row.discountTax = share.tax().amount();
                        });
                queries.session().insert(row);
            }
        }

        private void creditNoteReversed(Effect.CreditNoteReversed effect) {
            queries.reverseCreditNote(
                    context.date(), history.moment(), effect.credit().number());
        }

        private void line(long credit, CreditNote.Line line) {
            var row = new CreditNoteLineEntity();
            row.creditNoteId = credit;
            row.lineNo = line.no();
            row.invoiceLineNo = line.invoiceLine();
            row.rootOrderId = ids.order(line.orderLine().number());
            row.orderLineNo = line.orderLine().line();
            row.returnId =
                    line.returnLine().map(r -> ids.goodsReturn(r.number())).orElse(null);
            row.returnLineNo = line.returnLine().map(LineRef::line).orElse(null);
            row.itemCode = line.item();
            row.description = line.description();
            row.quantity = line.quantity().value();
            row.net = line.net().amount();
            row.fee = line.fee().amount();
            row.feePercent = line.feePercent();
            row.ahead = line.ahead().value();
            row.deferred = line.deferred().amount();
            row.vatCategory = line.vat().category();
            row.vatRate = line.vat().ratePercent();
            queries.session().insert(row);
        }
    }
}
