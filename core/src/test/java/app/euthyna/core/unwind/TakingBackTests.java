package app.euthyna.core.unwind;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.euthyna.core.Given;
import app.euthyna.core.Sale;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/**
 * What was posted by mistake, and orders that are given up: what each plan does, in which sequence, and what stands in
 * its way; its effects are carried out on values.
 */
class TakingBackTests extends Undone {

    @Nested
    class AnInvoice {

        @Test
        void isMirroredAndItsGoodsAreToBeBilledAgain() {
            var invoice = shippedAndBilled();
            var plan = carriedOut(new Intent.TakeBackInvoice(invoice.number(), false));
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_INVOICE);
            assertThat(plan.value()).isEqualTo(eur("72.60"));
            assertThat(asked(plan)).as("what of the dispatch?").containsExactly("dispatch");
            assertThat(sale.chain().flow(1).toBill()).isEqualTo(q(6));
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .isEqualTo("already-reversed");
        }

        @Test
        void withItsDispatchTheGoodsAreBackOnTheShelf() {
            var invoice = shippedAndBilled();
            var plan = carriedOut(new Intent.TakeBackInvoice(invoice.number(), true));
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_INVOICE, Plan.Kind.REVERSE_DISPATCH);
            assertThat(sale.chain().flow(1).dispatched()).isEqualTo(q(0));
            assertThat(sale.chain().flow(1).reserved()).isEqualTo(q(6));
        }

        @Test
        void setsMoneyFreeFirstAndRefundsItWhereThatIsChosen() {
            var invoice = shippedAndBilled();
            var settled = Map.of(invoice.number(), eur("50.00"), "another", eur("7.00"));
            sources.add(source(DocumentKind.PAYMENT, "P-1", "0.00", settled));
            sources.add(source(DocumentKind.PAYMENT, "P-2", "9.00", Map.of("another", eur("7.00"))));
            applied.add(new UnwindContext.Applied("DP-1", "SO-1", "C", invoice.number(), eur("22.60")));
            applied.add(new UnwindContext.Applied("DP-1", "SO-1", "C", "another", eur("5.00")));
            var plan = plan(new Intent.TakeBackInvoice(invoice.number(), false)).get();
            assertThat(kinds(plan))
                    .containsExactly(
                            Plan.Kind.UNALLOCATE_PAYMENT, Plan.Kind.UNAPPLY_DEPOSIT, Plan.Kind.REVERSE_INVOICE);
            assertThat(asked(plan)).containsExactly("dispatch", "money");
            assertThat(plan.steps().get(0).sentence())
                    .isEqualTo("EUR 50.00 of payment P-1 is unallocated and kept as customer credit");
            assertThat(plan.steps().get(1).sentence()).isEqualTo("EUR 22.60 of deposit DP-1 unapplied from it");
            refunding();
            var refunded =
                    plan(new Intent.TakeBackInvoice(invoice.number(), true)).get();
            assertThat(kinds(refunded))
                    .as("goods do not wait for a word on the money")
                    .containsExactly(
                            Plan.Kind.UNALLOCATE_PAYMENT,
                            Plan.Kind.UNAPPLY_DEPOSIT,
                            Plan.Kind.REVERSE_INVOICE,
                            Plan.Kind.REVERSE_DISPATCH,
                            Plan.Kind.REFUND);
            assertThat(refunded.steps().get(4).effects())
                    .containsExactly(new Effect.RefundGiven(
                            "RF-X1", "C", new DocumentRef(DocumentKind.PAYMENT, "P-1"), "", eur("50.00")));
        }

        @Test
        void staysWhereItIsCreditedOrItsGoodsCameBack() {
            var invoice = shippedAndBilled();
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .as("authorised from the dispatch, nothing is here")
                    .isEmpty();
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), true))))
                    .as("the dispatch has a return")
                    .isEqualTo("already-returned");
            sale.receive(goods, new Returning.Came(1, q(2)));
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .isEqualTo("already-returned");
            sale.restock(goods);
            sale.credit(goods, "0").get();
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .as("both are said")
                    .isEqualTo("already-credited,already-returned");
        }

        @Test
        void withItsDispatchOnlyWhereNoOtherInvoiceBillsThat() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var first = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            sale.bill();
            assertThat(codes(plan(new Intent.TakeBackInvoice(first.number(), true))))
                    .isEqualTo("already-billed");
            assertThat(codes(plan(new Intent.TakeBackInvoice(first.number(), false))))
                    .isEmpty();
        }

        @Test
        void thatBilledAheadIsEarnedNoMore() {
            sale.billAhead(q(4));
            var plan = carriedOut(new Intent.TakeBackInvoice("2026-1", false));
            assertThat(asked(plan)).as("no dispatch, no money").isEmpty();
            assertThat(sale.chain().flow(1).ahead()).isEqualTo(q(0));
            assertThat(sale.chain().flow(1).reserved()).isEqualTo(q(4));
        }
    }

    @Nested
    class ADispatch {

        @Test
        void thatIsStagedIsVoided() {
            sale.happen(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", q(4)));
            sale.happen(new Effect.DispatchStaged(Given.staged("D-1", "A", q(4))));
            var plan = carriedOut(new Intent.TakeBackDispatch("D-1"));
            assertThat(kinds(plan)).containsExactly(Plan.Kind.VOID_STAGED);
            assertThat(plan.value()).isEqualTo(eur("40.00"));
            assertThat(sale.chain().flow(1).reserved()).isEqualTo(q(4));
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1")))).isEqualTo("already-reversed");
        }

        @Test
        void thatHasDepartedIsMirroredUnlessItIsBilled() {
            var invoice = shippedAndBilled();
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1")))).isEqualTo("already-billed");
            carriedOut(new Intent.TakeBackInvoice(invoice.number(), false));
            var plan = carriedOut(new Intent.TakeBackDispatch("D-1"));
            assertThat(kinds(plan)).containsExactly(Plan.Kind.REVERSE_DISPATCH);
            assertThat(sale.chain().flow(1).reserved()).isEqualTo(q(6));
        }

        @Test
        void whoseReturnWasWithdrawnWithNothingHereMayGo() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1")))).isEqualTo("already-returned");
            sale.happen(
                    Returning.withdraw(sale.now(goods), sale.chain().credits()).get());
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1")))).isEmpty();
        }

        @Test
        void whoseGoodsWereBilledAheadAndCreditedSinceStays() {
            sale.billAhead(q(4));
            var staged = Given.staged("D-1", "A", q(4));
            sale.happen(new Effect.DispatchStaged(staged));
            sale.happen(Dispatching.depart(
                            sale.chain(),
                            sale.chain().dispatches().get(0),
                            Map.of("A", new Shelf("S", "A", q(4), q(4), eur("16.00"))),
                            TODAY)
                    .get());
            credited(Crediting.Share.of(1, eur("5.00")));
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1"))))
                    .as("an allowance is for no goods")
                    .isEmpty();
            credited(Crediting.Share.of(1, q(1)));
            assertThat(codes(plan(new Intent.TakeBackDispatch("D-1")))).isEqualTo("already-credited");
        }

        private void credited(Crediting.Share share) {
            sale.happen(Crediting.credit(
                            sale.chain().invoices().get(0),
                            sale.chain().credits(),
                            List.of(share),
                            sale.open().get("2026-1"),
                            new Crediting.Terms(
                                    () -> "C2026-" + (sale.chain().credits().size() + 1),
                                    TODAY,
                                    "agreed",
                                    BigDecimal.ZERO,
                                    false))
                    .get());
        }
    }

    @Nested
    class AnOrder {

        @Test
        void ofWhichAnythingLeftOrIsBilledIsNotCancelledWhole() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            assertThat(codes(plan(new Intent.CancelOrder("SO-1")))).isEqualTo("departed-goods");
            var service = new Sale(line(1, LineKind.SERVICE, "W", "2", "50.00", "21"));
            service.bill();
            assertThat(codes(Planner.plan(
                            new UnwindContext(
                                    List.of(service.chain()), service.open(), applied, sources, closed, bounds),
                            new UnwindRequest(
                                    new Intent.CancelOrder("SO-1"), choices, who, "why", "", TODAY, numbers()))))
                    .isEqualTo("already-billed");
        }

        @Test
        void thatWaitsForApprovalIsRecalledFirst() {
            sale.happen(new Effect.StateChanged("SO-1", OrderState.CLEARED, OrderState.AWAITING_APPROVAL));
            assertThat(kinds(plan(new Intent.CancelOrder("SO-1")).get())).startsWith(Plan.Kind.RECALL);
        }

        @Test
        void thatWasDeclinedOrHasNothingOpenIsLeftAsItIs() {
            carriedOut(new Intent.CancelRest("SO-1", List.of()));
            assertThat(codes(plan(new Intent.CancelRest("SO-1", List.of())))).isEqualTo("more-than-open");
            sale.happen(new Effect.StateChanged("SO-1", OrderState.CANCELLED, OrderState.DECLINED));
            assertThat(codes(plan(new Intent.CancelRest("SO-1", List.of())))).isEqualTo("order-ended");
            assertThat(codes(plan(new Intent.CancelOrder("SO-1")))).isEqualTo("order-ended");
        }

        @Test
        void namesLinesThatItHasNotAndQuantitiesThatAreNone() {
            assertThat(codes(plan(new Intent.CancelRest(
                            "SO-1", List.of(new Intent.Part(7, q(1)), new Intent.Part(1, q(0)))))))
                    .isEqualTo("not-found,incomplete");
        }

        @Test
        void isPaidBackBeforeNothingIsLeftThatItWasPaidFor() {
            sale.happen(new Effect.DepositReceived("DP-1", "C", "SO-1", TODAY, eur("40.00")));
            assertThat(codes(plan(new Intent.CancelOrder("SO-1")))).isEqualTo("deposit-attached");
            refunding();
            var refunded = plan(new Intent.CancelOrder("SO-1")).get();
            assertThat(kinds(refunded)).containsExactly(Plan.Kind.REFUND, Plan.Kind.CANCEL_QUANTITY);
            assertThat(asked(refunded)).containsExactly("money");
            keeping();
            assertThat(kinds(carriedOut(new Intent.CancelOrder("SO-1"))))
                    .containsExactly(Plan.Kind.MOVE_TO_CUSTOMER_CREDIT, Plan.Kind.CANCEL_QUANTITY);
            assertThat(sale.chain().settledState()).isEqualTo(OrderState.CANCELLED);
        }
    }

    @Nested
    class Intents {

        /** Codes stand in REST and in what waits; words on the button. */
        @Test
        void haveACodeAWordAndADocumentToBeginAt() {
            var dispatch = new DocumentRef(DocumentKind.DISPATCH, "D-1");
            var invoice = new DocumentRef(DocumentKind.INVOICE, "2026-1");
            assertThat(List.<Intent>of(
                            new Intent.CancelRest("SO-1", List.of()),
                            new Intent.CancelOrder("SO-1"),
                            new Intent.TakeBackInvoice("2026-1", false),
                            new Intent.TakeBackInvoice("2026-1", true),
                            new Intent.TakeBackDispatch("D-1"),
                            new Intent.TakeGoodsBack(dispatch, List.of()),
                            new Intent.GiveMoneyBack(invoice)))
                    .extracting(Intent::code, Intent::words, Intent::subject)
                    .containsExactly(
                            tuple("cancel-rest", "cancel the rest of order SO-1", ORDER),
                            tuple("cancel-order", "cancel order SO-1", ORDER),
                            tuple("take-back-invoice", "take back invoice 2026-1", invoice),
                            tuple("take-back-invoice", "take back invoice 2026-1 and its dispatch", invoice),
                            tuple("take-back-dispatch", "take back dispatch D-1", dispatch),
                            tuple("take-goods-back", "take back the goods of dispatch D-1", dispatch),
                            tuple("give-money-back", "refund the money of invoice 2026-1", invoice));
            assertThat(Plan.Kind.MOVE_TO_CUSTOMER_CREDIT.code()).isEqualTo("move-to-customer-credit");
        }
    }

    @Nested
    class Anyone {

        @Test
        void whoUndoesMayDoSoAndSaysWhy() {
            who = new Person("clerk", Role.CLERK);
            assertThat(codes(plan(new Intent.CancelOrder("SO-1")))).isEqualTo("not-authorised");
            who = new Person("clerk", Role.CLERK, Set.of(Role.CONTROLLER));
            assertThat(codes(plan(new Intent.CancelOrder("SO-1"))))
                    .as("standing in for a controller")
                    .isEmpty();
            assertThat(codes(Planner.plan(
                            new UnwindContext(List.of(sale.chain()), Map.of(), applied, sources, closed, bounds),
                            new UnwindRequest(
                                    new Intent.CancelOrder("SO-1"), choices, CONTROLLER, " ", "", TODAY, numbers()))))
                    .isEqualTo("incomplete");
        }

        @Test
        void postsNothingIntoAClosedPeriodButMayDoWhatPostsNothing() {
            var invoice = shippedAndBilled();
            closed = Optional.of(TODAY);
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .isEqualTo("period-closed");
            assertThat(codes(plan(new Intent.CancelRest("SO-1", List.of()))))
                    .as("what is open was never posted")
                    .isEmpty();
            assertThat(codes(plan(new Intent.TakeGoodsBack(ORDER, List.of()))))
                    .as("only the authorisation is of now")
                    .isEmpty();
            closed = Optional.of(TODAY.minusDays(1));
            assertThat(codes(plan(new Intent.TakeBackInvoice(invoice.number(), false))))
                    .isEmpty();
        }
    }
}
