package app.euthyna.server.order;

import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderEntry;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.MasterData;
import java.util.HashMap;
import java.util.List;
import org.springframework.stereotype.Component;

/** Orders as they are shown. */
@Component
class OrderViews {

    private final OrderStore stored;
    private final MasterData masterData;
    private final CompanyRulesStore rules;

    OrderViews(OrderStore stored, MasterData masterData, CompanyRulesStore rules) {
        this.stored = stored;
        this.masterData = masterData;
        this.rules = rules;
    }

    OrderView of(String number) {
        return of(stored.find(number));
    }

    /** How an order that is not kept is shown. */
    OrderView simulated(Order order) {
        return view(
                order, masterData.customer(order.customer()), rules.inForce().entry(), 0);
    }

    OrderView of(StoredOrder kept) {
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
}
