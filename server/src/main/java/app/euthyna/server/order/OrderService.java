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
import app.euthyna.core.order.PriceList;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.PriceBreaks;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Entering, submitting and changing orders. Screen, REST and files come in here, by one road. */
@Service
@Transactional
public class OrderService {

    private final EntityManager entities;
    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final Company company;
    private final Ids ids;
    private final Numbers numbers;
    private final Locks locks;
    private final EffectWriter writer;
    private final CommittedQuantities committed;
    private final History history;
    private final CompanyRulesStore rules;
    private final PriceBreaks prices;
    private final SalesAgreementStore agreements;
    private final OrderVersions versions;
    private final Replacements replacements;

    OrderService(
            EntityManager entities,
            JdbcClient jdbc,
            MasterData masterData,
            Company company,
            Ids ids,
            Numbers numbers,
            Locks locks,
            EffectWriter writer,
            CommittedQuantities committed,
            History history,
            CompanyRulesStore rules,
            PriceBreaks prices,
            SalesAgreementStore agreements,
            OrderVersions versions,
            Replacements replacements) {
        this.replacements = replacements;
        this.versions = versions;
        this.agreements = agreements;
        this.rules = rules;
        this.prices = prices;
        this.history = history;
        this.entities = entities;
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.company = company;
        this.ids = ids;
        this.numbers = numbers;
        this.locks = locks;
        this.writer = writer;
        this.committed = committed;
    }

    /** Keeps an order as a draft, however incomplete. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView keep(CommandContext context, OrderDraft draft) {
        return view(persist(context, draft, numbers.next(DocumentKind.ORDER)));
    }

    /**
     * Writes an order and hands it in: from here on the checks hold it or clear it. The customer is locked first, so
     * that two people sending the same PO, or using up the same limit, can't both get through.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submit(CommandContext context, OrderDraft draft) {
        locks.customer(draft.customer());
        var entity = persist(context, draft, numbers.next(DocumentKind.ORDER));
        submit(context, entity);
        return view(entity);
    }

    /** Submits a draft. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submitDraft(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        var entity = seen(number, version);
        if (entity.state != OrderState.DRAFT) {
            throw new RefusedException(new DraftRefusal.AlreadySubmitted(number, entity.state));
        }
        submit(context, entity);
        return view(entity);
    }

    private void submit(CommandContext context, OrderEntity entity) {
        var order = core(entity);
        var refusals = OrderEntry.refusals(
                order,
                masterData.customer(order.customer()).rules().po().required(),
                rules.inForce().entry());
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        replaces(context, entity, order);
        entity.state = OrderState.SUBMITTED;
        entity.wantAtOnce(context.today());
        entities.flush();
        writer.write(context, List.of(new Effect.OrderSubmitted(core(entity))));
    }

    /** A replacement is part of what the customer ordered when the goods that it replaces were sent. */
    private void replaces(CommandContext context, OrderEntity entity, Order order) {
        if (order.kind() == OrderKind.REPLACEMENT) {
            var root = replacements.keep(entity.id, order);
            if (entity.splitOf == null) {
                ofOneOrder(entity, root);
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
        var entity = seen(number, version);
        var before = core(entity);
        var change = amended(context, entity, before, draft);
        var after = change.order();
        if (!change.differences().isEmpty()) {
            if (before.state() == OrderState.DRAFT) {
                entity.poTaken = before.po().equals(after.po()) ? entity.poTaken : null;
                entity.write(after);
                versions.keep(context, entity.id, change.differences());
                entities.flush();
            } else {
                replaces(context, entity, after);
                writer.write(context, List.of(new Effect.OrderChanged(before, after, change.differences())));
            }
        }
        entities.refresh(entity);
        return view(entity);
    }

    /** An order that was called off takes no more of its blanket order than is left without it. */
    private void calledOff(OrderEntity entity, Order after) {
        var agreement = Optional.ofNullable(entity.agreementId)
                .flatMap(agreements::byId)
                .filter(one -> one.kind() == SalesAgreement.Kind.BLANKET_ORDER);
        if (agreement.isEmpty()) {
            return;
        }
        var asked = new HashMap<Integer, Quantity>();
        entity.lines.stream()
                .filter(line -> line.sourceLine != null
                        && after.hasLine(line.lineNo)
                        && after.line(line.lineNo).quantity().isPositive())
                .forEach(line ->
                        asked.merge(line.sourceLine, after.line(line.lineNo).quantity(), Quantity::plus));
        var refusals = agreement.get().unfit(asked, agreements.taken(entity.agreementId, entity.number));
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
    }

    private Amendment.Change amended(CommandContext context, OrderEntity entity, Order before, OrderDraft draft) {
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
                details(draft.details(), before.details()),
                lines(draft, customer, before, entity));
        after = after.withWriters(before.writersAfter(after, context.person().username()));
        calledOff(entity, after);
        if (context.date().isBefore(context.today())) {
            RefusedException.where(Dating.before(
                    context.date(), "the version before of order " + before.number(), versions.lastOf(entity)));
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
        var entity = find(number);
        var writers = Records.lines(entity.writers);
        if (!writers.isEmpty()) {
            writers.retainAll(entity.splitOf == null ? Set.of() : authors(entity.customerId, entity.splitOf));
            entity.writers = Records.lines(writers);
            entities.flush();
        }
    }

    private Set<String> authors(long customer, long family) {
        return entities.createQuery(
                        "select o.author from OrderEntity o where o.customerId = :customer"
                                + " and (o.id = :family or o.splitOf = :family)",
                        String.class)
                .setParameter("customer", customer)
                .setParameter("family", family)
                .getResultStream()
                .collect(Collectors.toSet());
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

    private record Source(String customer, String po, String kind, LocalDate on) {}

    private record SourceLine(
            String item,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            int line,
            LineKind kind,
            String text) {}

    /**
     * Starts a draft from the lines of an earlier order, dispatch, invoice, quote, blanket or recurring order; for the
     * same customer its PO comes along, to be met again. From a return it is a replacement at no charge, part of what
     * the customer ordered under that PO.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView startFrom(CommandContext context, String kind, String number, String customer) {
        var source = jdbc.sql(
                        switch (kind) {
                            case "ORDER" ->
                                "select c.code, o.po, o.kind, o.ordered_on from sales_order o join customer c on c.id ="
                                        + " o.customer_id where o.number = ?";
                            case "DISPATCH" ->
                                "select c.code, o.po, o.kind, coalesce(d.departed_on, d.staged_on) from dispatch d"
                                        + " join sales_order o on o.id = d.order_id"
                                        + " join customer c on c.id = o.customer_id where d.number = ?";
                            case "RETURN" ->
                                "select c.code, (select min(o.po) from return_line l join sales_order o on o.id ="
                                        + " l.root_order_id where l.return_id = g.id), 'REPLACEMENT', g.authorised_on from goods_return g"
                                        + " join customer c on c.id = g.customer_id where g.number = ?";
                            case "QUOTE", "BLANKET_ORDER", "RECURRING_ORDER" ->
                                "select c.code, q.po, 'STANDARD', q.written_on from sales_agreement q join customer c on c.id ="
                                        + " q.customer_id where q.number = ?";
                            default ->
                                "select c.code, (select min(o.po) from invoice_line l join sales_order o on o.id ="
                                        + " l.root_order_id where l.invoice_id = i.id), 'STANDARD', i.invoiced_on from invoice i join"
                                        + " customer c on c.id = i.customer_id where i.number = ?";
                        })
                .param(number)
                .query((r, n) ->
                        new Source(r.getString(1), r.getString(2), r.getString(3), r.getObject(4, LocalDate.class)))
                .optional()
                .orElseThrow(() -> new RefusedException(
                        new CommonRefusal.NotFound(kind.toLowerCase(Locale.ROOT).replace('_', ' '), number)));
        RefusedException.where(Dating.before(
                context.date(), kind.toLowerCase(Locale.ROOT).replace('_', ' ') + " " + number, source.on()));
        var lines = jdbc.sql(
                        switch (kind) {
                            case "ORDER" ->
                                "select l.item_code, l.quantity, l.unit_price, l.discount_percent, l.line_no, l.kind,"
                                        + " l.description from sales_order_line l join sales_order o on o.id = l.order_id"
                                        + " where o.number = ? and l.removed = false order by l.line_no";
                            case "DISPATCH" ->
                                "select s.item_code, l.quantity, s.unit_price, s.discount_percent, l.line_no, s.kind,"
                                        + " s.description from dispatch_line l join dispatch d on d.id = l.dispatch_id"
                                        + " join sales_order_line s on s.order_id = l.root_order_id and s.line_no ="
                                        + " l.order_line_no where d.number = ? order by l.line_no";
                            case "RETURN" ->
                                "select s.item_code, coalesce((select sum(p.quantity) - coalesce(sum((select"
                                        + " sum(x.quantity) from return_outcome x where x.part_id = p.id and x.kind ="
                                        + " 'SEND_BACK')), 0) from return_part p where p.return_line_id = l.id having"
                                        + " sum(p.quantity) > 0), l.authorised), 0, 0, l.line_no, s.kind, s.description"
                                        + " from return_line l join goods_return g on g.id = l.return_id join"
                                        + " sales_order_line s on s.order_id = l.root_order_id and s.line_no ="
                                        + " l.order_line_no where g.number = ? order by l.line_no";
                            case "QUOTE", "BLANKET_ORDER", "RECURRING_ORDER" ->
                                "select l.item_code, l.quantity, l.unit_price, l.discount_percent, l.line_no, 'STOCK',"
                                        + " l.description from sales_agreement_line l join sales_agreement q on q.id = l.agreement_id where"
                                        + " q.number = ? order by l.line_no";
                            default ->
                                "select l.item_code, l.quantity, l.unit_price, l.discount_percent, l.line_no, 'STOCK',"
                                        + " l.description from invoice_line l join invoice i on i.id = l.invoice_id where"
                                        + " i.number = ? order by l.line_no";
                        })
                .param(number)
                .query((r, n) -> new SourceLine(
                        r.getString(1),
                        r.getBigDecimal(2),
                        r.getBigDecimal(3),
                        r.getBigDecimal(4),
                        r.getInt(5),
                        LineKind.valueOf(r.getString(6)),
                        r.getString(7)))
                .list();
        var same = customer == null || customer.isBlank() || customer.equals(source.customer());
        var draft = new OrderDraft(
                same ? source.customer() : customer,
                same ? source.po() : "",
                OrderKind.valueOf(source.kind()),
                null,
                null,
                null,
                "",
                null,
                kind.equals("RETURN") ? new Details("", null, ShipTo.CUSTOMER, Map.of(), number) : null,
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
        var entity = started(
                context,
                draft,
                kind,
                number,
                lines.stream().map(SourceLine::line).toList());
        if (kind.equals("RETURN")) {
            var root = replacements.firstOrder(new DocumentRef(DocumentKind.RETURN, number));
            ofOneOrder(entity, root);
            history.note(
                    context,
                    root,
                    "replaced",
                    "replacement order %s was started from return %s".formatted(entity.number, number));
        }
        return view(entity);
    }

    /** The customer ordered once, so their PO may stand on both. */
    private void ofOneOrder(OrderEntity entity, String root) {
        var first = find(root);
        entity.splitOf = first.splitOf == null ? first.id : first.splitOf;
        entities.flush();
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
        var entity = started(context, draft, "INVOICE", invoice, sources);
        entity.lines.stream().filter(line -> line.kind == LineKind.STOCK).forEach(line -> line.kind = LineKind.SERVICE);
        entities.flush();
        if (find(root).customerId.equals(entity.customerId)) {
            ofOneOrder(entity, root);
        }
        history.note(
                context, root, "corrected", "invoice %s is rebilled with order %s".formatted(invoice, entity.number));
        submit(context, entity);
        return view(entity);
    }

    private OrderEntity started(
            CommandContext context, OrderDraft draft, String kind, String number, List<Integer> sources) {
        var entity = persist(context, draft, numbers.next(DocumentKind.ORDER));
        for (int at = 0; at < sources.size(); at++) {
            var line = entity.lines.get(at);
            line.sourceKind = kind;
            line.sourceNumber = number;
            line.sourceLine = sources.get(at);
        }
        entities.flush();
        history.note(
                context,
                entity.number,
                "started",
                "started from " + kind.toLowerCase(Locale.ROOT).replace('_', ' ') + " " + number);
        return entity;
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
        var entity = started(context, draft, agreement.kind().name(), agreement.number(), sources);
        entity.agreementId = agreementId;
        entities.flush();
        if (submit) {
            submit(context, entity);
        }
        return view(entity);
    }

    /** Splits an order: what stays, and the rest on an order of its own under the same PO, submitted like any other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView split(CommandContext context, String number, long version, Order stays, Order rest) {
        var whole = core(find(number));
        change(context, number, version, stays);
        var first = find(number);
        var entity = persist(
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
                numbers.next(DocumentKind.ORDER));
        entity.splitOf = first.splitOf == null ? first.id : first.splitOf;
        // whoever wrote the whole wrote the rest
        entity.writers = Records.lines(whole.everyWriter());
        entities.flush();
        history.note(context, number, "split", "the rest continues as order " + entity.number);
        history.note(context, entity.number, "split", "the rest of order " + number);
        submit(context, entity);
        return view(entity);
    }

    @Transactional(readOnly = true)
    public OrderView view(String number) {
        return view(find(number));
    }

    /** An order as it would be, for looking at it before it is kept. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulate(CommandContext context, OrderDraft draft) {
        return build(context, draft, "(new)", masterData.customer(draft.customer()), Long.MAX_VALUE);
    }

    /** An order as a change would leave it; refused as the change would be. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulateChange(CommandContext context, String number, OrderDraft draft) {
        var entity = find(number);
        return amended(context, entity, core(entity), draft).order();
    }

    /** How an order that is not kept is shown. */
    public OrderView simulated(Order order) {
        return view(
                order, masterData.customer(order.customer()), rules.inForce().entry(), 0);
    }

    /** The number under which a sender's own reference was imported before. */
    @Transactional(readOnly = true)
    public Optional<String> takenIn(String customer, String reference) {
        return jdbc.sql("select o.number from sales_order o join customer c on c.id = o.customer_id where c.code = ?"
                        + " and o.import_reference = ?")
                .params(customer, reference)
                .query(String.class)
                .optional();
    }

    private OrderEntity persist(CommandContext context, OrderDraft draft, String number) {
        oneLine(draft.po());
        var customer = masterData.customer(draft.customer());
        var order = build(context, draft, number, customer, 0);
        var entity = new OrderEntity();
        entity.number = number;
        entity.kind = order.kind();
        entity.state = OrderState.DRAFT;
        entity.customerId = ids.customer(customer.code());
        entity.siteId = ids.site(order.site());
        entity.orderedOn = order.orderedOn();
        entity.author = order.author();
        entity.importReference = draft.reference();
        entity.write(order);
        entities.persist(entity);
        entities.flush();
        locks.made(number);
        return entity;
    }

    private Order build(CommandContext context, OrderDraft draft, String number, Customer customer, long sequence) {
        var orderedOn = or(draft.orderedOn(), context.date());
        var requestedOn = or(draft.requestedOn(), context.today());
        var header = new Order(
                number,
                sequence,
                or(draft.kind(), OrderKind.STANDARD),
                OrderState.DRAFT,
                customer.code(),
                or(draft.po(), "").strip(),
                or(draft.site(), masterData.defaultSite()),
                orderedOn,
                requestedOn,
                or(draft.remark(), ""),
                context.person().username(),
                context.person().username(),
                Set.of(),
                company.currency(),
                details(
                        draft.details(),
                        new Details("", rules.inForce().entry().standardUnit(), ShipTo.CUSTOMER, Map.of(), "")),
                List.of());
        return header.withLines(lines(draft, customer, header, null));
    }

    /**
     * Details as they are written, completed from those there are; refused where the company does not know a field or
     * its value.
     */
    private Details details(Details written, Details otherwise) {
        if (written == null) {
            return otherwise;
        }
        var fields = new HashMap<>(written.fields());
        fields.values().removeIf(String::isEmpty);
        var details = new Details(
                written.externalReference().strip(),
                or(written.revenueUnit(), otherwise.revenueUnit()),
                written.shipTo(),
                fields,
                written.replaces());
        var bad = rules.inForce().entry().bad(details);
        if (!bad.isEmpty() && !details.equals(otherwise)) {
            throw new RefusedException(new CommonRefusal.Incomplete(bad));
        }
        return details;
    }

    /**
     * Lines as they are written, completed from the items; lines that exist keep their price and VAT unless the draft
     * says otherwise.
     */
    private List<OrderLine> lines(OrderDraft draft, Customer customer, Order header, OrderEntity existing) {
        var items = masterData.items(draft.lines().stream()
                .map(OrderDraft.Line::item)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet()));
        var breaks = prices.of(items.keySet(), customer.code());
        var next = existing == null
                ? 1
                : existing.lines.stream().mapToInt(line -> line.lineNo).max().orElse(0) + 1;
        var refusals = new ArrayList<Refusal>();
        var lines = new ArrayList<OrderLine>();
        for (var written : draft.lines()) {
            var no = written.no() == null ? next++ : written.no();
            var before = header.hasLine(no) ? header.line(no) : null;
            if (written.no() != null && before == null && existing != null) {
                refusals.add(new CommonRefusal.NotFound("line", written.no() + " on order " + header.number()));
                continue;
            }
            if (written.isWithoutItem()) {
                lines.add(new OrderLine(
                        no,
                        written.kind(),
                        "",
                        or(written.text(), before == null ? "" : before.description()),
                        Quantity.ZERO,
                        new Price(BigDecimal.ZERO, BigDecimal.ZERO),
                        Vat.of(Vat.Category.Z, "0"),
                        header.requestedOn(),
                        "",
                        Shortage.WAIT));
                continue;
            }
            var code = written.item() == null && before != null ? before.item() : written.item();
            var item = before != null && before.item().equals(code) ? null : items.get(code);
            if (code == null || code.isBlank()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + no + "].item", "the code of an item"));
                continue;
            }
            if (item == null && (before == null || !before.item().equals(code))) {
                refusals.add(new CommonRefusal.NotFound("item", code));
                continue;
            }
            if (written.site() != null && !written.site().isEmpty() && !masterData.hasSite(written.site())) {
                refusals.add(new CommonRefusal.NotFound("store", written.site()));
                continue;
            }
            line(no, written, before, item, breaks.getOrDefault(code, List.of()), customer, header, refusals)
                    .ifPresent(lines::add);
        }
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        return lines;
    }

    private static Optional<OrderLine> line(
            int no,
            OrderDraft.Line written,
            OrderLine before,
            Item item,
            List<PriceList.Break> breaks,
            Customer customer,
            Order header,
            List<Refusal> refusals) {
        var where = "lines[" + no + "].";
        var quantity = or(
                written.quantity(),
                before == null ? BigDecimal.ZERO : before.quantity().value());
        var price = or(
                written.price(),
                item == null
                        ? before.price().unit()
                        : PriceList.price(
                                item.price(),
                                breaks,
                                customer.code(),
                                new Quantity(
                                        quantity.max(BigDecimal.ZERO).setScale(Quantity.DECIMALS, RoundingMode.DOWN))));
        var discount = or(written.discount(), item == null ? before.price().discountPercent() : BigDecimal.ZERO);
        var failures = refusals.size();
        if (quantity.signum() < 0
                || decimals(quantity) > Quantity.DECIMALS
                || quantity.precision() - quantity.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "quantity", "zero or more, with at most 3 decimals"));
        }
        if (price.signum() < 0 || decimals(price) > Price.DECIMALS || price.precision() - price.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "price", "zero or more, with at most 4 decimals"));
        }
        if (discount.signum() < 0
                || discount.compareTo(BigDecimal.valueOf(100)) > 0
                || decimals(discount) > Price.DECIMALS) {
            refusals.add(CommonRefusal.Incomplete.of(where + "discount", "a percentage between 0 and 100"));
        }
        if (refusals.size() > failures) {
            return Optional.empty();
        }
        var terms = new Price(price, discount);
        var wanted = or(written.requestedOn(), before == null ? header.requestedOn() : before.requestedOn());
        var site = or(written.site(), before == null ? "" : before.site());
        var from = site.equals(header.site()) ? "" : site;
        var shortage = or(written.shortage(), before == null ? Shortage.WAIT : before.shortage());
        return Optional.of(
                item == null
                        ? new OrderLine(
                                no,
                                before.kind(),
                                before.item(),
                                before.description(),
                                new Quantity(quantity),
                                terms,
                                before.vat(),
                                wanted,
                                from,
                                shortage)
                        : new OrderLine(
                                no,
                                item.kind(),
                                item.code(),
                                item.name(),
                                new Quantity(quantity),
                                terms,
                                item.kind() == LineKind.TEXT
                                        ? item.vat()
                                        : customer.vatTreatment().apply(item.vat()),
                                wanted,
                                from,
                                shortage));
    }

    private static void oneLine(String po) {
        if (po != null && po.chars().anyMatch(Character::isISOControl)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("po", "a text on one line"));
        }
    }

    private static int decimals(BigDecimal value) {
        return Math.max(0, value.stripTrailingZeros().scale());
    }

    OrderEntity find(String number) {
        return entities.createQuery("select o from OrderEntity o where o.number = :number", OrderEntity.class)
                .setParameter("number", number)
                .getResultStream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", number)));
    }

    private OrderEntity seen(String number, long version) {
        var entity = find(number);
        entities.refresh(entity);
        if (entity.version.longValue() != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Order " + number, version, entity.version));
        }
        return entity;
    }

    /** Moves an order's version where a decision on it leaves no effect. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moveVersion(String number) {
        entities.lock(find(number), LockModeType.OPTIMISTIC_FORCE_INCREMENT);
        entities.flush();
    }

    /** Refuses unless the order is still at the version that the user saw. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void requireVersion(String number, long version) {
        seen(number, version);
    }

    private Order core(OrderEntity entity) {
        var codes = jdbc.sql("select c.code, s.code from customer c, site s where c.id = ? and s.id = ?")
                .params(entity.customerId, entity.siteId)
                .query((r, n) -> Map.entry(r.getString(1), r.getString(2)))
                .single();
        return entity.toCore(codes.getKey(), codes.getValue(), company.currency());
    }

    private OrderView view(OrderEntity entity) {
        var order = core(entity);
        var customer = masterData.customer(order.customer());
        var sources = new HashMap<Integer, OrderView.SourceView>();
        entity.lines.stream()
                .filter(l -> l.sourceNumber != null)
                .forEach(l ->
                        sources.put(l.lineNo, new OrderView.SourceView(l.sourceKind, l.sourceNumber, l.sourceLine)));
        var plain = view(order, customer, rules.inForce().entry(), entity.version);
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
