package app.euthyna.server.flow;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.order.Committed;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.order.CommittedQuantities;
import app.euthyna.server.order.OrderChains;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/**
 * Puts chains together from what the capabilities keep of them: a fixed number of questions for any number of orders.
 * Within a transaction a chain is loaded once and follows the effects that are written, by the same fold that previews
 * them.
 */
@Component
public class ChainReader implements CommittedQuantities {

    private final OrderChains ordered;
    private final ChainParts.Moved moved;
    private final ChainParts.Billed billed;
    private final ChainParts.Returned returned;
    private final Locks locks;
    private final TransactionCache<String, Chain> known = TransactionCache.readThrough();

    ChainReader(
            OrderChains ordered,
            ChainParts.Moved moved,
            ChainParts.Billed billed,
            ChainParts.Returned returned,
            Locks locks) {
        this.locks = locks;
        this.ordered = ordered;
        this.moved = moved;
        this.billed = billed;
        this.returned = returned;
    }

    /** The chain of an order; refused when there is none. */
    public Chain chain(String order) {
        return known.get(order, number -> {
            var chain = stored(List.of(number)).get(number);
            if (chain == null) {
                throw new RefusedException(new CommonRefusal.NotFound("order", number));
            }
            return chain;
        });
    }

    /** The orders whose chains are known in this transaction. */
    Set<String> known() {
        return known.keys();
    }

    /** Something about an order was written beside its effects. */
    public void readAgain(String order) {
        known.forget(order);
    }

    /** Has the chains known in this transaction follow what was written. */
    void happened(Effect effect) {
        if (effect instanceof Effect.OrderSubmitted submitted
                && locks.hasMade(submitted.order().number())) {
            known.put(submitted.order().number(), Chain.of(submitted.order()));
        }
        effect.orders().forEach(order -> known.change(order, chain -> chain.after(effect)));
    }

    @Override
    public Map<Integer, Committed> of(String order) {
        return chain(order).committed();
    }

    /** The chains of orders, in the order asked for; what does not exist is missing. */
    public Map<String, Chain> chains(Collection<String> numbers) {
        // what is known in this transaction is not read again
        var loaded = stored(
                numbers.stream().filter(number -> known.known(number).isEmpty()).toList());
        var found = new LinkedHashMap<String, Chain>();
        for (var number : numbers) {
            var chain = known.known(number).orElse(loaded.get(number));
            if (chain != null) {
                found.put(number, known.get(number, n -> chain));
            }
        }
        return found;
    }

    Map<String, Chain> stored(Collection<String> numbers) {
        if (numbers.isEmpty()) {
            return new LinkedHashMap<>();
        }
        var orders = ordered.orders(numbers);
        if (orders.isEmpty()) {
            return new LinkedHashMap<>();
        }
        var ids = orders.keySet();
        var cancellations = ordered.cancellations(ids);
        var reserved = moved.reserved(ids);
        var dispatches = moved.dispatches(ids);
        var invoiceIds = billed.invoicesOf(ids);
        var invoices =
                invoiceIds.isEmpty() ? List.<Invoice>of() : billed.invoices(invoiceIds, returned.takenBack(invoiceIds));
        var deposits = billed.deposits(ids);
        var returns = returned.returns(ids);
        var credits = invoiceIds.isEmpty() ? List.<CreditNote>of() : returned.creditNotes(invoiceIds);
        var byNumber = new HashMap<String, Chain>();
        orders.forEach((id, order) -> byNumber.put(
                order.number(),
                new Chain(
                        order,
                        cancellations.getOrDefault(id, List.of()),
                        reserved.getOrDefault(id, Map.of()),
                        dispatches.getOrDefault(id, List.of()),
                        invoices.stream()
                                .filter(invoice -> invoice.bills(order.number()))
                                .toList(),
                        deposits.getOrDefault(id, List.of()),
                        returns.stream()
                                .filter(goods -> goods.touches(order.number()))
                                .toList(),
                        credits.stream()
                                .filter(credit -> invoices.stream()
                                        .anyMatch(i -> i.number().equals(credit.invoice()) && i.bills(order.number())))
                                .toList())));
        var asked = new LinkedHashMap<String, Chain>();
        numbers.stream().filter(byNumber::containsKey).forEach(number -> asked.put(number, byNumber.get(number)));
        return asked;
    }
}
