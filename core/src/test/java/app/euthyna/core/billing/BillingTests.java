package app.euthyna.core.billing;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class BillingTests {

    /** Ten ordered, of which three left on Monday for 10.00 and four on Tuesday for 20.00; and two hours of work. */
    private static final Chain CHAIN = left(
            left(
                    Chain.of(order(
                            "SO-1",
                            OrderState.CLEARED,
                            stock(1, "A", "10", "3.3333", "21"),
                            line(2, LineKind.SERVICE, "W", "2", "50.00", "21"))),
                    "D-1",
                    3,
                    "10.00"),
            "D-2",
            4,
            "20.00");

    private static DocumentRef payment(String number) {
        return new DocumentRef(DocumentKind.PAYMENT, number);
    }

    private static Chain left(Chain chain, String number, long quantity, String cost) {
        return chain.after(new Effect.DispatchDeparted(
                new Dispatch(
                        number,
                        "SO-1",
                        "S",
                        Dispatch.State.DEPARTED,
                        TODAY,
                        List.of(new Dispatch.Line(1, 1, "A", q(quantity), eur(cost)))),
                List.of(),
                List.of()));
    }

    private static Invoice billed(Chain chain, String number, Billing.Share... shares) {
        return Billing.bill("C", List.of(chain), List.of(shares), terms(number, false), AHEAD)
                .get()
                .invoice();
    }

    private static final Set<OrderKind> AHEAD = Set.of(OrderKind.STANDARD);

    private static Billing.Terms terms(String number, boolean ahead) {
        return new Billing.Terms(number, TODAY, 30, "", ahead);
    }

    private static Billing.Share share(int line, long quantity) {
        return new Billing.Share(new LineRef("SO-1", line), q(quantity));
    }

    @Nested
    class Shares {

        @Test
        void goodsAreTakenFromTheOldestDepartureWithTheirSliceOfItsCost() {
            var first = billed(CHAIN, "2026-1", share(1, 2));
            assertThat(first.lines().get(0).sources())
                    .containsExactly(Invoice.Source.ofGone(new LineRef("D-1", 1), q(2), eur("6.67")));
            var second = billed(CHAIN.after(new Effect.InvoicePosted(first)), "2026-2", share(1, 3));
            assertThat(second.lines().get(0).sources())
                    .containsExactly(
                            Invoice.Source.ofGone(new LineRef("D-1", 1), q(1), eur("3.33")),
                            Invoice.Source.ofGone(new LineRef("D-2", 1), q(2), eur("10.00")));
        }

        @Test
        void leftOutMeanAllThatCanBeBilledServicesIncluded() {
            var invoice = billed(CHAIN, "2026-1");
            assertThat(invoice.lines()).extracting(l -> l.quantity()).containsExactly(q(7), q(2));
            assertThat(invoice.totals().net()).isEqualTo(eur("123.33"));
            assertThat(invoice.totals().vat()).isEqualTo(eur("25.90"));
            assertThat(invoice.dueOn()).isEqualTo(TODAY.plusDays(30));
            assertThat(Billing.cost(invoice)).isEqualTo(eur("30.00"));
        }

        /** Nothing had been taken of a line before its first invoice, also where that one was taken back since. */
        @Test
        void areTakenOfALineFromTheFirstOfItsInvoicesOn() {
            var early = Billing.bill(
                            "C",
                            List.of(CHAIN),
                            List.of(share(1, 2)),
                            new Billing.Terms("2026-1", TODAY.minusDays(3), 30, "", false),
                            AHEAD)
                    .get()
                    .invoice();
            var billed = CHAIN.after(new Effect.InvoicePosted(early));
            assertThat(CHAIN.firstTaken()).isEmpty();
            assertThat(billed.firstTaken()).containsExactly(Map.entry(new LineRef("D-1", 1), TODAY.minusDays(3)));
            var later = billed.after(new Effect.InvoiceReversed(early))
                    .after(new Effect.InvoicePosted(billed(billed.after(new Effect.InvoiceReversed(early)), "2026-2")));
            assertThat(later.firstTaken())
                    .containsOnly(
                            Map.entry(new LineRef("D-1", 1), TODAY.minusDays(3)),
                            Map.entry(new LineRef("D-2", 1), TODAY));
        }

        @Test
        void beyondWhatLeftAreRefusedWithTheFigures() {
            var refused = Billing.bill("C", List.of(CHAIN), List.of(share(1, 8)), terms("2026-1", false), AHEAD);
            assertThat(refused.refusals())
                    .extracting(r -> r.sentence())
                    .containsExactly("On line 1 of order SO-1, 7 are shipped and 0 billed; 8 more cannot be billed.");
            assertThat(Billing.bill("B", List.of(CHAIN), List.of(), terms("2026-1", false), AHEAD)
                            .refusals())
                    .extracting(r -> r.code())
                    .containsExactly("wrong-customer");
        }
    }

    /**
     * Billed before they leave: ten at 33.33, of which seven have left, so that 3 of 10 of the net are deferred (IFRS
     * 15.31 and 15.38: revenue when control passes).
     */
    @Nested
    class Ahead {

        private final Effect.InvoicePosted invoiced = Billing.bill(
                        "C", List.of(CHAIN), List.of(share(1, 10)), terms("2026-1", true), AHEAD)
                .get();
        private final Chain chain = CHAIN.after(invoiced);

        private Effect.DispatchDeparted leaves(Chain from, String number, long quantity, String worth) {
            var staged = new Dispatch(
                    number,
                    "SO-1",
                    "S",
                    Dispatch.State.STAGED,
                    TODAY,
                    List.of(new Dispatch.Line(1, 1, "A", q(quantity), eur("0.00"))));
            return Dispatching.depart(
                            from, staged, Map.of("A", new Shelf("S", "A", q(quantity), q(quantity), eur(worth))), TODAY)
                    .get();
        }

        @Test
        void revenueOfWhatHasNotLeftIsDeferred() {
            var line = invoiced.invoice().lines().get(0);
            assertThat(line.net()).isEqualTo(eur("33.33"));
            assertThat(line.deferred()).isEqualTo(eur("10.00"));
            assertThat(line.ahead()).isEqualTo(q(3));
            assertThat(chain.flow(1).toBill()).isEqualTo(q(0));
            assertThat(chain.flow(1).open())
                    .as("billed ahead, so no longer to be cancelled")
                    .isEqualTo(q(0));
        }

        @Test
        void departureEarnsItBySlicesAndGoesStraightToCostOfSales() {
            var first = leaves(chain, "D-3", 1, "2.01");
            assertThat(first.deliveries()).extracting(c -> c.source().earned()).containsExactly(eur("3.33"));
            var then = chain.after(first);
            var second = leaves(then, "D-4", 2, "5.00");
            assertThat(second.deliveries()).extracting(c -> c.source().earned()).containsExactly(eur("6.67"));
            assertThat(then.after(second).invoices().get(0).lines().get(0).unearned())
                    .isEqualTo(eur("0.00"));
            assertThat(then.after(second).unbilled())
                    .allMatch(u -> u.quantity().isZero() && u.cost().isZero());
        }

        @Test
        void isRefusedWhereTheKindOfOrderDoesNotSaySo() {
            var refused = Billing.bill("C", List.of(CHAIN), List.of(share(1, 10)), terms("2026-1", true), Set.of());
            assertThat(refused.refusals()).extracting(r -> r.code()).containsExactly("more-than-dispatched");
            assertThat(Billing.bill("C", List.of(CHAIN), List.of(share(1, 11)), terms("2026-1", true), AHEAD)
                            .refusals())
                    .extracting(r -> r.code())
                    .containsExactly("more-than-open");
        }
    }

    /** Invented figures; that deposits settle the oldest invoice first is common practice. */
    @Nested
    class Deposits {

        private final Chain chain = CHAIN.after(new Effect.DepositReceived("DP-1", "C", "SO-1", TODAY, eur("30.00")))
                .after(new Effect.DepositReceived("DP-2", "C", "SO-1", TODAY, eur("50.00")));

        @Test
        void settleTheOldestInvoiceFromTheOldestDeposit() {
            var applied = Depositing.apply(
                    chain,
                    List.of(
                            new OpenInvoice("I-1", "C", eur("40.00"), eur("40.00")),
                            new OpenInvoice("I-2", "C", eur("25.00"), eur("25.00"))));
            assertThat(applied)
                    .extracting(Effect.DepositApplied::settlements)
                    .containsExactly(
                            List.of(new Settlement("I-1", eur("30.00"))),
                            List.of(new Settlement("I-1", eur("10.00")), new Settlement("I-2", eur("25.00"))));
            assertThat(chain.after(applied).unappliedDeposits()).isEqualTo(eur("15.00"));
        }

        @Test
        void giveNoMoreThanTheyHave() {
            assertThat(RefundRules.refundDeposit("RF-1", chain, "DP-1", eur("30.01"))
                            .refusals())
                    .extracting(r -> r.code())
                    .containsExactly("more-than-open");
            var refunded = chain.after(RefundRules.refundDeposit("RF-1", chain, "DP-1", eur("30.00"))
                    .get());
            assertThat(Depositing.credit(refunded, "DP-1", eur("0.01")).isRefused())
                    .isTrue();
            assertThat(Depositing.share(chain, new java.math.BigDecimal("33.3")))
                    .as("33.3 % of gross 161.33")
                    .isEqualTo(eur("53.72"));
        }
    }

    @Nested
    class Payments {

        private final Map<String, OpenInvoice> invoices = Map.of(
                "I-1",
                new OpenInvoice("I-1", "C", eur("100.00"), eur("60.00")),
                "I-2",
                new OpenInvoice("I-2", "C", eur("40.00"), eur("40.00")),
                "I-3",
                new OpenInvoice("I-3", "B", eur("5.00"), eur("5.00")));

        private List<String> codes(Money amount, Settlement... settlements) {
            return Receiving.receive("P-1", "C", amount, List.of(settlements), invoices).refusals().stream()
                    .map(r -> r.code())
                    .toList();
        }

        @Test
        void maySettleWhatIsOpenAndNoCentMore() {
            assertThat(codes(eur("100.00"), new Settlement("I-1", eur("60.00")), new Settlement("I-2", eur("40.00"))))
                    .isEmpty();
            assertThat(codes(eur("100.00"), new Settlement("I-1", eur("60.01"))))
                    .containsExactly("more-than-open");
            assertThat(codes(eur("100.00"), new Settlement("I-1", eur("40.00")), new Settlement("I-1", eur("20.01"))))
                    .containsExactly("more-than-open");
            assertThat(codes(eur("50.00"), new Settlement("I-1", eur("50.01")))).containsExactly("more-than-open");
            assertThat(codes(eur("50.00"), new Settlement("I-3", eur("5.00")))).containsExactly("wrong-customer");
            assertThat(codes(eur("0.00"))).containsExactly("incomplete");
        }

        /** I-1 is open with 60.00. */
        @Test
        void creditOfWhichNoAmountIsSaidGoesAsFarAsItReachesAndIsOpen() {
            assertThat(reach("100.00", Optional.empty())).isEqualTo(eur("60.00"));
            assertThat(reach("25.00", Optional.empty())).isEqualTo(eur("25.00"));
            assertThat(reach("0.00", Optional.empty())).isEqualTo(eur("0.00"));
            assertThat(reach("25.00", Optional.of(eur("70.00"))))
                    .as("what was said is not bent, and is refused later")
                    .isEqualTo(eur("70.00"));
            assertThat(Receiving.settlements(
                            List.of(
                                    new Receiving.Share("I-1", Optional.of(eur("20.00"))),
                                    new Receiving.Share("I-2", Optional.empty())),
                            invoices,
                            List.of(new Receiving.Credit(payment("P-1"), eur("25.00"))),
                            eur("0.00")))
                    .as("the second takes what the first leaves")
                    .containsExactly(new Settlement("I-1", eur("20.00")), new Settlement("I-2", eur("5.00")));
        }

        private Money reach(String credit, Optional<Money> asked) {
            return Receiving.settlements(
                            List.of(new Receiving.Share("I-1", asked)),
                            invoices,
                            List.of(new Receiving.Credit(payment("P-1"), eur(credit))),
                            eur("0.00"))
                    .get(0)
                    .amount();
        }

        @Test
        void creditIsUsedOldestFirstAndSplitWhereOnePaymentDoesNotReach() {
            var effects = Receiving.allocateCredit(
                            "C",
                            List.of(new Settlement("I-1", eur("60.00")), new Settlement("I-2", eur("10.00"))),
                            invoices,
                            List.of(
                                    new Receiving.Credit(payment("P-1"), eur("25.00")),
                                    new Receiving.Credit(payment("P-2"), eur("50.00"))))
                    .get();
            assertThat(effects)
                    .containsExactly(
                            new Effect.CreditAllocated(
                                    payment("P-1"), "C", List.of(new Settlement("I-1", eur("25.00")))),
                            new Effect.CreditAllocated(
                                    payment("P-2"),
                                    "C",
                                    List.of(new Settlement("I-1", eur("35.00")), new Settlement("I-2", eur("10.00")))));
            assertThat(Receiving.allocateCredit(
                                    "C",
                                    List.of(new Settlement("I-1", eur("60.00"))),
                                    invoices,
                                    List.of(new Receiving.Credit(payment("P-1"), eur("59.99"))))
                            .refusals())
                    .extracting(r -> r.sentence())
                    .containsExactly("Customer C has EUR 59.99 to allocate; EUR 60.00 were requested.");
        }
    }
}
