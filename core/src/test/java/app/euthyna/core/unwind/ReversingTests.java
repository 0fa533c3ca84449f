package app.euthyna.core.unwind;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Sale.codes;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.goods.StockCount;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** What was posted by mistake, or came to nothing, is mirrored: credit notes, payments, deposits, refunds, receipts. */
class ReversingTests extends Undone {

    private UnwindContext.Taken taken = UnwindContext.Taken.NOTHING;

    private Decision<Plan> takeBack(DocumentKind kind, String number) {
        return takeBack(kind, number, false);
    }

    private Decision<Plan> takeBack(DocumentKind kind, String number, boolean withdrawn) {
        return Planner.plan(
                new UnwindContext(List.of(sale.chain()), sale.open(), applied, sources, closed, bounds, taken),
                new UnwindRequest(
                        new Intent.TakeBack(new DocumentRef(kind, number), withdrawn),
                        choices,
                        who,
                        "a mistake",
                        "faulty",
                        TODAY,
                        numbers()));
    }

    private RefundRules.Source source(
            DocumentKind kind, String number, String amount, String left, String refunded, Map<String, Money> settled) {
        return new RefundRules.Source(
                new DocumentRef(kind, number), "C", eur(amount), eur(left), eur(refunded), false, settled);
    }

    @Nested
    class ACreditNote {

        private CreditNote credited(Invoice invoice, Quantity quantity) {
            var posted = Crediting.credit(
                            invoice,
                            sale.chain().credits(),
                            List.of(Crediting.Share.of(1, quantity)),
                            sale.open().get(invoice.number()),
                            new Crediting.Terms(() -> "CN-1", TODAY, "a mistake", BigDecimal.ZERO, false))
                    .get();
            sale.happen(posted);
            return posted.credit();
        }

        @Test
        void makesItsInvoiceOpenAgainAndItsGoodsCreditable() {
            var invoice = shippedAndBilled();
            credited(invoice, q(2));
            sources.add(source(
                    DocumentKind.CREDIT_NOTE, "CN-1", "24.20", "0.00", "0.00", Map.of(invoice.number(), eur("24.20"))));
            var plan = takeBack(DocumentKind.CREDIT_NOTE, "CN-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_CREDIT);
            assertThat(plan.value()).isEqualTo(eur("24.20"));
            var effect = (Effect.CreditNoteReversed) plan.effects().get(0);
            assertThat(effect.settlements()).containsExactly(new Settlement(invoice.number(), eur("24.20")));
            assertThat(sale.chain().flow(1).credited()).isEqualTo(q(2));
            var after = sale.chain().after(plan.effects());
            assertThat(after.flow(1).credited()).isEqualTo(q(0));
            assertThat(Crediting.left(invoice, Chain.credits(List.of(after))))
                    .extracting(Crediting.Left::quantity)
                    .containsExactly(q(6));
        }

        @Test
        void isTakenOffWhateverItsCreditPaysFirst() {
            credited(shippedAndBilled(), q(2));
            sources.add(
                    source(DocumentKind.CREDIT_NOTE, "CN-1", "24.20", "4.20", "0.00", Map.of("2026-9", eur("20.00"))));
            var plan = takeBack(DocumentKind.CREDIT_NOTE, "CN-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.UNALLOCATE_CREDIT, Plan.Kind.REVERSE_CREDIT);
            assertThat(plan.effects().get(0))
                    .isEqualTo(new Effect.AllocationTakenOff(
                            new DocumentRef(DocumentKind.CREDIT_NOTE, "CN-1"),
                            "C",
                            List.of(new Settlement("2026-9", eur("20.00")))));
        }

        @Test
        void thatWasRefundedStaysUntilTheRefundIsTakenBack() {
            credited(shippedAndBilled(), q(2));
            sources.add(source(DocumentKind.CREDIT_NOTE, "CN-1", "24.20", "14.20", "10.00", Map.of()));
            assertThat(codes(takeBack(DocumentKind.CREDIT_NOTE, "CN-1"))).isEqualTo("already-refunded");
        }

        @Test
        void isTakenBackOnce() {
            credited(shippedAndBilled(), q(2));
            sources.add(source(DocumentKind.CREDIT_NOTE, "CN-1", "24.20", "24.20", "0.00", Map.of()));
            takeBack(DocumentKind.CREDIT_NOTE, "CN-1").get().effects().forEach(sale::happen);
            assertThat(codes(takeBack(DocumentKind.CREDIT_NOTE, "CN-1"))).isEqualTo("already-reversed");
        }

        @Test
        void ofGoodsBilledAheadNeedsThemAsOpenAsTheyWere() {
            sale.billAhead(q(4));
            var invoice = sale.chain().invoices().get(0);
            var credit = credited(invoice, q(3));
            assertThat(credit.lines().get(0).ahead()).isEqualTo(q(3));
            sources.add(source(
                    DocumentKind.CREDIT_NOTE, "CN-1", "36.30", "0.00", "0.00", Map.of(invoice.number(), eur("36.30"))));
            assertThat(sale.chain().flow(1).ahead()).isEqualTo(q(1));
            var after = sale.chain()
                    .after(takeBack(DocumentKind.CREDIT_NOTE, "CN-1").get().effects());
            assertThat(after.flow(1).ahead()).as("billed ahead again").isEqualTo(q(4));
            assertThat(after.invoices().get(0).line(1).unearned()).isEqualTo(eur("40.00"));
            // of ten ordered, eight leave without being billed: two are open, one of them is billed ahead
            sale.leave("D-1", Map.of(1, q(8)), Map.of(1, eur("32.00")));
            assertThat(codes(takeBack(DocumentKind.CREDIT_NOTE, "CN-1"))).isEqualTo("more-than-open");
        }
    }

    @Nested
    class APayment {

        @Test
        void thatBouncedOpensWhatItSettled() {
            sources.add(source(DocumentKind.PAYMENT, "P-1", "50.00", "20.00", "0.00", Map.of("2026-1", eur("30.00"))));
            var plan = takeBack(DocumentKind.PAYMENT, "P-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_PAYMENT);
            assertThat(plan.effects())
                    .containsExactly(new Effect.PaymentReversed(
                            "P-1", "C", eur("50.00"), List.of(new Settlement("2026-1", eur("30.00")))));
        }

        @Test
        void ofWhichSomeWasRefundedStays() {
            sources.add(source(DocumentKind.PAYMENT, "P-1", "50.00", "20.00", "30.00", Map.of()));
            assertThat(codes(takeBack(DocumentKind.PAYMENT, "P-1"))).isEqualTo("already-refunded");
        }
    }

    @Nested
    class ADeposit {

        private final UnwindContext.DepositTaken untouched =
                new UnwindContext.DepositTaken(Optional.empty(), eur("0.00"), List.of());

        private void deposited() {
            sale.happen(new Effect.DepositReceived("DP-1", "C", "SO-1", TODAY, eur("60.00")));
            taken = UnwindContext.Taken.of(untouched);
        }

        @Test
        void isUnappliedFirst() {
            deposited();
            var invoice = shippedAndBilled().number();
            sale.happen(new Effect.DepositApplied("DP-1", "C", "SO-1", List.of(new Settlement(invoice, eur("60.00")))));
            applied.add(new UnwindContext.Applied("DP-1", "SO-1", "C", invoice, eur("60.00")));
            var plan = takeBack(DocumentKind.DEPOSIT, "DP-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.UNAPPLY_DEPOSIT, Plan.Kind.REVERSE_DEPOSIT);
            plan.effects().forEach(sale::happen);
            assertThat(sale.chain().unappliedDeposits()).isEqualTo(eur("0.00"));
            assertThat(codes(takeBack(DocumentKind.DEPOSIT, "DP-1"))).isEqualTo("already-reversed");
        }

        @Test
        void thatBecameCreditTakesThatAlong() {
            deposited();
            sale.happen(new Effect.DepositCredited("DP-1", "SO-1", "C", eur("60.00")));
            sources.add(source(DocumentKind.DEPOSIT, "DP-1", "60.00", "10.00", "0.00", Map.of("2026-9", eur("50.00"))));
            var plan = takeBack(DocumentKind.DEPOSIT, "DP-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.UNALLOCATE_CREDIT, Plan.Kind.REVERSE_DEPOSIT);
            assertThat(((Effect.DepositReversed) plan.effects().get(1)).credited())
                    .isEqualTo(eur("60.00"));
        }

        @Test
        void thatWentOnAsAnotherOrWasRefundedStays() {
            deposited();
            taken = UnwindContext.Taken.of(
                    new UnwindContext.DepositTaken(Optional.empty(), eur("0.00"), List.of("DP-2")));
            assertThat(codes(takeBack(DocumentKind.DEPOSIT, "DP-1"))).isEqualTo("deposit-attached");
            taken = UnwindContext.Taken.of(new UnwindContext.DepositTaken(Optional.empty(), eur("5.00"), List.of()));
            assertThat(codes(takeBack(DocumentKind.DEPOSIT, "DP-1"))).isEqualTo("already-refunded");
        }

        @Test
        void thatWasMovedGoesBackToTheOneItCameFrom() {
            deposited();
            sale.happen(new Effect.DepositMoved("DP-1", "SO-1", "DP-2", "SO-1", "C", TODAY, eur("60.00")));
            var origin = new Deposit.Origin("DP-1", "SO-1");
            taken = UnwindContext.Taken.of(new UnwindContext.DepositTaken(Optional.of(origin), eur("0.00"), List.of()));
            takeBack(DocumentKind.DEPOSIT, "DP-2").get().effects().forEach(sale::happen);
            assertThat(sale.chain().deposits())
                    .extracting(one -> one.number() + " " + one.unapplied() + " " + one.reversed())
                    .containsExactly("DP-1 EUR 60.00 false", "DP-2 EUR 0.00 true");
        }
    }

    @Nested
    class ARefund {

        private void refunded(UnwindContext.MoneyOut money, boolean reversed) {
            taken = UnwindContext.Taken.of(new UnwindContext.RefundTaken(
                    new RefundRules.Refund(
                            "RF-1", "C", new DocumentRef(DocumentKind.PAYMENT, "P-1"), "", eur("8.00"), reversed),
                    money));
        }

        @Test
        void thatWasNotSentIsCustomerCreditAgain() {
            refunded(UnwindContext.MoneyOut.NOT_SENT, false);
            var plan = takeBack(DocumentKind.REFUND, "RF-1").get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_REFUND);
            assertThat(plan.effects()).hasOnlyElementsOfType(Effect.RefundReversed.class);
        }

        @Test
        void thatWasPaidNeedsTheLeadsWordThatTheMoneyCameBack() {
            refunded(UnwindContext.MoneyOut.PAID, false);
            assertThat(codes(takeBack(DocumentKind.REFUND, "RF-1"))).isEqualTo("not-authorised");
            who = new Person("lead", Role.LEAD);
            assertThat(takeBack(DocumentKind.REFUND, "RF-1")
                            .get()
                            .steps()
                            .get(0)
                            .by())
                    .containsExactly(Role.LEAD);
        }

        @Test
        void onItsWayOrTakenBackBeforeIsNot() {
            refunded(UnwindContext.MoneyOut.ON_ITS_WAY, false);
            assertThat(codes(takeBack(DocumentKind.REFUND, "RF-1"))).isEqualTo("already-refunded");
            refunded(UnwindContext.MoneyOut.NOT_SENT, true);
            assertThat(codes(takeBack(DocumentKind.REFUND, "RF-1"))).isEqualTo("already-reversed");
        }
    }

    @Nested
    class AReceipt {

        private Return restocked() {
            shippedAndBilled();
            var goods = sale.allowed("faulty", Sale.ofDispatch("D-1", 1, q(3)));
            sale.receive(goods);
            sale.restock(goods);
            return sale.now(goods);
        }

        /** Three came back at 12.00; the shelf holds so many, worth so much, some of them for orders. */
        private void shelf(long onHand, long reserved, String value, StockCount.Held... held) {
            taken = UnwindContext.Taken.of(List.of(
                    new UnwindContext.Stocked(new Shelf("S", "A", q(onHand), q(reserved), eur(value)), List.of(held))));
        }

        private StockCount.Held held(String order, long quantity, long clearing) {
            var line = new LineRef(order, 1);
            return new StockCount.Held(line, q(quantity), new Claim(line, q(quantity), TODAY, clearing));
        }

        @Test
        void isTakenBackWithWhatWasDecidedOnItsGoods() {
            var goods = restocked();
            shelf(7, 0, "30.00");
            var plan = takeBack(DocumentKind.RETURN, goods.number()).get();
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_INSPECTION, Plan.Kind.REVERSE_RECEIPT);
            assertThat(asked(plan)).containsExactly("return");
            assertThat(plan.value()).isEqualTo(eur("12.00"));
            plan.effects().forEach(sale::happen);
            assertThat(sale.chain().flow(1).returned()).isEqualTo(q(0));
            assertThat(sale.now(goods).expectsMore()).isTrue();
            assertThat(codes(takeBack(DocumentKind.RETURN, goods.number()))).isEqualTo("already-reversed");
            // they come after all
            sale.receive(goods);
            assertThat(sale.chain().flow(1).returned()).isEqualTo(q(3));
            assertThat(sale.now(goods).line(1).parts())
                    .extracting(Return.Part::no)
                    .as("each receipt has a part of its own")
                    .containsExactly(1, 2);
        }

        @Test
        void mayBeWithdrawnWithIt() {
            var goods = restocked();
            shelf(7, 0, "30.00");
            assertThat(kinds(takeBack(DocumentKind.RETURN, goods.number(), true).get()))
                    .containsExactly(
                            Plan.Kind.REVERSE_INSPECTION, Plan.Kind.REVERSE_RECEIPT, Plan.Kind.WITHDRAW_RETURN);
        }

        @Test
        void takesReservedGoodsFromTheLastInTheQueue() {
            var goods = restocked();
            shelf(5, 4, "20.00", held("SO-8", 2, 8), held("SO-9", 2, 9));
            var plan = takeBack(DocumentKind.RETURN, goods.number()).get();
            assertThat(plan.effects().subList(0, 1))
                    .containsExactly(new Effect.ReservationReleased(new LineRef("SO-9", 1), "S", "A", q(2)));
            assertThat(plan.effects())
                    .filteredOn(Effect.StockCounted.class::isInstance)
                    .isEmpty();
        }

        @Test
        void isRefusedWhereItsGoodsAreStagedOrGone() {
            var goods = restocked();
            shelf(5, 3, "20.00", held("SO-9", 0, 9));
            assertThat(codes(takeBack(DocumentKind.RETURN, goods.number())))
                    .as("two are not staged")
                    .isEqualTo("goods-gone");
            shelf(2, 0, "8.00");
            assertThat(codes(takeBack(DocumentKind.RETURN, goods.number()))).isEqualTo("goods-gone");
        }

        @Test
        void adjustsWhatWouldLeaveTheShelfEmptyWithValueOrBelowZero() {
            var goods = restocked();
            shelf(3, 0, "13.50");
            assertThat(adjusted(goods)).containsExactly(eur("-1.50"));
            shelf(4, 0, "11.00");
            assertThat(adjusted(goods)).containsExactly(eur("1.00"));
            shelf(3, 0, "12.00");
            assertThat(adjusted(goods)).isEmpty();
        }

        private List<Money> adjusted(Return goods) {
            return takeBack(DocumentKind.RETURN, goods.number()).get().effects().stream()
                    .filter(Effect.StockCounted.class::isInstance)
                    .map(effect -> ((Effect.StockCounted) effect).value())
                    .toList();
        }

        @Test
        void ofCreditedGoodsWaitsForTheCreditNote() {
            var goods = restocked();
            sale.credit(goods, "0").get();
            shelf(7, 0, "30.00");
            assertThat(codes(takeBack(DocumentKind.RETURN, goods.number()))).isEqualTo("already-credited");
        }
    }
}
