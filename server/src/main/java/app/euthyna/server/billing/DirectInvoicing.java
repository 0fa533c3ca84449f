package app.euthyna.server.billing;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.goods.GoodsService;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * An invoice without an earlier order: order, dispatch and invoice in one step, by the same road as one after another
 * (section 7).
 */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class DirectInvoicing {

    private final OrderService orders;
    private final GoodsService goods;
    private final BillingService billing;
    private final InvoiceQueries queries;

    DirectInvoicing(OrderService orders, GoodsService goods, BillingService billing, InvoiceQueries queries) {
        this.orders = orders;
        this.goods = goods;
        this.billing = billing;
        this.queries = queries;
    }

    /** The order would be held, so nothing of it can leave or be billed at once. */
    @Code("not-cleared")
    record WouldBeHeld(List<String> findings) implements Refusal {
        String why() {
            return String.join("; ", findings);
        }
    }

    /** Makes order, dispatches and invoice; a refusal of any of them leaves nothing. */
    public String invoice(CommandContext context, OrderDraft draft, String text) {
        var number = orders.submit(
                        context,
                        new OrderDraft(
                                draft.customer(),
                                draft.po(),
                                OrderKind.DIRECT,
                                draft.site(),
                                draft.orderedOn(),
                                draft.requestedOn(),
                                draft.remark(),
                                null,
                                draft.details(),
                                draft.lines()))
                .number();
        var order = orders.view(number);
        if (!order.state().isCleared()) {
            var findings = queries.openFindings(number);
            throw new RefusedException(
                    findings.isEmpty()
                            ? new OrderRefusal.NotCleared(number, order.state())
                            : new WouldBeHeld(findings));
        }
        for (var staged = goods.stageIfAny(context, number);
                staged.isPresent();
                staged = goods.stageIfAny(context, number)) {
            goods.departStaged(context, staged.get());
        }
        goods.requireAllGone(number);
        return billing.bill(context, List.of(number), List.of(), text, false);
    }
}
