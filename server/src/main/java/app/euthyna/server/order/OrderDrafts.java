package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import org.springframework.stereotype.Component;

/** Orders as they are begun from what somebody wrote. */
@Component
class OrderDrafts {

    private final Drafting drafting;
    private final OrderStore stored;
    private final MasterData masterData;
    private final Ids ids;
    private final Locks locks;
    private final EffectWriter writer;

    OrderDrafts(
            Drafting drafting, OrderStore stored, MasterData masterData, Ids ids, Locks locks, EffectWriter writer) {
        this.drafting = drafting;
        this.stored = stored;
        this.masterData = masterData;
        this.ids = ids;
        this.locks = locks;
        this.writer = writer;
    }

    /** For what will be submitted: others of its customer wait. */
    void lockCustomer(OrderDraft draft) {
        locks.customer(draft.customer());
    }

    /** An order as it would be. */
    Order simulate(CommandContext context, OrderDraft draft) {
        return drafting.build(context, draft, "(new)", masterData.customer(draft.customer()), Long.MAX_VALUE);
    }

    /** An order as a draft describes it, with its number, not kept yet. */
    StoredOrder begin(CommandContext context, OrderDraft draft) {
        var number = writer.number(DocumentKind.ORDER);
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
        locks.made(number);
        return kept;
    }

    /** Keeps an order that was begun. */
    StoredOrder keep(StoredOrder order) {
        stored.save(order);
        return order;
    }

    static void oneLine(String po) {
        if (po != null && po.chars().anyMatch(Character::isISOControl)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("po", "a text on one line"));
        }
    }
}
