package app.euthyna.server.order;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Orders that are started from other documents. */
@Service
public class OrderStarting {

    private final OrderDrafts drafts;
    private final DocumentSources sources;
    private final OrderSubmission submission;
    private final OrderViews views;
    private final OrderStore stored;
    private final History history;

    OrderStarting(
            OrderDrafts drafts,
            DocumentSources sources,
            OrderSubmission submission,
            OrderViews views,
            OrderStore stored,
            History history) {
        this.drafts = drafts;
        this.sources = sources;
        this.submission = submission;
        this.views = views;
        this.stored = stored;
        this.history = history;
    }

    /** An order as it would be, for looking at it before it is kept. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulate(CommandContext context, OrderDraft draft) {
        return drafts.simulate(context, draft);
    }

    /**
     * Starts a draft from the lines of an earlier order, dispatch, invoice, quote, blanket or recurring order; for the
     * same customer its PO comes along, to be met again. From a return it is a replacement at no charge, part of what
     * the customer ordered under that PO.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    OrderView startFrom(CommandContext context, OrderController.StartKind kind, String number, String customer) {
        var source = sources.source(kind, number);
        RefusedException.where(Dating.before(context.date(), DocumentSources.words(kind) + " " + number, source.on()));
        var lines = sources.lines(kind, number);
        var same = customer == null || customer.isBlank() || customer.equals(source.customer());
        var draft = new OrderDraft(
                same ? source.customer() : customer,
                same ? source.po() : "",
                source.kind(),
                null,
                null,
                null,
                "",
                null,
                kind == OrderController.StartKind.RETURN
                        ? new Details("", null, ShipTo.CUSTOMER, Map.of(), number)
                        : null,
                lines.stream()
                        .map(l -> new OrderDraft.Line(
                                null,
                                l.item(),
                                l.quantity(),
                                l.price(),
                                l.discount(),
                                null,
                                l.kind(),
                                l.text(),
                                null,
                                null))
                        .toList());
        var root = kind == OrderController.StartKind.RETURN
                ? Optional.of(submission.firstOrder(new DocumentRef(DocumentKind.RETURN, number)))
                : Optional.<String>empty();
        var kept = started(
                context,
                draft,
                kind.name(),
                number,
                lines.stream().map(DocumentSources.SourceLine::line).toList(),
                begun -> root.ifPresent(first -> submission.ofOneOrder(begun, first)));
        if (root.isPresent()) {
            history.note(
                    context,
                    root.get(),
                    "replaced",
                    "replacement order %s was started from return %s".formatted(kept.number(), number));
        }
        return views.of(kept);
    }

    /**
     * Writes an order for goods and services that were delivered and billed wrongly, and hands it in: nothing of it is
     * dispatched again.
     *
     * @param root the order that they were delivered on
     * @param invoice that billed them
     * @param sources its lines, in the sequence of the draft's
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView billAgain(
            CommandContext context, OrderDraft draft, String root, String invoice, List<Integer> sources) {
        var kept = started(context, draft, "INVOICE", invoice, sources, begun -> {
            begun.lines().stream()
                    .filter(line -> line.kind == LineKind.STOCK)
                    .forEach(line -> begun.change(line, one -> one.kind = LineKind.SERVICE));
            if (stored.find(root).header.customerId == begun.header.customerId) {
                submission.ofOneOrder(begun, root);
            }
        });
        history.note(
                context, root, "corrected", "invoice %s is rebilled with order %s".formatted(invoice, kept.number()));
        submission.submit(context, kept);
        return views.of(kept.number());
    }

    /**
     * Makes an order from a quote, a blanket order or a recurring order; the order keeps the link line by line.
     *
     * @param submit it is submitted at once, else it stays a draft
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView make(
            CommandContext context,
            OrderDraft draft,
            SalesAgreement agreement,
            long agreementId,
            List<Integer> sources,
            boolean submit) {
        drafts.lockCustomer(draft);
        var kept = started(
                context,
                draft,
                agreement.kind().name(),
                agreement.number(),
                sources,
                begun -> begun.header.agreementId = agreementId);
        if (submit) {
            submission.submit(context, kept);
        }
        return views.of(kept.number());
    }

    /**
     * A draft that names line by line what it was started from.
     *
     * @param completed what else it begins with
     */
    private StoredOrder started(
            CommandContext context,
            OrderDraft draft,
            String kind,
            String number,
            List<Integer> sources,
            Consumer<StoredOrder> completed) {
        var kept = drafts.begin(context, draft);
        for (int at = 0; at < sources.size(); at++) {
            var source = sources.get(at);
            kept.change(kept.lines().get(at), line -> {
                line.sourceKind = kind;
                line.sourceNumber = number;
                line.sourceLine = source;
            });
        }
        completed.accept(kept);
        drafts.keep(kept);
        history.note(
                context,
                kept.number(),
                "started",
                "started from " + kind.toLowerCase(Locale.ROOT).replace('_', ' ') + " " + number);
        return kept;
    }
}
