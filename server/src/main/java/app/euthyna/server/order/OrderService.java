package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Amendment;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderEntry;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writing, handing in and changing orders. Screen, REST and files come in here, by one road. */
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

    OrderService(EntityManager entities, JdbcClient jdbc, MasterData masterData, Company company, Ids ids, Numbers numbers,
            Locks locks, EffectWriter writer, CommittedQuantities committed) {
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
     * Writes an order and hands it in: from here on the checks hold it or clear it. The customer is locked first, so that two people
     * sending the same PO, or using up the same limit, can't both get through.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submit(CommandContext context, OrderDraft draft) {
        locks.customer(draft.customer());
        var entity = persist(context, draft, numbers.next(DocumentKind.ORDER));
        handIn(context, entity);
        return view(entity);
    }

    /** Hands in a draft. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submitDraft(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        var entity = seen(number, version);
        if (entity.state != OrderState.DRAFT) {
            throw new RefusedException(new DraftRefusal.HandedInAlready(number, entity.state));
        }
        handIn(context, entity);
        return view(entity);
    }

    private void handIn(CommandContext context, OrderEntity entity) {
        var order = core(entity);
        var refusals = OrderEntry.refusals(order, masterData.customer(order.customer()).rules().po().required());
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        entity.state = OrderState.SUBMITTED;
        entities.flush();
        writer.write(context, List.of(new Effect.OrderSubmitted(core(entity))));
    }

    /** Changes the content of an order; what is null in the draft's header stays as it is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView amend(CommandContext context, String number, long version, OrderDraft draft) {
        oneLine(draft.po());
        locks.customerAndOrder(number);
        var entity = seen(number, version);
        var before = core(entity);
        var customer = masterData.customer(before.customer());
        var after = new Order(before.number(), before.sequence(), before.kind(), before.state(), before.customer(),
                or(draft.po(), before.po()).strip(), before.site(), before.orderedOn(), or(draft.requestedOn(), before.requestedOn()),
                or(draft.remark(), before.remark()), before.author(), context.person().username(), before.currency(),
                lines(draft, customer, before, entity));
        var change = RefusedException.unless(Amendment.decide(before, after, committed.of(number), customer.rules().po().required()));
        if (!change.differences().isEmpty()) {
            if (before.state() == OrderState.DRAFT) {
                entity.poTaken = before.po().equals(after.po()) ? entity.poTaken : null;
                entity.write(after);
                entities.flush();
            } else {
                writer.write(context, List.of(new Effect.OrderChanged(before, after, change.differences())));
            }
        }
        entities.refresh(entity);
        return view(entity);
    }

    @Transactional(readOnly = true)
    public OrderView view(String number) {
        return view(find(number));
    }

    /** An order as it would be, for looking at it before it is kept. Nothing is written. */
    @Transactional(readOnly = true)
    public Order imagine(CommandContext context, OrderDraft draft) {
        return build(context, draft, "(new)", masterData.customer(draft.customer()), Long.MAX_VALUE);
    }

    /** The number under which a sender's own reference was taken in before. */
    @Transactional(readOnly = true)
    public Optional<String> takenIn(String customer, String reference) {
        return jdbc.sql("select o.number from sales_order o join customer c on c.id = o.customer_id where c.code = ? and o.intake_reference = ?")
                .params(customer, reference).query(String.class).optional();
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
        entity.intakeReference = draft.reference();
        entity.write(order);
        entities.persist(entity);
        entities.flush();
        return entity;
    }

    private Order build(CommandContext context, OrderDraft draft, String number, Customer customer, long sequence) {
        var orderedOn = or(draft.orderedOn(), context.date());
        var requestedOn = or(draft.requestedOn(), orderedOn);
        var header = new Order(number, sequence, or(draft.kind(), OrderKind.STANDARD), OrderState.DRAFT, customer.code(),
                or(draft.po(), "").strip(), or(draft.site(), masterData.defaultSite()), orderedOn, requestedOn, or(draft.remark(), ""),
                context.person().username(), context.person().username(), company.currency(), List.of());
        return header.withLines(lines(draft, customer, header, null));
    }

    /** Lines as they are written, completed from the items; lines that exist keep their price and VAT unless the draft says otherwise. */
    private List<OrderLine> lines(OrderDraft draft, Customer customer, Order header, OrderEntity existing) {
        var items = masterData.items(draft.lines().stream().map(OrderDraft.Line::item).filter(Objects::nonNull)
                .collect(Collectors.toSet()));
        var next = existing == null ? 1 : existing.lines.stream().mapToInt(line -> line.lineNo).max().orElse(0) + 1;
        var refusals = new ArrayList<Refusal>();
        var lines = new ArrayList<OrderLine>();
        for (var written : draft.lines()) {
            var no = written.no() == null ? next++ : written.no();
            var before = header.hasLine(no) ? header.line(no) : null;
            if (written.no() != null && before == null && existing != null) {
                refusals.add(new CommonRefusal.NotFound("line", written.no() + " on order " + header.number()));
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
            line(no, written, before, item, customer, header.requestedOn(), refusals).ifPresent(lines::add);
        }
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        return lines;
    }

    private static Optional<OrderLine> line(int no, OrderDraft.Line written, OrderLine before, Item item, Customer customer,
            LocalDate requestedOn, List<Refusal> refusals) {
        var where = "lines[" + no + "].";
        var quantity = or(written.quantity(), before == null ? BigDecimal.ZERO : before.quantity().value());
        var price = or(written.price(), item == null ? before.price().unit() : item.price());
        var discount = or(written.discount(), item == null ? before.price().discountPercent() : BigDecimal.ZERO);
        var failures = refusals.size();
        if (quantity.signum() < 0 || decimals(quantity) > Quantity.DECIMALS || quantity.precision() - quantity.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "quantity", "zero or more, with at most 3 decimals"));
        }
        if (price.signum() < 0 || decimals(price) > Price.DECIMALS || price.precision() - price.scale() > 12) {
            refusals.add(CommonRefusal.Incomplete.of(where + "price", "zero or more, with at most 4 decimals"));
        }
        if (discount.signum() < 0 || discount.compareTo(BigDecimal.valueOf(100)) > 0 || decimals(discount) > Price.DECIMALS) {
            refusals.add(CommonRefusal.Incomplete.of(where + "discount", "per cent between 0 and 100"));
        }
        if (refusals.size() > failures) {
            return Optional.empty();
        }
        var terms = new Price(price, discount);
        var wanted = or(written.requestedOn(), before == null ? requestedOn : before.requestedOn());
        return Optional.of(item == null
                ? new OrderLine(no, before.kind(), before.item(), before.description(), new Quantity(quantity), terms, before.vat(), wanted)
                : new OrderLine(no, item.kind(), item.code(), item.name(), new Quantity(quantity), terms,
                        item.kind() == LineKind.TEXT ? item.vat() : customer.vatTreatment().apply(item.vat()), wanted));
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
                .setParameter("number", number).getResultStream().findFirst()
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
                .params(entity.customerId, entity.siteId).query((r, n) -> Map.entry(r.getString(1), r.getString(2))).single();
        return entity.toCore(codes.getKey(), codes.getValue(), company.currency());
    }

    private OrderView view(OrderEntity entity) {
        var order = core(entity);
        var customer = masterData.customer(order.customer());
        return view(order, customer, entity.version);
    }

    /** How an order is shown. */
    public static OrderView view(Order order, Customer customer, long version) {
        var totals = order.totals();
        return new OrderView(order.number(), order.kind(), order.state(), order.customer(), customer.name(), order.po(), order.site(),
                order.orderedOn(), order.requestedOn(), order.remark(), order.author(), order.lastEditor(), totals.net().amount(),
                totals.vat().amount(), totals.gross().amount(),
                totals.bands().stream().map(b -> new OrderView.BandView(b.vat().category().name(), b.vat().ratePercent(),
                        b.taxable().amount(), b.tax().amount())).toList(),
                order.lines().stream().map(l -> new OrderView.LineView(l.no(), l.kind().name(), l.item(), l.description(),
                        l.quantity().value(), l.price().unit(), l.price().discountPercent(),
                        l.net(l.quantity(), order.currency()).amount(), l.vat().category().name(), l.vat().ratePercent(),
                        l.requestedOn())).toList(),
                order.state() == OrderState.DRAFT ? OrderEntry.missing(order, customer.rules().po().required()).stream()
                        .map(m -> new OrderView.MissingView(m.field(), m.expected())).toList() : List.of(),
                version);
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
