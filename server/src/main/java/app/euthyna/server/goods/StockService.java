package app.euthyna.server.goods;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.goods.StockCount;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What lies on the shelves: goods that come in, and what was counted. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class StockService {

    private final MasterData masterData;
    private final Shelves shelves;
    private final Locks locks;
    private final Ids ids;
    private final EffectWriter writer;
    private final DispatchQueries queries;

    StockService(
            MasterData masterData,
            Shelves shelves,
            Locks locks,
            Ids ids,
            EffectWriter writer,
            DispatchQueries queries) {
        this.masterData = masterData;
        this.shelves = shelves;
        this.locks = locks;
        this.ids = ids;
        this.writer = writer;
        this.queries = queries;
    }

    /** Goods come in at a unit cost and are offered to waiting lines. */
    public String receive(CommandContext context, String site, String item, Quantity quantity, BigDecimal unitCost) {
        if (!quantity.isPositive()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("quantity", "a quantity above zero"));
        }
        var at = site == null ? masterData.defaultSite() : site;
        if (!masterData.item(item).kind().isShipped()) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("item", "a stock item; %s is not one".formatted(item)));
        }
        if (unitCost.stripTrailingZeros().scale() > Price.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of("unitCost", "a cost with at most 4 decimals"));
        }
        var shelf = shelves.lock(at, item);
        var number = writer.number(DocumentKind.STOCK_RECEIPT);
        writer.write(
                context,
                List.of(new Effect.StockReceived(number, at, item, quantity, shelf.valueAt(quantity, unitCost))));
        return number;
    }

    /**
     * Brings a shelf to what was counted; reservations that are no longer covered are given up, the last in the queue
     * first.
     */
    public String count(
            CommandContext context, String site, String item, Quantity counted, Optional<BigDecimal> unitCost) {
        var at = site == null ? masterData.defaultSite() : site;
        if (!masterData.item(item).kind().isShipped()) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("item", "a stock item; %s is not one".formatted(item)));
        }
        locks.customersAndOrders(
                held(at, item).stream().map(one -> one.orderLine().number()).toList());
        var shelf = shelves.lock(at, item);
        var held = held(at, item);
        if (!locks.holdsOrders(
                held.stream().map(one -> one.orderLine().number()).toList())) {
            throw new PessimisticLockingFailureException("another order holds some of " + item + " by now");
        }
        var number = writer.number(DocumentKind.STOCK_COUNT);
        writer.write(
                context,
                RefusedException.orThrow(StockCount.count(number, shelf, counted, unitCost, held, context.reason())));
        return number;
    }

    /** What lies on a shelf, which is not locked. */
    public Shelf shelf(String at, String item) {
        return shelves.look(at, item);
    }

    /** What is held on a shelf for order lines. */
    public List<StockCount.Held> held(String at, String item) {
        return queries.held(ids.item(item), ids.site(at)).stream()
                .map(row -> {
                    var line = new LineRef(row.order(), row.lineNo());
                    var quantity = new Quantity(row.reserved());
                    return new StockCount.Held(
                            line, quantity, new Claim(line, quantity, row.requestedOn(), row.clearing()));
                })
                .toList();
    }

    /** Locks the shelves that goods may come back to. */
    public void lockShelves(String site, List<String> items) {
        shelves.lock(site, items);
    }

    /** What lies at the first store. */
    public Quantity onHand(String item) {
        return shelves.lock(masterData.defaultSite(), item).onHand();
    }
}
