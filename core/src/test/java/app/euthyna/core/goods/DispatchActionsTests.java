package app.euthyna.core.goods;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.staged;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Given;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.DispatchActions.Action;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Refusal;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class DispatchActionsTests {

    @ParameterizedTest
    @EnumSource(Dispatch.State.class)
    void onlyAStagedDispatchIsThereForAnything(Dispatch.State state) {
        assertThat(DispatchActions.of(state, "SO-1", OrderState.CLEARED))
                .extracting(Offered::action)
                .isEqualTo(
                        state == Dispatch.State.STAGED
                                ? List.of(Action.DEPART, Action.VOID, Action.BOOK_CARRIER)
                                : List.of());
    }

    /** What is offered is what the deed does, whatever became of the order meanwhile. */
    @ParameterizedTest
    @EnumSource(OrderState.class)
    void goodsLeaveOnlyForAClearedOrder(OrderState state) {
        var note = Given.staged("D-1", "A", q(4));
        var chain = Chain.of(order("SO-1", state, stock(1, "A", "10", "2.00", "0")))
                .after(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", q(4)))
                .after(new Effect.DispatchStaged(note));
        var deed = Dispatching.depart(chain, note, Map.of("A", new Shelf("S", "A", q(4), q(4), eur("8.00"))), TODAY);
        var offered = DispatchActions.of(Dispatch.State.STAGED, "SO-1", state);
        assertThat(offered.get(0).refusal().map(Refusal::sentence).stream().toList())
                .isEqualTo(deed.refusals().stream().map(Refusal::sentence).toList());
        assertThat(offered.get(0).refusal().isEmpty()).isEqualTo(state == OrderState.CLEARED);
        assertThat(offered.get(1).refusal())
                .as("back to the shelf they may always go")
                .isEmpty();
    }

    /** Whoever reads the chain anew reads it so; the oldest departure is billed first. */
    @Test
    void thoseThatLeaveOnTheSameDayStandByTheirNumbers() {
        var chain = Chain.of(order("SO-1", OrderState.CLEARED, stock(1, "A", "9", "2.00", "0")));
        for (var number : List.of("D-998", "D-999", "D-1000")) {
            chain = chain.after(new Effect.DispatchStaged(staged(number, "A", q(1))));
        }
        for (var number : List.of("D-998", "D-1000", "D-999")) {
            var note = staged(number, "A", q(1));
            var on = TODAY.plusDays(number.equals("D-999") ? 3 : 2);
            chain = chain.after(new Effect.DispatchDeparted(
                    new Dispatch(number, "SO-1", "S", Dispatch.State.DEPARTED, on, note.lines()),
                    List.of(),
                    List.of()));
        }
        assertThat(chain.dispatches()).extracting(Dispatch::number).containsExactly("D-998", "D-1000", "D-999");
        assertThat(chain.unbilled()).extracting(one -> one.ref().number()).containsExactly("D-998", "D-1000", "D-999");
    }

    @Test
    void whatLeavesCostsItsShareOfTheShelf() {
        var note = new Dispatch(
                "D-1",
                "SO-1",
                "S",
                Dispatch.State.STAGED,
                TODAY,
                List.of(
                        new Dispatch.Line(1, 1, "A", q(1), eur("0.00")),
                        new Dispatch.Line(2, 1, "A", q(1), eur("0.00")),
                        new Dispatch.Line(3, 1, "A", q(1), eur("0.00"))));
        var chain = Chain.of(order("SO-1", OrderState.CLEARED, stock(1, "A", "3", "2.00", "0")))
                .after(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", q(3)))
                .after(new Effect.DispatchStaged(note));
        var left = Dispatching.depart(chain, note, Map.of("A", new Shelf("S", "A", q(3), q(3), eur("10.00"))), TODAY)
                .get();
        assertThat(left.dispatch().lines())
                .as("moving average (IAS 2.27); the last takes what is left of ten euros")
                .extracting(Dispatch.Line::cost)
                .containsExactly(eur("3.33"), eur("3.34"), eur("3.33"));
    }
}
