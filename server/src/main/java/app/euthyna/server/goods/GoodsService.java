package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Goods that come in, are staged, go back and leave. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class GoodsService {

    private final ChainReader chains;
    private final OrderService orders;
    private final MasterData masterData;
    private final Shelves shelves;
    private final Numbers numbers;
    private final Locks locks;
    private final Ids ids;
    private final EffectWriter writer;
    private final JdbcClient jdbc;

    GoodsService(ChainReader chains, OrderService orders, MasterData masterData, Shelves shelves, Numbers numbers, Locks locks, Ids ids,
            EffectWriter writer, JdbcClient jdbc) {
        this.chains = chains;
        this.orders = orders;
        this.masterData = masterData;
        this.shelves = shelves;
        this.numbers = numbers;
        this.locks = locks;
        this.ids = ids;
        this.writer = writer;
        this.jdbc = jdbc;
    }

    /** Goods come in at a unit cost and are offered to waiting lines. */
    public String receive(CommandContext context, String site, String item, Quantity quantity, BigDecimal unitCost) {
        if (!quantity.isPositive()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("quantity", "a quantity above zero"));
        }
        var at = site == null ? masterData.defaultSite() : site;
        if (!masterData.item(item).kind().isShipped()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("item", "an item that lies in a store; %s does not".formatted(item)));
        }
        if (unitCost.stripTrailingZeros().scale() > Price.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of("unitCost", "a cost with at most 4 decimals"));
        }
        locks.customers(jdbc.sql("""
                select distinct o.customer_id from finding f join sales_order o on o.id = f.order_id
                join sales_order_line l on l.order_id = o.id and l.item_code = ?
                where f.check_code = 'unreserved' and f.state in ('OPEN', 'WAIVED')""").param(item).query(Long.class).list());
        var shelf = shelves.lock(at, item);
        var number = numbers.next(DocumentKind.STOCK_RECEIPT);
        writer.write(context, List.of(new Effect.StockReceived(number, at, item, quantity, shelf.valueAt(quantity, unitCost))));
        return number;
    }

    /** Stages what was asked for of an order, or all that is reserved. */
    public String stage(CommandContext context, String order, long version, List<Pick> picks) {
        locks.orders(List.of(order));
        var chain = chains.chain(order);
        var staged = RefusedException.unless(Dispatching.stage(chain, numbers.next(DocumentKind.DISPATCH), context.date(), picks));
        orders.requireVersion(order, version);
        writer.write(context, List.of(staged));
        return staged.dispatch().number();
    }

    public void voidStaged(CommandContext context, String number, long version) {
        var order = orderOf(number);
        locks.customerAndOrder(order);
        var dispatch = dispatch(order, number);
        var voided = RefusedException.unless(Dispatching.voidStaged(dispatch));
        requireVersion(number, version);
        writer.write(context, List.of(voided));
    }

    /** Staged goods leave; their cost is taken from the shelves, which are locked before the order. */
    public void depart(CommandContext context, String number, long version) {
        var order = orderOf(number);
        var early = dispatch(order, number);
        var locked = shelves.lock(early.site(), early.lines().stream().map(Dispatch.Line::item).toList());
        locks.orders(List.of(order));
        var chain = chains.chain(order);
        var departed = RefusedException.unless(Dispatching.depart(chain, dispatch(order, number), locked, context.date()));
        requireVersion(number, version);
        writer.write(context, List.of(departed));
    }

    String orderOf(String dispatch) {
        return jdbc.sql("select o.number from dispatch d join sales_order o on o.id = d.order_id where d.id = ?")
                .param(ids.dispatch(dispatch)).query(String.class).single();
    }

    private Dispatch dispatch(String order, String number) {
        return chains.chain(order).dispatches().stream().filter(d -> d.number().equals(number)).findFirst().orElseThrow();
    }

    private void requireVersion(String number, long seen) {
        var now = jdbc.sql("select version from dispatch where number = ?").param(number).query(Long.class).single();
        if (now != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Dispatch " + number, seen, now));
        }
    }
}
