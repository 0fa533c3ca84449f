package app.euthyna.core.returns;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/**
 * Ten at 9.99 less nothing and a survey of 50.00 on one invoice; six of the ten left on one dispatch, four on another.
 */
class CreditingTests {

    private final Sale sale =
            new Sale(stock(1, "A", "10", "9.99", "21"), line(2, LineKind.SERVICE, "W", "1", "50.00", "9"));
    private final Invoice invoice;

    CreditingTests() {
        sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
        sale.leave("D-2", new TreeMap<>(Map.of(1, q(4))), Map.of(1, eur("16.00")));
        invoice = sale.bill();
    }

    private Decision<?> credit(Crediting.Share... shares) {
        var credited = Crediting.credit(
                invoice,
                sale.chain().credits(),
                List.of(shares),
                eur("0.00"),
                new Crediting.Terms(
                        () -> "C-" + (sale.chain().credits().size() + 1), TODAY, "agreed", BigDecimal.ZERO, false));
        credited.result().ifPresent(sale::happen);
        return credited;
    }

    private List<CreditNote> before() {
        return sale.chain().credits();
    }

    @Nested
    class WhatIsLeft {

        @Test
        void isToldByQuantityAndByNet() {
            assertThat(Crediting.left(invoice, before()))
                    .containsExactly(
                            new Crediting.Left(1, q(10), eur("99.90")), new Crediting.Left(2, q(1), eur("50.00")));
            credit(Crediting.Share.of(1, q(3)), Crediting.Share.of(2, eur("20.00")));
            assertThat(Crediting.left(invoice, before()))
                    .containsExactly(
                            new Crediting.Left(1, q(7), eur("69.93")), new Crediting.Left(2, q(1), eur("30.00")));
        }

        @Test
        void ofEverythingAreQuantitiesWhereThereAreAnyAndElseAmounts() {
            credit(Crediting.Share.of(1, q(10)));
            assertThat(Crediting.everything(invoice, before())).containsExactly(Crediting.Share.of(2, q(1)));
            credit(Crediting.Share.of(2, eur("50.00")));
            assertThat(Crediting.everything(invoice, before()))
                    .as("the net of the survey is gone, although its quantity is not")
                    .isEmpty();
        }

        @Test
        void ofAnOrderOrADispatchIsTheirsAlone() {
            assertThat(Crediting.everythingOf(DocumentRef.order("SO-1"), invoice, before()))
                    .hasSize(2);
            assertThat(Crediting.everythingOf(DocumentRef.order("SO-2"), invoice, before()))
                    .isEmpty();
            var second = new DocumentRef(DocumentKind.DISPATCH, "D-2");
            assertThat(Crediting.everythingOf(second, invoice, before())).containsExactly(Crediting.Share.of(1, q(4)));
            credit(Crediting.Share.of(1, q(8)));
            assertThat(Crediting.everythingOf(second, invoice, before()))
                    .as("no more than is left of the line")
                    .containsExactly(Crediting.Share.of(1, q(2)));
        }
    }

    @Nested
    class NoMoreThanThat {

        @Test
        void byQuantityByAmountOrInParts() {
            assertThat(codes(credit(Crediting.Share.of(1, q(11))))).isEqualTo("more-than-creditable");
            assertThat(codes(credit(Crediting.Share.of(1, q(6)), Crediting.Share.of(1, q(5)))))
                    .isEqualTo("more-than-creditable");
            assertThat(codes(credit(Crediting.Share.of(2, eur("50.01"))))).isEqualTo("more-than-creditable");
            assertThat(codes(credit(Crediting.Share.of(2, eur("30.00")), Crediting.Share.of(2, eur("20.01")))))
                    .isEqualTo("more-than-creditable");
            assertThat(codes(credit(Crediting.Share.of(2, eur("50.00")))))
                    .as("to the cent")
                    .isEmpty();
        }

        @Test
        void andOfLinesThatThereAreAboveZero() {
            assertThat(codes(credit(Crediting.Share.of(7, q(1))))).isEqualTo("not-found");
            assertThat(codes(credit(Crediting.Share.of(1, q(0))))).isEqualTo("incomplete");
            assertThat(codes(credit(Crediting.Share.of(1, eur("0.00"))))).isEqualTo("incomplete");
            assertThat(codes(credit())).isEqualTo("more-than-creditable");
        }

        @Test
        void creditsInPartsComeToTheInvoice() {
            for (int part = 0; part < 10; part++) {
                assertThat(codes(credit(Crediting.Share.of(1, q(1))))).isEmpty();
            }
            credit(Crediting.Share.of(2, q(1)));
            assertThat(sale.credited(invoice.number()))
                    .isEqualTo(invoice.totals().gross());
        }
    }

    @Nested
    class WhatIsOwed {

        @Test
        void isCreditForWhatIsHereAndGoodsForWhatWasCreditedAhead() {
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(5)));
            assertThat(owed(goods)).isEqualTo(new Crediting.Owed(eur("0.00"), eur("0.00")));
            sale.receive(goods, new Returning.Came(1, q(2)));
            assertThat(owed(goods)).as("two at 9.99").isEqualTo(new Crediting.Owed(eur("19.98"), eur("0.00")));
            sale.creditAhead(goods).get();
            assertThat(owed(goods))
                    .as("three that have not come")
                    .isEqualTo(new Crediting.Owed(eur("0.00"), eur("29.97")));
            sale.receive(goods, new Returning.Came(1, q(3)));
            assertThat(owed(goods)).isEqualTo(new Crediting.Owed(eur("0.00"), eur("0.00")));
        }

        private Crediting.Owed owed(app.euthyna.core.flow.Return goods) {
            return Crediting.owed(sale.now(goods), List.of(sale.chain()), EUR);
        }
    }

    /** Common practice: a customer is not asked for the same goods every day. */
    @Test
    void aReminderFollowsTheLastAfterAWeek() {
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(5)));
        assertThat(codes(Returning.remind(goods, Optional.empty(), TODAY))).isEmpty();
        assertThat(codes(Returning.remind(goods, Optional.of(TODAY.minusDays(7)), TODAY)))
                .isEmpty();
        var early = Returning.remind(goods, Optional.of(TODAY.minusDays(6)), TODAY);
        assertThat(codes(early)).isNotEmpty();
        assertThat(early.refusals().get(0).sentence()).contains(goods.number());
        sale.receive(goods, new Returning.Came(1, q(5)));
        assertThat(codes(Returning.remind(sale.now(goods), Optional.empty(), TODAY)))
                .as("nothing is expected any more")
                .isNotEmpty();
    }
}
