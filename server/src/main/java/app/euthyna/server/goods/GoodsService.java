package app.euthyna.server.goods;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.goods.GoodsRefusal;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.order.OrderDecisions;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Goods that come in, are staged, go back and leave. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class GoodsService {

    private final ChainReader chains;
    private final OrderDecisions decisions;
    private final Shelves shelves;
    private final Locks locks;
    private final EffectWriter writer;
    private final DispatchQueries queries;

    GoodsService(
            ChainReader chains,
            OrderDecisions decisions,
            Shelves shelves,
            Locks locks,
            EffectWriter writer,
            DispatchQueries queries) {
        this.chains = chains;
        this.decisions = decisions;
        this.shelves = shelves;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
    }

    /** Hands what is reserved for one order over to another. */
    public void transfer(CommandContext context, LineRef from, LineRef to, long version, Quantity quantity) {
        locks.customersAndOrders(List.of(from.number(), to.number()));
        var first = chains.chain(from.number());
        if (first.order().hasLine(from.line())) {
            var line = first.order().line(from.line());
            shelves.lock(first.order().siteOf(line), line.item());
        }
        var handed = RefusedException.orThrow(Reserving.transfer(
                chains.chain(from.number()),
                from.line(),
                chains.chain(to.number()),
                to.line(),
                quantity,
                context.reason()));
        decisions.requireVersion(to.number(), version);
        writer.write(context, List.of(handed));
    }

    /** Stages what was asked for of an order, or all that is reserved. */
    public String stage(CommandContext context, String order, long version, List<Pick> picks) {
        locks.customerAndOrder(order);
        var chain = chains.chain(order);
        var staged = RefusedException.orThrow(
                Dispatching.stage(chain, writer.number(DocumentKind.DISPATCH), context.date(), picks));
        decisions.requireVersion(order, version);
        writer.write(context, List.of(staged));
        return staged.dispatch().number();
    }

    /** What is to happen to an order that is short when it is staged with many others. */
    public enum ShortageChoice {
        /** What is reserved goes, the rest waits. */
        SHIP_RESERVED,
        /** The order waits until all of it is there. */
        ONLY_COMPLETE,
        /** What is reserved goes, and the rest is given up. */
        DROP_REST
    }

    /** Stages an order as one of many. */
    String stage(CommandContext context, String order, long version, ShortageChoice choice) {
        locks.customerAndOrder(order);
        var chain = chains.chain(order);
        var waiting = chain.flows().stream()
                .filter(flow -> flow.waiting().isPositive())
                .toList();
        if (!waiting.isEmpty() && choice == ShortageChoice.ONLY_COMPLETE) {
            throw new RefusedException(new GoodsRefusal.NotReserved(
                    order,
                    waiting.get(0).line().no(),
                    waiting.get(0).toShip(),
                    waiting.get(0).reserved()));
        }
        var drops = !waiting.isEmpty() && choice == ShortageChoice.DROP_REST;
        if (drops && !context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "cancel what is short", context.person().role(), Person.DECIDING));
        }
        var number = stage(context, order, version, List.of());
        if (drops) {
            var lines = waiting.stream()
                    .map(flow -> new Cancellation.Line(flow.line().no(), flow.waiting()))
                    .toList();
            writer.write(
                    context,
                    List.of(new Effect.QuantityCancelled(new Cancellation(
                            writer.number(DocumentKind.CANCELLATION),
                            order,
                            context.date(),
                            context.reason().isBlank() ? "short at staging, cancelled" : context.reason(),
                            lines))));
        }
        return number;
    }

    /** An item that falls under its minimum when a note leaves. */
    public record Falls(String item, BigDecimal left, BigDecimal minimum) {}

    /**
     * Which items the departure of a staged note brings under their minimum. Told before it leaves; it stops nothing.
     */
    @Transactional(propagation = Propagation.SUPPORTS, readOnly = true)
    public List<Falls> falls(String number) {
        return queries.fallsOf(number).stream()
                .map(row ->
                        new Falls(row.item(), new Quantity(row.onHand()).value(), new Quantity(row.minStock()).value()))
                .toList();
    }

    /** Stages all that is reserved of an order at one store; nothing where nothing is. */
    public Optional<String> stageIfAny(CommandContext context, String order) {
        var chain = chains.chain(order);
        return chain.flows().stream().noneMatch(flow -> flow.reserved().isPositive())
                ? Optional.empty()
                : Optional.of(stage(context, order, decisions.version(order), List.of()));
    }

    /** Sends off a note that this very command has staged. */
    public void departStaged(CommandContext context, String number) {
        depart(context, number, queries.version(number));
    }

    /** Refuses where something of an order was not in store and has stayed. */
    public void requireAllGone(String order) {
        for (var flow : chains.chain(order).flows()) {
            if (flow.toShip().isPositive()) {
                throw new RefusedException(
                        new GoodsRefusal.NotReserved(order, flow.line().no(), flow.ordered(), flow.dispatched()));
            }
        }
    }

    public void voidStaged(CommandContext context, String number, long version) {
        var order = orderOf(number);
        locks.customerAndOrder(order);
        var dispatch = dispatch(order, number);
        var voided = RefusedException.orThrow(Dispatching.voidStaged(dispatch));
        requireVersion(number, version);
        writer.write(context, List.of(voided));
    }

    /** Staged goods leave; their cost is taken from the shelves. */
    public void depart(CommandContext context, String number, long version) {
        var order = orderOf(number);
        locks.customerAndOrder(order);
        var note = dispatch(order, number);
        var locked = shelves.lock(
                note.site(), note.lines().stream().map(Dispatch.Line::item).toList());
        var chain = chains.chain(order);
        var departed = RefusedException.orThrow(Dispatching.depart(chain, note, locked, context.date()));
        requireVersion(number, version);
        writer.write(context, List.of(departed));
    }

    String orderOf(String dispatch) {
        return queries.orderOf(dispatch)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", dispatch)));
    }

    private Dispatch dispatch(String order, String number) {
        return chains.chain(order).dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
    }

    void requireVersion(String number, long seen) {
        var now = queries.version(number);
        if (now != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Dispatch " + number, seen, now));
        }
    }
}
