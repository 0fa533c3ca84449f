package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Crediting.Share;
import app.euthyna.core.returns.InvoiceActions;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.ReturnRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Offered;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Credit notes: of goods that came back, and of what was billed. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class CreditService {

    private final DocumentChains documents;
    private final EffectWriter writer;
    private final ReturnQueries queries;
    private final CompanyRulesStore rules;
    private final History history;
    private final OpenInvoices openInvoices;

    CreditService(
            DocumentChains documents,
            EffectWriter writer,
            ReturnQueries queries,
            CompanyRulesStore rules,
            History history,
            OpenInvoices openInvoices) {
        this.documents = documents;
        this.writer = writer;
        this.queries = queries;
        this.rules = rules;
        this.history = history;
        this.openInvoices = openInvoices;
    }

    /**
     * Credits the billed goods of a return that are here; a credit note for each invoice.
     *
     * @param ahead those too that are expected and not here, where the company grants it
     */
    public List<String> creditReturn(CommandContext context, String number, boolean ahead) {
        var found = documents.locked(DocumentKind.RETURN, number);
        var goods = Chain.returnOf(found, number);
        var policy = rules.inForce().returns();
        var terms = terms(context, policy.reason(goods.reason()));
        var open = open(found);
        var credited = RefusedException.orThrow(
                ahead
                        ? Crediting.creditAhead(goods, found, open, terms, policy)
                        : Crediting.creditReturn(goods, found, open, terms));
        writer.write(context, credited);
        return credited.stream()
                .map(Effect.CreditNotePosted::credit)
                .map(CreditNote::number)
                .toList();
    }

    /** Credits lines of an invoice without goods; all that is left of it where nothing is named. */
    public String creditInvoice(CommandContext context, String number, List<Share> shares) {
        return credit(context, lockedInvoice(number), shares).number();
    }

    /** What is left to credit of an invoice, line by line. */
    @Transactional(propagation = Propagation.SUPPORTS)
    public List<Crediting.Left> leftToCredit(String number) {
        var found = documents.of(DocumentKind.INVOICE, number);
        return Crediting.left(Chain.invoiceOf(found, number), Chain.creditsFor(found, number));
    }

    /** What an invoice is there for as it stands. */
    @Transactional(propagation = Propagation.SUPPORTS)
    public List<Offered<InvoiceActions.Action>> actions(String number) {
        var found = documents.of(DocumentKind.INVOICE, number);
        return InvoiceActions.of(
                Chain.invoiceOf(found, number),
                Chain.creditsFor(found, number),
                open(found).get(number),
                openInvoices.disputed(number));
    }

    /**
     * Credits without goods what is left of the invoices that bill an order, or what left with a dispatch: a credit
     * note for each.
     */
    public List<String> creditOf(CommandContext context, DocumentRef of) {
        var order = documents.orders(of.kind(), of.number()).get(0);
        var invoices = documents.ofOrder(order).inForce().map(Invoice::number).toList();
        // all of their orders at once, so that locks follow their order
        var orders = new TreeSet<>(List.of(order));
        invoices.forEach(invoice -> orders.addAll(documents.orders(DocumentKind.INVOICE, invoice)));
        var found = documents.locked(orders);
        var made = new ArrayList<String>();
        for (var number : invoices) {
            var invoice = Chain.invoiceOf(found, number);
            var shares = Crediting.everythingOf(of, invoice, Chain.creditsFor(found, number));
            if (!shares.isEmpty()) {
                made.add(credit(context, new Billed(invoice, found), shares).number());
            }
        }
        if (made.isEmpty()) {
            throw new RefusedException(new ReturnRefusal.NothingBilled(of.toString()));
        }
        return made;
    }

    CreditNote credit(CommandContext context, Billed billed, List<Share> shares) {
        var number = billed.invoice().number();
        var before = Chain.creditsFor(billed.chains(), number);
        var asked = shares.isEmpty() ? Crediting.everything(billed.invoice(), before) : shares;
        var credited = RefusedException.orThrow(Crediting.credit(
                billed.invoice(), before, asked, open(billed.chains()).get(number), terms(context)));
        writer.write(context, List.of(credited));
        return credited.credit();
    }

    /** An invoice with the orders it bills, all locked. */
    record Billed(Invoice invoice, Collection<Chain> chains) {}

    Billed lockedInvoice(String number) {
        var found = documents.locked(DocumentKind.INVOICE, number);
        return new Billed(Chain.invoiceOf(found, number), found);
    }

    /** Notes what is to become of the customer credit that a credit note leaves; null where nobody says any more. */
    public void wish(CommandContext context, String creditNote, CreditWish wish) {
        var orders = documents.orders(DocumentKind.CREDIT_NOTE, creditNote);
        queries.wish(wish == null ? "" : wish.name(), creditNote);
        history.note(
                context,
                orders,
                DocumentKind.CREDIT_NOTE,
                creditNote,
                "wish",
                wish == null ? "not yet settled" : wish.words());
    }

    /** An allowance has its own reason; nothing comes back that a fee or freight could be for. */
    private Crediting.Terms terms(CommandContext context) {
        return new Crediting.Terms(
                () -> writer.creditNoteNumber(context), context.date(), context.reason(), BigDecimal.ZERO, false);
    }

    private Crediting.Terms terms(CommandContext context, ReturnPolicy.Reason reason) {
        return new Crediting.Terms(
                () -> writer.creditNoteNumber(context),
                context.date(),
                context.reason().isBlank() ? reason.words() : context.reason(),
                reason.feePercent(rules.inForce().unwind().restockingPercent()),
                reason.freight());
    }

    /** What invoices of chains have open. */
    private Map<String, Money> open(Collection<Chain> of) {
        return openInvoices.amounts(of.stream()
                .flatMap(chain -> chain.invoices().stream())
                .map(Invoice::number)
                .collect(Collectors.toSet()));
    }
}
