package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.flow.Return;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Numbers;
import jakarta.persistence.EntityManager;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Keeps shelves, the queue for stock and dispatch notes; offers stock that is free to whoever waits for it. */
@Component
@org.springframework.core.annotation.Order(40)
class GoodsSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.StockReserved.class, Store::stockReserved)
            .on(Effect.ReservationReleased.class, Store::reservationReleased)
            .on(Effect.DispatchStaged.class, Store::dispatchStaged)
            .on(Effect.DispatchVoided.class, Store::dispatchVoided)
            .on(Effect.DispatchDeparted.class, Store::dispatchDeparted)
            .on(Effect.DispatchReversed.class, Store::dispatchReversed)
            .on(Effect.ReturnInspected.class, Store::returnInspected)
            .on(Effect.StockReceived.class, Store::stockReceived)
            .on(Effect.ReservationTransferred.class, Store::reservationTransferred)
            .on(Effect.StockCounted.class, Store::stockCounted)
            .othersDoNotConcernIt();

    private final EntityManager entities;
    private final JdbcClient jdbc;
    private final Shelves shelves;
    private final WaitingLines waiting;
    private final StockOffers offers;
    private final ChainReader chains;
    private final Ids ids;
    private final Numbers numbers;
    private final DocumentDetails details;
    private final History history;

    GoodsSink(
            EntityManager entities,
            JdbcClient jdbc,
            Shelves shelves,
            ChainReader chains,
            Ids ids,
            Numbers numbers,
            DocumentDetails details,
            History history,
            WaitingLines waiting,
            StockOffers offers) {
        this.waiting = waiting;
        this.offers = offers;
        this.history = history;
        this.details = details;
        this.numbers = numbers;
        this.entities = entities;
        this.jdbc = jdbc;
        this.shelves = shelves;
        this.chains = chains;
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

        private void stockReserved(Effect.StockReserved effect) {
            shelves.change(effect.site(), effect.item(), shelf -> shelf.reserve(effect.quantity()));
            claim(effect.orderLine(), effect.quantity());
            jdbc.sql("update stock_claim set waiting = waiting - ?, waits = waiting > ? where order_id = ? and"
                            + " line_no = ?")
                    .params(
                            effect.quantity().value(),
                            effect.quantity().value(),
                            ids.order(effect.orderLine().number()),
                            effect.orderLine().line())
                    .update();
        }

        private void reservationReleased(Effect.ReservationReleased effect) {
            shelves.change(effect.site(), effect.item(), shelf -> shelf.release(effect.quantity()));
            claim(effect.orderLine(), effect.quantity().negated());
        }

        private void dispatchStaged(Effect.DispatchStaged effect) {
            var dispatch = effect.dispatch();
            var entity = new DispatchEntity();
            entity.number = dispatch.number();
            entity.orderId = ids.order(dispatch.order());
            entity.siteId = ids.site(dispatch.site());
            entity.state = Dispatch.State.STAGED;
            entity.stagedOn = dispatch.date();
            dispatch.lines().forEach(line -> entity.lines.add(line(entity.orderId, line)));
            entities.persist(entity);
            details.carry("DISPATCH", dispatch.number(), List.of(entity.orderId));
            dispatch.lines()
                    .forEach(line -> claim(
                            new LineRef(dispatch.order(), line.orderLine()),
                            line.quantity().negated()));
        }

        private void dispatchVoided(Effect.DispatchVoided effect) {
            find(effect.dispatch()).state = Dispatch.State.VOIDED;
            effect.dispatch()
                    .lines()
                    .forEach(line -> claim(new LineRef(effect.dispatch().order(), line.orderLine()), line.quantity()));
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            var dispatch = effect.dispatch();
            var entity = find(dispatch);
            entity.state = Dispatch.State.DEPARTED;
            entity.departedOn = dispatch.date();
            entity.lines.clear();
            entities.flush();
            for (var line : dispatch.lines()) {
                entity.lines.add(line(entity.orderId, line));
                shelves.change(dispatch.site(), line.item(), shelf -> shelf.issue(line.quantity(), line.cost()));
                move(
                        dispatch.site(),
                        line.item(),
                        line.quantity().negated(),
                        line.cost().negated(),
                        DocumentKind.DISPATCH,
                        dispatch.number(),
                        dispatch.date());
            }
        }

        private DispatchEntity.Line line(Long order, Dispatch.Line line) {
            return new DispatchEntity.Line(
                    order,
                    line.orderLine(),
                    line.no(),
                    ids.item(line.item()),
                    line.quantity().value(),
                    line.cost().amount());
        }

        private DispatchEntity find(Dispatch dispatch) {
            return entities.createQuery("select d from DispatchEntity d where d.number = :number", DispatchEntity.class)
                    .setParameter("number", dispatch.number())
                    .getSingleResult();
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            var dispatch = effect.dispatch();
            var entity = find(dispatch);
            entity.state = Dispatch.State.REVERSED;
            entity.reversedOn = context.date();
            entity.reversedMoment = history.moment();
            for (var line : dispatch.lines()) {
                shelves.change(dispatch.site(), line.item(), shelf -> shelf.receive(line.quantity(), line.cost()));
                move(
                        dispatch.site(),
                        line.item(),
                        line.quantity(),
                        line.cost(),
                        DocumentKind.DISPATCH,
                        dispatch.number(),
                        context.date());
            }
            for (var line : effect.reserved()) {
                shelves.change(dispatch.site(), line.item(), shelf -> shelf.reserve(line.quantity()));
                claim(new LineRef(dispatch.order(), line.orderLine()), line.quantity());
            }
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            for (var result : effect.results()) {
                var outcome = result.outcome();
                if (outcome.kind() == Return.Outcome.Kind.RESTOCK) {
                    var item = effect.before().line(result.line()).item();
                    shelves.change(outcome.site(), item, shelf -> shelf.receive(outcome.quantity(), outcome.cost()));
                    move(
                            outcome.site(),
                            item,
                            outcome.quantity(),
                            outcome.cost(),
                            DocumentKind.RETURN,
                            effect.before().number(),
                            outcome.on());
                }
            }
        }

        private void stockReceived(Effect.StockReceived effect) {
            shelves.change(effect.site(), effect.item(), shelf -> shelf.receive(effect.quantity(), effect.value()));
            move(
                    effect.site(),
                    effect.item(),
                    effect.quantity(),
                    effect.value(),
                    DocumentKind.STOCK_RECEIPT,
                    effect.receipt(),
                    context.date());
        }

        private void reservationTransferred(Effect.ReservationTransferred effect) {
            claim(effect.from(), effect.quantity().negated());
            claim(effect.to(), effect.quantity());
        }

        private void stockCounted(Effect.StockCounted effect) {
            var shelf = shelves.lock(effect.site(), effect.item());
            shelves.change(effect.site(), effect.item(), before -> before.correct(effect.quantity(), effect.value()));
            move(
                    effect.site(),
                    effect.item(),
                    effect.quantity(),
                    effect.value(),
                    DocumentKind.STOCK_COUNT,
                    effect.correction(),
                    context.date());
            jdbc.sql("""
                insert into stock_count (number, item_id, site_id, counted, quantity, stock_value, counted_on,
                    reason)
                values (?, ?, ?, ?, ?, ?, ?, ?)\
                """)
                    .params(
                            effect.correction(),
                            ids.item(effect.item()),
                            ids.site(effect.site()),
                            shelf.onHand().plus(effect.quantity()).value(),
                            effect.quantity().value(),
                            effect.value().amount(),
                            context.date(),
                            context.reason())
                    .update();
        }

        private void claim(LineRef line, Quantity reserved) {
            jdbc.sql("update stock_claim set reserved = reserved + ? where order_id = ? and line_no = ?")
                    .params(reserved.value(), ids.order(line.number()), line.line())
                    .update();
        }

        private void move(
                String site,
                String item,
                Quantity quantity,
                Money value,
                DocumentKind kind,
                String number,
                LocalDate on) {
            jdbc.sql("""
                insert into stock_movement (item_id, site_id, quantity, stock_value, document_kind, document_number,
                    moved_on)
                values (?, ?, ?, ?, ?, ?, ?)\
                """)
                    .params(ids.item(item), ids.site(site), quantity.value(), value.amount(), kind.name(), number, on)
                    .update();
        }
    }

    /** A changed order is checked first: if that holds it, it takes no more stock. See {@link OfferAfterChange}. */
    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        offer(
                context,
                batch.stream()
                        .filter(effect -> !(effect instanceof Effect.OrderChanged))
                        .toList(),
                further);
    }

    /**
     * The lines of orders concerned take their place in the queue anew; then free stock is offered on their shelves.
     */
    void offer(CommandContext context, List<Effect> batch, Further further) {
        var concerned = new TreeSet<Place>();
        var releases = new ArrayList<Effect>();
        var dropping = new LinkedHashSet<String>();
        for (var effect : batch) {
            if (effect instanceof Effect.StockReceived received) {
                concerned.add(place(received.item(), received.site()));
            }
            if (effect instanceof Effect.StockCounted corrected) {
                concerned.add(place(corrected.item(), corrected.site()));
            }
            if (effect instanceof Effect.ReturnInspected inspected) {
                inspected.results().stream()
                        .filter(j -> j.outcome().kind() == Return.Outcome.Kind.RESTOCK)
                        .forEach(j -> concerned.add(place(
                                inspected.before().line(j.line()).item(),
                                j.outcome().site())));
            }
            if (effect instanceof Effect.DispatchReversed reversed) {
                reversed.dispatch()
                        .lines()
                        .forEach(line -> concerned.add(
                                place(line.item(), reversed.dispatch().site())));
            }
            if (!(effect instanceof Effect.StockReserved)) {
                var clears = effect instanceof Effect.OrderChanged
                        || (effect instanceof Effect.StateChanged changed && changed.to() == OrderState.CLEARED);
                for (var number : effect.orders()) {
                    var order = queue(number, concerned, releases);
                    if (clears && order.lines().stream().anyMatch(line -> line.shortage() == Shortage.DROP)) {
                        dropping.add(number);
                    }
                }
            }
        }
        further.write(context, releases);
        concerned.forEach(place -> serve(context, place, further));
        dropping.forEach(number -> drop(context, number, further));
    }

    /** What a cleared order is short of and was not to wait for is given up. */
    private void drop(CommandContext context, String number, Further further) {
        Reserving.dropped(chains.chain(number), () -> numbers.next(DocumentKind.CANCELLATION), context.date())
                .ifPresent(cancellation -> further.write(context, List.of(new Effect.QuantityCancelled(cancellation))));
    }

    /**
     * Serves the queue from its head until nothing is free or nobody waits; its length does not matter. Where the next
     * belongs to a customer that nobody has locked, the rest is handed out after the command.
     */
    private void serve(CommandContext context, Place place, Further further) {
        while (true) {
            var head = waiting.head(place);
            if (head.isEmpty()) {
                return;
            }
            var theirs = waiting.ofLocked(head);
            if (theirs.isEmpty()) {
                if (waiting.isFree(place)) {
                    offers.queue(context, place);
                }
                return;
            }
            var served = Reserving.offer(shelves.lock(place), theirs);
            if (served.isEmpty()) {
                return;
            }
            further.write(context, served);
        }
    }

    private Place place(String item, String site) {
        return new Place(ids.item(item), ids.site(site));
    }

    private record Row(int line, String item, String site, BigDecimal reserved) {}

    /** The order whose lines took their place. */
    private Order queue(String number, Set<Place> concerned, List<Effect> releases) {
        var chain = chains.chain(number);
        var order = chain.order();
        var id = ids.order(number);
        var rows = jdbc.sql("""
            select c.line_no, i.code, s.code, c.reserved from stock_claim c join item i on i.id = c.item_id
            join site s on s.id = c.site_id
            where c.order_id = ?\
            """)
                .param(id)
                .query((r, n) -> new Row(r.getInt(1), r.getString(2), r.getString(3), r.getBigDecimal(4)))
                .list();
        for (var row : rows) {
            var reserved = new Quantity(row.reserved());
            var flow = order.hasLine(row.line()) && isOf(order, row) ? chain.flow(row.line()) : null;
            var needed = flow == null
                    ? Quantity.ZERO
                    : flow.toShip().minus(flow.staged()).max(Quantity.ZERO);
            if (reserved.exceeds(needed)) {
                releases.add(new Effect.ReservationReleased(
                        new LineRef(number, row.line()), row.site(), row.item(), reserved.minus(needed)));
            }
            concerned.add(place(row.item(), row.site()));
        }
        if (order.state() == OrderState.CLEARED || !rows.isEmpty()) {
            for (var flow : chain.flows()) {
                if (flow.line().kind().isShipped()) {
                    write(id, order, flow, rows);
                    concerned.add(place(flow.line().item(), order.siteOf(flow.line())));
                }
            }
        }
        return order;
    }

    /** Whether a place in the queue is still for the item and the store that its line asks for. */
    private static boolean isOf(Order order, Row row) {
        var line = order.line(row.line());
        return line.item().equals(row.item()) && order.siteOf(line).equals(row.site());
    }

    private void write(long id, Order order, LineFlow flow, List<Row> rows) {
        var no = flow.line().no();
        var waiting = flow.waiting().max(Quantity.ZERO);
        var stored = rows.stream().filter(row -> row.line() == no).findFirst();
        if (stored.isPresent()
                && !isOf(order, stored.get())
                && stored.get().reserved().signum() > 0) {
            return;
        }
        if (stored.isPresent()) {
            jdbc.sql("update stock_claim set waiting = ?, waits = ?, requested_on = ?, item_id = ?, site_id = ?"
                            + " where order_id = ? and line_no = ?")
                    .params(
                            waiting.value(),
                            waiting.isPositive(),
                            flow.line().requestedOn(),
                            ids.item(flow.line().item()),
                            ids.site(order.siteOf(flow.line())),
                            id,
                            no)
                    .update();
        } else if (order.state() == OrderState.CLEARED) {
            jdbc.sql("""
                insert into stock_claim (order_id, line_no, item_id, site_id, requested_on, clearing, reserved,
                    waiting, waits)
                select o.id, ?, ?, cast(? as bigint), ?, coalesce(o.clearing, 0), 0, ?, ? from sales_order o
                where o.id = ?\
                """)
                    .params(
                            no,
                            ids.item(flow.line().item()),
                            ids.site(order.siteOf(flow.line())),
                            flow.line().requestedOn(),
                            waiting.value(),
                            waiting.isPositive(),
                            id)
                    .update();
        }
    }
}
