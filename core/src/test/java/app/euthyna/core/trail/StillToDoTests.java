package app.euthyna.core.trail;

import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class StillToDoTests {

    private final Sale sale = new Sale(stock(1, "A", "5", "10.00", "21"));

    private List<String> told(
            List<app.euthyna.core.flow.Chain> roots,
            Map<String, StillToDo.ReturnOwed> owed,
            List<StillToDo.MoneyGoing> money) {
        return StillToDo.of(roots, owed, money).stream()
                .map(one -> one.document() + ": " + one.what())
                .toList();
    }

    @Test
    void goodsWaitWhereTheyAreAndNowhereElse() {
        sale.leave("D-1", Map.of(1, q(5)), Map.of(1, eur("20.00")));
        assertThat(told(List.of(sale.chain()), Map.of(), List.of())).isEmpty();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
        var name = "return " + goods.number();
        assertThat(told(List.of(sale.chain()), Map.of(), List.of())).containsExactly(name + ": 3 expected back");
        sale.receive(goods, new Returning.Came(1, q(2)));
        assertThat(told(List.of(sale.chain()), Map.of(), List.of()))
                .containsExactly(name + ": 1 expected back", name + ": 2 in inspection");
        sale.receive(goods, new Returning.Came(1, q(1)));
        sale.restock(goods);
        assertThat(told(List.of(sale.chain()), Map.of(), List.of())).isEmpty();
    }

    @Test
    void aReturnOverTwoOrdersIsToldOnce() {
        sale.leave("D-1", Map.of(1, q(5)), Map.of(1, eur("20.00")));
        sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
        assertThat(told(List.of(sale.chain(), sale.chain()), Map.of(), List.of()))
                .hasSize(1);
    }

    @Test
    void whatIsOwedForAReturnStandsWithItAndNothingDoesWhereNothingIs() {
        sale.leave("D-1", Map.of(1, q(5)), Map.of(1, eur("20.00")));
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
        sale.receive(goods, new Returning.Came(1, q(3)));
        sale.restock(goods);
        var name = "return " + goods.number();
        assertThat(told(
                        List.of(sale.chain()),
                        Map.of(
                                goods.number(),
                                new StillToDo.ReturnOwed(eur("30.00"), eur("0.00")),
                                "RT-another",
                                new StillToDo.ReturnOwed(eur("99.00"), eur("99.00"))),
                        List.of()))
                .containsExactly(name + ": EUR 30.00 net to be credited");
        assertThat(told(
                        List.of(sale.chain()),
                        Map.of(goods.number(), new StillToDo.ReturnOwed(eur("0.00"), eur("10.00"))),
                        List.of()))
                .containsExactly(name + ": EUR 10.00 net credited ahead");
    }

    @Test
    void moneySaysHowFarItIs() {
        var document = new DocumentRef(DocumentKind.REFUND, "RF-1");
        assertThat(told(
                        List.of(),
                        Map.of(),
                        List.of(StillToDo.Going.values()).stream()
                                .map(going -> new StillToDo.MoneyGoing(document, eur("12.10"), going))
                                .toList()))
                .containsExactly(
                        "refund RF-1: EUR 12.10 to be refunded",
                        "refund RF-1: EUR 12.10 sent to the payment service",
                        "refund RF-1: EUR 12.10 sent; the payment service does not answer",
                        "refund RF-1: EUR 12.10 declined by the payment service");
    }
}
