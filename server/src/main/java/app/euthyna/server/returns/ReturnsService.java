package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Returning.Came;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Goods that come back: allowed, received, inspected, credited. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class ReturnsService {

    private final EffectWriter writer;
    private final ReturnQueries queries;
    private final CompanyRulesStore rules;
    private final History history;
    private final DocumentChains documents;

    ReturnsService(
            EffectWriter writer,
            ReturnQueries queries,
            CompanyRulesStore rules,
            History history,
            DocumentChains documents) {
        this.documents = documents;
        this.history = history;
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
                documents.orders(DocumentKind.INVOICE, one.invoiceLine().number())));
        if (orders.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("lines", "at least one line"));
        }
        var found = documents.locked(orders);
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
        return documents.locked(ordersOf(dispatched));
    }

    private Set<String> ordersOf(List<Returning.OfDispatch> dispatched) {
        var orders = new TreeSet<String>();
        dispatched.forEach(one -> orders.addAll(
                documents.orders(DocumentKind.DISPATCH, one.dispatchLine().number())));
        return orders;
    }

    /** A return with the chains of its orders and of every order on the invoices that billed them, all locked. */
    private record Known(Return goods, Collection<Chain> chains) {}

    private Known known(String number, Long version) {
        var found = documents.locked(DocumentKind.RETURN, number);
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
                context, documents.orders(DocumentKind.RETURN, number), DocumentKind.RETURN, number, "noted", text);
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

    /** Notes that the customer was reminded of goods that have not come. */
    public void reminded(CommandContext context, String number) {
        queries.reminded(context.date(), number);
    }
}
