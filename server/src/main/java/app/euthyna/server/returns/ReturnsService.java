package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Crediting.Share;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.ReturnRefusal;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Returning.Came;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Goods that come back: allowed, received, inspected, credited. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class ReturnsService {

    private final ChainReader chains;
    private final Locks locks;
    private final EffectWriter writer;
    private final ReturnQueries queries;
    private final CompanyRulesStore rules;
    private final History history;
    private final DocumentOrders documentOrders;
    private final OpenInvoices openInvoices;

    ReturnsService(
            ChainReader chains,
            Locks locks,
            EffectWriter writer,
            ReturnQueries queries,
            CompanyRulesStore rules,
            History history,
            DocumentOrders documentOrders,
            OpenInvoices openInvoices) {
        this.openInvoices = openInvoices;
        this.documentOrders = documentOrders;
        this.history = history;
        this.chains = chains;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
        this.rules = rules;
    }

    /**
     * Allows goods of dispatch or invoice lines back.
     *
     * @param exception why they may come although it is too late; empty where that is not said
     */
    public String authorise(
            CommandContext given,
            List<Returning.OfDispatch> dispatched,
            List<Returning.OfInvoice> invoiced,
            String reasonCode,
            String exception) {
        var context = exception.isBlank()
                ? given
                : given.because(Texts.joined("; ", given.reason(), "late return allowed: " + exception));
        var orders = ordersOf(dispatched);
        invoiced.forEach(one -> orders.addAll(
                documentOrders.of(DocumentKind.INVOICE, one.invoiceLine().number())));
        if (orders.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("lines", "at least one line"));
        }
        var found = locked(orders);
        var authorised = RefusedException.orThrow(Returning.authorise(
                new Returning.Asked(
                        writer.number(DocumentKind.RETURN),
                        found.iterator().next().order().customer(),
                        context.date(),
                        reasonCode,
                        dispatched,
                        invoiced),
                found,
                rules.inForce().returns(),
                new ReturnPolicy.Exemption(context.person(), exception)));
        writer.write(context, List.of(authorised));
        return authorised.authorised().number();
    }

    /** The chains that dispatch lines belong to, locked. */
    Collection<Chain> lockedOf(List<Returning.OfDispatch> dispatched) {
        return locked(ordersOf(dispatched));
    }

    private Set<String> ordersOf(List<Returning.OfDispatch> dispatched) {
        var orders = new TreeSet<String>();
        dispatched.forEach(one -> orders.addAll(
                documentOrders.of(DocumentKind.DISPATCH, one.dispatchLine().number())));
        return orders;
    }

    /** The chains of orders, their customers and themselves locked. */
    private Collection<Chain> locked(Collection<String> orders) {
        locks.customersAndOrders(orders);
        return chains.chains(orders).values();
    }

    /** A return with the chains of its orders and of every order on the invoices that billed them, all locked. */
    private record Known(Return goods, Collection<Chain> chains) {}

    private Known known(String number, Long version) {
        var found = locked(documentOrders.of(DocumentKind.RETURN, number));
        if (version != null) {
            var now = queries.version(number);
            if (!now.equals(version)) {
                throw new RefusedException(new PlatformRefusal.StaleVersion("Return " + number, version, now));
            }
        }
        return new Known(Chain.returnOf(found, number), found);
    }

    /** Keeps a note with a return. */
    void note(CommandContext context, String number, String text) {
        history.note(
                context, documentOrders.of(DocumentKind.RETURN, number), DocumentKind.RETURN, number, "noted", text);
    }

    /** What has not come may not come any more. */
    public void withdraw(CommandContext context, String number, Long version) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the withdrawal"));
        }
        var known = known(number, version);
        writer.write(
                context,
                List.of(RefusedException.orThrow(Returning.withdraw(known.goods(), Chain.credits(known.chains())))));
    }

    /** Takes in what came; all that is expected where nothing is named. */
    public void receive(CommandContext context, String number, Long version, List<Came> came) {
        var known = known(number, version);
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        Returning.receive(known.goods(), came, known.chains(), context.date()))));
    }

    /** Decides what becomes of goods in inspection. */
    public void inspect(CommandContext context, String number, Long version, List<InspectionLine> results) {
        var known = known(number, version);
        var placed = results.stream()
                .map(v -> new InspectionLine(
                        v.line(),
                        v.kind(),
                        v.quantity(),
                        v.site() == null || v.site().isBlank()
                                ? known.goods().lines().stream()
                                        .filter(l -> l.no() == v.line())
                                        .map(Return.Line::site)
                                        .findFirst()
                                        .orElse("")
                                : v.site(),
                        v.remark()))
                .toList();
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        Returning.inspect(known.goods(), placed, Chain.credits(known.chains()), context.date()))));
    }

    /**
     * Credits the billed goods of a return that are here; a credit note for each invoice.
     *
     * @param ahead those too that are expected and not here, where the company grants it
     */
    public List<String> creditReturn(CommandContext context, String number, boolean ahead) {
        var known = known(number, null);
        var policy = rules.inForce().returns();
        var terms = terms(context, policy.reason(known.goods().reason()));
        var open = open(known.chains());
        var credited = RefusedException.orThrow(
                ahead
                        ? Crediting.creditAhead(known.goods(), known.chains(), open, terms, policy)
                        : Crediting.creditReturn(known.goods(), known.chains(), open, terms));
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
        var found =
                chains.chains(documentOrders.of(DocumentKind.INVOICE, number)).values();
        return Crediting.left(Chain.invoiceOf(found, number), Chain.creditsFor(found, number));
    }

    /**
     * Credits without goods what is left of the invoices that bill an order, or what left with a dispatch: a credit
     * note for each.
     */
    public List<String> creditOf(CommandContext context, DocumentRef of) {
        var order = documentOrders.of(of.kind(), of.number()).get(0);
        var invoices = chains.chain(order).inForce().map(Invoice::number).toList();
        // all of their orders at once, so that locks follow their order
        var orders = new TreeSet<>(List.of(order));
        invoices.forEach(invoice -> orders.addAll(documentOrders.of(DocumentKind.INVOICE, invoice)));
        var found = locked(orders);
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
        var found = locked(documentOrders.of(DocumentKind.INVOICE, number));
        return new Billed(Chain.invoiceOf(found, number), found);
    }

    /** Notes what is to become of the customer credit that a credit note leaves; null where nobody says any more. */
    public void wish(CommandContext context, String creditNote, CreditWish wish) {
        var orders = documentOrders.of(DocumentKind.CREDIT_NOTE, creditNote);
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

    /** Notes that the customer was reminded of goods that have not come. */
    public void reminded(CommandContext context, String number) {
        queries.reminded(context.date(), number);
    }
}
