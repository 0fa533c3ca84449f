package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.time.LocalDate;
import java.util.List;
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
            .on(Effect.InspectionReversed.class, Store::inspectionReversed)
            .on(Effect.StockReceived.class, Store::stockReceived)
            .on(Effect.ReservationTransferred.class, Store::reservationTransferred)
            .on(Effect.StockCounted.class, Store::stockCounted)
            .othersDoNotConcernIt();

    private final ShelfQueries queries;
    private final Shelves shelves;
    private final Ids ids;
    private final DocumentDetails details;
    private final History history;
    private final Offering offering;

    GoodsSink(
            ShelfQueries queries,
            Shelves shelves,
            Ids ids,
            DocumentDetails details,
            History history,
            Offering offering) {
        this.offering = offering;
        this.history = history;
        this.details = details;
        this.queries = queries;
        this.shelves = shelves;
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
            queries.waitedFor(
                    effect.quantity().value(),
                    ids.order(effect.orderLine().number()),
                    effect.orderLine().line());
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
            queries.session().insert(entity);
            dispatch.lines().forEach(line -> queries.session().insert(line(entity, line)));
            details.carry("DISPATCH", dispatch.number(), List.of(entity.orderId));
            dispatch.lines()
                    .forEach(line -> claim(
                            new LineRef(dispatch.order(), line.orderLine()),
                            line.quantity().negated()));
        }

        private void dispatchVoided(Effect.DispatchVoided effect) {
            var entity = find(effect.dispatch());
            entity.state = Dispatch.State.VOIDED;
            queries.session().update(entity);
            effect.dispatch()
                    .lines()
                    .forEach(line -> claim(new LineRef(effect.dispatch().order(), line.orderLine()), line.quantity()));
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            var dispatch = effect.dispatch();
            var entity = find(dispatch);
            entity.state = Dispatch.State.DEPARTED;
            entity.departedOn = dispatch.date();
            queries.session().update(entity);
            queries.removeLines(entity.id);
            for (var line : dispatch.lines()) {
                queries.session().insert(line(entity, line));
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

        private DispatchLineEntity line(DispatchEntity dispatch, Dispatch.Line line) {
            var stored = new DispatchLineEntity();
            stored.dispatchId = dispatch.id;
            stored.rootOrderId = dispatch.orderId;
            stored.orderLineNo = line.orderLine();
            stored.lineNo = line.no();
            stored.itemId = ids.item(line.item());
            stored.quantity = line.quantity().value();
            stored.cost = line.cost().amount();
            stored.departedOn = dispatch.departedOn;
            stored.left();
            return stored;
        }

        private DispatchEntity find(Dispatch dispatch) {
            return queries.dispatch(dispatch.number());
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            var dispatch = effect.dispatch();
            var entity = find(dispatch);
            entity.state = Dispatch.State.REVERSED;
            entity.reversedOn = context.date();
            entity.reversedMoment = history.moment();
            queries.session().update(entity);
            queries.takeBackLines(context.date(), entity.id);
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
            restocked(effect.before(), effect.results());
        }

        /** What was put on a shelf leaves it, at the value that it had. */
        private void inspectionReversed(Effect.InspectionReversed effect) {
            restocked(effect.before(), effect.results());
        }

        private void restocked(Return before, List<Effect.InspectionResult> results) {
            for (var result : results) {
                var outcome = result.outcome();
                if (outcome.kind() == Return.Outcome.Kind.RESTOCK) {
                    var item = before.line(result.line()).item();
                    shelves.change(outcome.site(), item, shelf -> shelf.receive(outcome.quantity(), outcome.cost()));
                    move(
                            outcome.site(),
                            item,
                            outcome.quantity(),
                            outcome.cost(),
                            DocumentKind.RETURN,
                            before.number(),
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
            var row = new StockCountEntity();
            row.number = effect.correction();
            row.itemId = ids.item(effect.item());
            row.siteId = ids.site(effect.site());
            row.counted = shelf.onHand().plus(effect.quantity()).value();
            row.quantity = effect.quantity().value();
            row.stockValue = effect.value().amount();
            row.countedOn = context.date();
            row.reason = context.reason();
            queries.session().insert(row);
        }

        private void claim(LineRef line, Quantity reserved) {
            queries.claim(reserved.value(), ids.order(line.number()), line.line());
        }

        private void move(
                String site,
                String item,
                Quantity quantity,
                Money value,
                DocumentKind kind,
                String number,
                LocalDate on) {
            var row = new StockMovementEntity();
            row.itemId = ids.item(item);
            row.siteId = ids.site(site);
            row.quantity = quantity.value();
            row.stockValue = value.amount();
            row.documentKind = kind.name();
            row.documentNumber = number;
            row.movedOn = on;
            queries.session().insert(row);
        }
    }

    /** A changed order is checked first: if that holds it, it takes no more stock. See {@link OfferAfterChange}. */
    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        offering.offer(
                context,
                batch.stream()
                        .filter(effect -> !(effect instanceof Effect.OrderChanged))
                        .toList(),
                further);
    }
}
