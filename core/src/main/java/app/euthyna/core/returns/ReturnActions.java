package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Quantity;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;

/** What can be done with a return as it stands: the same rules that the deed itself goes by, asked before it. */
public final class ReturnActions {

    private ReturnActions() {}

    public enum Action {
        /** Receive goods that are expected. */
        RECEIVE,
        /** Decide what becomes of goods in inspection. */
        INSPECT,
        /** Credit goods that are here and were billed. */
        CREDIT,
        /** Credit goods that are still expected. */
        CREDIT_AHEAD,
        /** Accept no more goods. */
        WITHDRAW
    }

    /**
     * What a return is there for, in the order in which it is offered.
     *
     * @param chains of every order on the invoices that billed its goods
     */
    public static List<Offered<Action>> of(Return goods, Collection<Chain> chains, ReturnPolicy policy) {
        var credits = Chain.credits(chains);
        var offered = new ArrayList<Offered<Action>>();
        if (goods.expectsMore()) {
            offered.add(Offered.of(Action.RECEIVE));
        }
        if (goods.inInspection()) {
            offered.add(Offered.of(Action.INSPECT));
        }
        if (!Crediting.due(goods, chains).isEmpty()) {
            offered.add(Offered.of(Action.CREDIT));
        }
        if (policy.reason(goods.reason()).ahead()
                && goods.lines().stream()
                        .anyMatch(line -> creditableAhead(goods, line, credits).isPositive())) {
            offered.add(Offered.of(Action.CREDIT_AHEAD));
        }
        if (goods.expectsMore()) {
            offered.add(Offered.of(Action.WITHDRAW, Returning.withdraw(goods, credits)));
        }
        return List.copyOf(offered);
    }

    /** What of a line may still come and is not credited. */
    public static Quantity creditableAhead(Return goods, Return.Line line, Collection<CreditNote> credits) {
        return goods.expected(line).minus(Crediting.ahead(goods, line, credits)).max(Quantity.ZERO);
    }
}
