package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Amendment;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderEntry;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Consumer;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Entering, submitting and changing orders. Screen, REST and files come in here, by one road. */
@Service
@Transactional
public class OrderService {

    private final MasterData masterData;
    private final Ids ids;
    private final Locks locks;
    private final EffectWriter writer;
    private final CommittedQuantities committed;
    private final History history;
    private final CompanyRulesStore rules;
    private final SalesAgreementStore agreements;
    private final OrderVersions versions;
    private final Replacements replacements;
    private final OrderStore stored;
    private final Drafting drafting;
    private final DocumentSources sources;

    OrderService(
            MasterData masterData,
            Ids ids,
            Locks locks,
            EffectWriter writer,
            CommittedQuantities committed,
            History history,
            CompanyRulesStore rules,
            SalesAgreementStore agreements,
            OrderVersions versions,
            Replacements replacements,
            OrderStore stored,
            Drafting drafting,
            DocumentSources sources) {
        this.stored = stored;
        this.drafting = drafting;
        this.sources = sources;
        this.replacements = replacements;
        this.versions = versions;
        this.agreements = agreements;
        this.rules = rules;
        this.history = history;
        this.masterData = masterData;
        this.ids = ids;
        this.locks = locks;
        this.writer = writer;
        this.committed = committed;
    }

    /** Keeps an order as a draft, however incomplete. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView keep(CommandContext context, OrderDraft draft) {
        return view(persist(drafted(context, draft, writer.number(DocumentKind.ORDER))));
    }

    /**
     * Writes an order and hands it in: from here on the checks hold it or clear it. The customer is locked first, so
     * that two people sending the same PO, or using up the same limit, can't both get through.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submit(CommandContext context, OrderDraft draft) {
        locks.customer(draft.customer());
        var order = persist(drafted(context, draft, writer.number(DocumentKind.ORDER)));
        submit(context, order);
        return view(order.number());
    }

    /** Submits a draft. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submitDraft(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        var order = stored.seen(number, version);
        if (order.header.state != OrderState.DRAFT) {
            throw new RefusedException(new DraftRefusal.AlreadySubmitted(number, order.header.state));
        }
        submit(context, order);
        return view(number);
    }

    private void submit(CommandContext context, StoredOrder kept) {
        var order = stored.core(kept);
        var refusals = OrderEntry.refusals(
                order,
                masterData.customer(order.customer()).rules().po().required(),
                rules.inForce().entry());
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        replaces(context, kept, order);
        kept.header.state = OrderState.SUBMITTED;
        kept.wantAtOnce(context.today());
        stored.save(kept);
        writer.write(context, List.of(new Effect.OrderSubmitted(stored.core(kept))));
    }

    /** A replacement is part of what the customer ordered when the goods that it replaces were sent. */
    private void replaces(CommandContext context, StoredOrder kept, Order order) {
        if (order.kind() == OrderKind.REPLACEMENT) {
            var root = replacements.keep(kept.header.id, order);
            if (kept.header.splitOf == null) {
                ofOneOrder(kept, root);
                stored.save(kept);
                history.note(
                        context,
                        root,
                        "replaced",
                        "replacement order %s replaces goods of %s"
                                .formatted(order.number(), order.details().replaces()));
            }
        }
    }

    /** Changes the content of an order; what is null in the draft's header stays as it is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView amend(CommandContext context, String number, long version, OrderDraft draft) {
        oneLine(draft.po());
        locks.customerAndOrder(number);
        var kept = stored.seen(number, version);
        var before = stored.core(kept);
        var change = amended(context, kept, before, draft);
        var after = change.order();
        if (!change.differences().isEmpty()) {
            if (before.state() == OrderState.DRAFT) {
                kept.header.poTaken = before.po().equals(after.po()) ? kept.header.poTaken : null;
                kept.write(after);
                stored.save(kept);
                versions.keep(context, kept.header.id, change.differences());
            } else {
                replaces(context, kept, after);
                writer.write(context, List.of(new Effect.OrderChanged(before, after, change.differences())));
            }
        }
        return view(number);
    }

    /** An order that was called off takes no more of its blanket order than is left without it. */
    private void calledOff(StoredOrder kept, Order after) {
        var agreement = Optional.ofNullable(kept.header.agreementId)
                .flatMap(agreements::byId)
                .filter(one -> one.kind() == SalesAgreement.Kind.BLANKET_ORDER);
        if (agreement.isEmpty()) {
            return;
        }
        var asked = new HashMap<Integer, Quantity>();
        kept.lines().stream()
                .filter(line -> line.sourceLine != null
                        && after.hasLine(line.lineNo)
                        && after.line(line.lineNo).quantity().isPositive())
                .forEach(line ->
                        asked.merge(line.sourceLine, after.line(line.lineNo).quantity(), Quantity::plus));
        var refusals = agreement.get().unfit(asked, agreements.taken(kept.header.agreementId, kept.number()));
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
    }

    private Amendment.Change amended(CommandContext context, StoredOrder kept, Order before, OrderDraft draft) {
        var customer = masterData.customer(before.customer());
        var after = new Order(
                before.number(),
                before.sequence(),
                before.kind(),
                before.state(),
                before.customer(),
                or(draft.po(), before.po()).strip(),
                before.site(),
                before.orderedOn(),
                or(draft.requestedOn(), before.requestedOn()),
                or(draft.remark(), before.remark()),
                before.author(),
                context.person().username(),
                before.writers(),
                before.currency(),
                drafting.details(draft.details(), before.details()),
                drafting.lines(draft, customer, before, OptionalInt.of(kept.lastLine())));
        after = after.withWriters(before.writersAfter(after, context.person().username()));
        calledOff(kept, after);
        if (context.date().isBefore(context.today())) {
            RefusedException.where(Dating.before(
                    context.date(), "the version before of order " + before.number(), versions.lastOf(kept.header)));
        }
        return RefusedException.orThrow(Amendment.decide(
                before,
                after,
                committed.of(before.number()),
                customer.rules().po().required(),
                rules.inForce().entry()));
    }

    /** Somebody agreed to what an order says: who changed it before may decide on it again, who wrote it may not. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void agreed(String number) {
        var kept = stored.find(number);
        var header = kept.header;
        var writers = Records.lines(header.writers);
        if (!writers.isEmpty()) {
            writers.retainAll(header.splitOf == null ? Set.of() : stored.authors(header.customerId, header.splitOf));
            header.writers = Records.lines(writers);
            stored.save(kept);
        }
    }

    /** Changes an order into another content that was worked out beforehand. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView change(CommandContext context, String number, long version, Order into) {
        return amend(
                context,
                number,
                version,
                new OrderDraft(
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        into.lines().stream().map(l -> written(l.no(), l)).toList()));
    }

    private static OrderDraft.Line written(Integer no, OrderLine line) {
        return new OrderDraft.Line(
                no,
                line.item(),
                line.quantity().value(),
                line.price().unit(),
                line.price().discountPercent(),
                line.requestedOn(),
                line.kind(),
                line.description(),
                line.site(),
                line.shortage());
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
                ? Optional.of(replacements.firstOrder(new DocumentRef(DocumentKind.RETURN, number)))
                : Optional.<String>empty();
        var kept = started(
                context,
                draft,
                kind.name(),
                number,
                lines.stream().map(DocumentSources.SourceLine::line).toList(),
                begun -> root.ifPresent(first -> ofOneOrder(begun, first)));
        if (root.isPresent()) {
            history.note(
                    context,
                    root.get(),
                    "replaced",
                    "replacement order %s was started from return %s".formatted(kept.number(), number));
        }
        return view(kept);
    }

    /** The customer ordered once, so their PO may stand on both. */
    private void ofOneOrder(StoredOrder kept, String root) {
        kept.header.splitOf = stored.find(root).family();
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
                ofOneOrder(begun, root);
            }
        });
        history.note(
                context, root, "corrected", "invoice %s is rebilled with order %s".formatted(invoice, kept.number()));
        submit(context, kept);
        return view(kept.number());
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
        var kept = drafted(context, draft, writer.number(DocumentKind.ORDER));
        for (int at = 0; at < sources.size(); at++) {
            var source = sources.get(at);
            kept.change(kept.lines().get(at), line -> {
                line.sourceKind = kind;
                line.sourceNumber = number;
                line.sourceLine = source;
            });
        }
        completed.accept(kept);
        persist(kept);
        history.note(
                context,
                kept.number(),
                "started",
                "started from " + kind.toLowerCase(Locale.ROOT).replace('_', ' ') + " " + number);
        return kept;
    }

    /**
     * Makes an order from a quote, a blanket order or a recurring order; the order keeps the link line by line.
     *
     * @param submit it is submitted at once, else it stays a draft
     */
    @Transactional(propagation = Propagation.MANDATORY)
    OrderView make(
            CommandContext context,
            OrderDraft draft,
            SalesAgreement agreement,
            long agreementId,
            List<Integer> sources,
            boolean submit) {
        locks.customer(draft.customer());
        var kept = started(
                context,
                draft,
                agreement.kind().name(),
                agreement.number(),
                sources,
                begun -> begun.header.agreementId = agreementId);
        if (submit) {
            submit(context, kept);
        }
        return view(kept.number());
    }

    /** Splits an order: what stays, and the rest on an order of its own under the same PO, submitted like any other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView split(CommandContext context, String number, long version, Order stays, Order rest) {
        var whole = stored.core(stored.find(number));
        change(context, number, version, stays);
        var kept = drafted(
                context,
                new OrderDraft(
                        rest.customer(),
                        rest.po(),
                        rest.kind(),
                        rest.site(),
                        rest.orderedOn(),
                        rest.requestedOn(),
                        rest.remark(),
                        null,
                        rest.details(),
                        rest.lines().stream().map(l -> written(null, l)).toList()),
                writer.number(DocumentKind.ORDER));
        // whoever wrote the whole wrote the rest
        kept.header.writers = Records.lines(whole.everyWriter());
        ofOneOrder(kept, number);
        persist(kept);
        history.note(context, number, "split", "the rest continues as order " + kept.number());
        history.note(context, kept.number(), "split", "the rest of order " + number);
        submit(context, kept);
        return view(kept.number());
    }

    @Transactional(readOnly = true)
    public OrderView view(String number) {
        return view(stored.find(number));
    }

    /** An order as it would be, for looking at it before it is kept. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulate(CommandContext context, OrderDraft draft) {
        return drafting.build(context, draft, "(new)", masterData.customer(draft.customer()), Long.MAX_VALUE);
    }

    /** An order as a change would leave it; refused as the change would be. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulateChange(CommandContext context, String number, OrderDraft draft) {
        var kept = stored.find(number);
        return amended(context, kept, stored.core(kept), draft).order();
    }

    /** How an order that is not kept is shown. */
    public OrderView simulated(Order order) {
        return view(
                order, masterData.customer(order.customer()), rules.inForce().entry(), 0);
    }

    /** The number under which a sender's own reference was imported before. */
    @Transactional(readOnly = true)
    public Optional<String> takenIn(String customer, String reference) {
        return stored.takenIn(customer, reference);
    }

    /** An order as a draft describes it, not kept yet. */
    private StoredOrder drafted(CommandContext context, OrderDraft draft, String number) {
        oneLine(draft.po());
        var customer = masterData.customer(draft.customer());
        var order = drafting.build(context, draft, number, customer, 0);
        var header = new OrderEntity();
        header.number = number;
        header.kind = order.kind();
        header.state = OrderState.DRAFT;
        header.customerId = ids.customer(customer.code());
        header.siteId = ids.site(order.site());
        header.orderedOn = order.orderedOn();
        header.author = order.author();
        header.importReference = draft.reference();
        var kept = new StoredOrder(header, List.of());
        kept.write(order);
        return kept;
    }

    private StoredOrder persist(StoredOrder order) {
        stored.save(order);
        locks.made(order.number());
        return order;
    }

    private static void oneLine(String po) {
        if (po != null && po.chars().anyMatch(Character::isISOControl)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("po", "a text on one line"));
        }
    }

    /** Moves an order's version where a decision on it leaves no effect. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moveVersion(String number) {
        stored.moveVersion(number);
    }

    /** An order and its customer, for whoever decides on it. */
    public void lock(String number) {
        locks.customerAndOrder(number);
    }

    /** Writes a decision on orders. */
    public void write(CommandContext context, List<Effect> effects) {
        writer.write(context, effects);
    }

    /** Notes in an order's history what was decided. */
    public void note(CommandContext context, String number, String event, String sentence) {
        history.note(context, number, event, sentence);
    }

    /** Refuses unless the order is still at the version that the user saw. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void requireVersion(String number, long version) {
        stored.requireVersion(number, version);
    }

    private OrderView view(StoredOrder kept) {
        var order = stored.core(kept);
        var customer = masterData.customer(order.customer());
        var sources = new HashMap<Integer, OrderView.SourceView>();
        kept.lines().stream()
                .filter(l -> l.sourceNumber != null)
                .forEach(l ->
                        sources.put(l.lineNo, new OrderView.SourceView(l.sourceKind, l.sourceNumber, l.sourceLine)));
        var plain = view(order, customer, rules.inForce().entry(), kept.header.version);
        return sources.isEmpty() ? plain : plain.with(sources);
    }

    /** How an order is shown. */
    private static OrderView view(Order order, Customer customer, EntryRules entry, long version) {
        var totals = order.totals();
        return new OrderView(
                order.number(),
                order.kind(),
                order.state(),
                order.customer(),
                customer.name(),
                order.po(),
                order.site(),
                order.orderedOn(),
                order.requestedOn(),
                order.remark(),
                OrderView.DetailsView.of(order.details()),
                order.author(),
                order.lastEditor(),
                totals.net().amount(),
                totals.vat().amount(),
                totals.gross().amount(),
                totals.bands().stream()
                        .map(b -> new OrderView.BandView(
                                b.vat().category().name(),
                                b.vat().ratePercent(),
                                b.taxable().amount(),
                                b.tax().amount()))
                        .toList(),
                order.lines().stream()
                        .map(l -> new OrderView.LineView(
                                l.no(),
                                l.kind().name(),
                                l.item(),
                                l.description(),
                                l.quantity().value(),
                                l.price().unit(),
                                l.price().discountPercent(),
                                (l.kind() == LineKind.SUBTOTAL
                                                ? order.subtotal(l)
                                                : l.net(l.quantity(), order.currency()))
                                        .amount(),
                                l.vat().category().name(),
                                l.vat().ratePercent(),
                                l.requestedOn(),
                                l.site(),
                                l.shortage(),
                                null))
                        .toList(),
                order.state() == OrderState.DRAFT
                        ? OrderEntry.missing(order, customer.rules().po().required(), entry).stream()
                                .map(m -> new OrderView.MissingView(m.field(), m.expected()))
                                .toList()
                        : List.of(),
                version);
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
