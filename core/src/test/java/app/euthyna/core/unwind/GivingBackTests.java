package app.euthyna.core.unwind;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Goods that come back and money that goes back: what each plan does, who waits for whom, and what there is not. */
class GivingBackTests extends Undone {

    @Nested
    class GoodsThatAreGone {

        @Test
        void comeBackByAReturnTheRestOfWhichIsToldAheadAndWaits() {
            shippedAndBilled();
            var plan = plan(new Intent.TakeGoodsBack(ORDER, List.of())).get();
            assertThat(kinds(plan))
                    .containsExactly(
                            Plan.Kind.AUTHORISE_RETURN,
                            Plan.Kind.RECEIVE_GOODS,
                            Plan.Kind.INSPECT_GOODS,
                            Plan.Kind.CREDIT);
            assertThat(plan.steps())
                    .extracting(Plan.Step::timing)
                    .containsExactly(Plan.Timing.NOW, Plan.Timing.WAITS, Plan.Timing.SOMEBODY_ELSE, Plan.Timing.NOW);
            assertThat(plan.now()).as("nothing behind the goods is done now").hasSize(1);
            assertThat(plan.waitsAt().orElseThrow().by()).containsExactly(Role.WAREHOUSE);
            assertThat(asked(plan)).containsExactly("money", "restocking");
            assertThat(plan.value()).isEqualTo(eur("60.00"));
            plan.effects().forEach(sale::happen);
            assertThat(sale.chain().flow(1).returned()).isEqualTo(q(6));
            assertThat(sale.chain().flow(1).credited()).isEqualTo(q(6));
            assertThat(sale.ledger().get(AccountRole.RECEIVABLES)).isEqualTo(eur("0.00"));
        }

        @Test
        void ofADispatchOrAnInvoiceOnlyTheirs() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var invoice = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            sale.leave("D-2", Map.of(1, q(3)), Map.of(1, eur("12.00")));
            assertThat(authorised(new DocumentRef(DocumentKind.DISPATCH, "D-2")))
                    .isEqualTo("D-2/1: 3");
            assertThat(authorised(new DocumentRef(DocumentKind.INVOICE, invoice.number())))
                    .isEqualTo("D-1/1: 2");
            assertThat(authorised(ORDER)).isEqualTo("D-1/1: 6, D-2/1: 3");
            assertThat(authorised(ORDER, new Intent.Part(1, q(7))))
                    .as("of the oldest dispatch first")
                    .isEqualTo("D-1/1: 6, D-2/1: 1");
            assertThat(authorised(new DocumentRef(DocumentKind.INVOICE, invoice.number()), new Intent.Part(1, q(1))))
                    .isEqualTo("D-1/1: 1");
        }

        private String authorised(DocumentRef subject, Intent.Part... parts) {
            var plan = plan(new Intent.TakeGoodsBack(subject, List.of(parts))).get();
            var goods = (Effect.ReturnAuthorised) plan.steps().get(0).effects().get(0);
            return String.join(
                    ", ",
                    goods.authorised().lines().stream()
                            .map(l -> "%s/%d: %s"
                                    .formatted(
                                            l.dispatchLine().number(),
                                            l.dispatchLine().line(),
                                            l.authorised()))
                            .toList());
        }

        @Test
        void noMoreThanIsOut() {
            var invoice = shippedAndBilled();
            assertThat(codes(plan(new Intent.TakeGoodsBack(ORDER, List.of(new Intent.Part(1, q(7)))))))
                    .isEqualTo("more-than-returnable");
            assertThat(codes(plan(new Intent.TakeGoodsBack(
                            ORDER, List.of(new Intent.Part(1, q(3)), new Intent.Part(1, q(4)))))))
                    .as("asked for in two parts")
                    .isEqualTo("more-than-returnable");
            assertThat(codes(plan(new Intent.TakeGoodsBack(ORDER, List.of(new Intent.Part(1, q(0)))))))
                    .isEqualTo("incomplete");
            carriedOut(new Intent.TakeBackInvoice(invoice.number(), true));
            assertThat(codes(plan(new Intent.TakeGoodsBack(ORDER, List.of()))))
                    .as("nothing has left")
                    .isEqualTo("more-than-returnable");
            assertThat(codes(plan(new Intent.TakeGoodsBack(
                            new DocumentRef(DocumentKind.INVOICE, invoice.number()), List.of()))))
                    .as("the invoice was taken back")
                    .isNotEmpty();
        }

        @Test
        void thatWereNotBilledAreNotCredited() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var plan = plan(new Intent.TakeGoodsBack(ORDER, List.of())).get();
            assertThat(kinds(plan))
                    .containsExactly(Plan.Kind.AUTHORISE_RETURN, Plan.Kind.RECEIVE_GOODS, Plan.Kind.INSPECT_GOODS);
            assertThat(asked(plan)).isEmpty();
        }

        @Test
        void areRefundedWithWhatTheInvoiceDoesNotTakeAndLessTheFee() {
            var invoice = shippedAndBilled();
            sources.add(source(DocumentKind.PAYMENT, "P-1", "0.00", Map.of(invoice.number(), eur("72.60"))));
            choices = new Choices(Optional.of(Choices.MoneyTo.REFUND), new BigDecimal("10"), false);
            var plan = Planner.plan(
                            new UnwindContext(
                                    List.of(sale.chain()),
                                    Map.of(invoice.number(), eur("0.00")),
                                    applied,
                                    sources,
                                    closed,
                                    bounds),
                            new UnwindRequest(
                                    new Intent.TakeGoodsBack(ORDER, List.of()),
                                    choices,
                                    who,
                                    "a mistake",
                                    "faulty",
                                    TODAY,
                                    numbers()))
                    .get();
            assertThat(kinds(plan)).endsWith(Plan.Kind.CREDIT, Plan.Kind.REFUND);
            assertThat(plan.steps().get(3).sentence())
                    .isEqualTo("EUR 65.34 of invoice %s is credited, less a restocking fee of EUR 6.00 net"
                            .formatted(invoice.number()));
            assertThat(plan.steps().get(4).sentence()).isEqualTo("EUR 65.34 is refunded to the customer");
            assertThat(plan.steps().get(4).effects())
                    .as("a series without gaps lends no number to what can't be made yet")
                    .singleElement()
                    .satisfies(effect ->
                            assertThat(((Effect.RefundGiven) effect).refund()).isEqualTo("RF-new"));
        }

        @Test
        void theRestOfAPlanGoesOnWithWhatReallyCame() {
            shippedAndBilled();
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(6)));
            sale.receive(goods, new Returning.Came(1, q(2)));
            var request = new UnwindRequest(
                    new Intent.TakeGoodsBack(ORDER, List.of()), choices, who, "why", "faulty", TODAY, numbers());
            var unwind = new UnwindContext(List.of(sale.chain()), sale.open(), applied, sources, closed, bounds);
            var rest = Planner.rest(unwind, request, sale.now(goods)).get();
            assertThat(kinds(rest)).startsWith(Plan.Kind.RECEIVE_GOODS);
            assertThat(rest.now()).isEmpty();
            sale.happen(
                    Returning.withdraw(sale.now(goods), sale.chain().credits()).get());
            sale.restock(goods);
            var last = Planner.rest(
                            new UnwindContext(List.of(sale.chain()), sale.open(), applied, sources, closed, bounds),
                            request,
                            sale.now(goods))
                    .get();
            assertThat(kinds(last)).containsExactly(Plan.Kind.CREDIT);
            assertThat(last.now()).isEqualTo(last.steps());
        }

        @Test
        void ofAReturnThatWasWithdrawnBeforeAnythingCameNothingIsLeftToDo() {
            shippedAndBilled();
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(6)));
            sale.happen(
                    Returning.withdraw(sale.now(goods), sale.chain().credits()).get());
            var rest = Planner.rest(
                    new UnwindContext(List.of(sale.chain()), sale.open(), applied, sources, closed, bounds),
                    new UnwindRequest(
                            new Intent.TakeGoodsBack(ORDER, List.of()),
                            choices,
                            who,
                            "why",
                            "faulty",
                            TODAY,
                            numbers()),
                    sale.now(goods));
            assertThat(rest.get().steps()).isEmpty();
        }
    }

    @Nested
    class MoneyThatIsNotUsed {

        private void deposited(String number, String amount) {
            sale.happen(new Effect.DepositReceived(number, "C", "SO-1", TODAY, eur(amount)));
        }

        @Test
        void goesBackOrBecomesCustomerCredit() {
            deposited("DP-1", "40.00");
            var refunded = plan(new Intent.GiveMoneyBack(ORDER)).get();
            assertThat(kinds(refunded)).containsExactly(Plan.Kind.REFUND);
            assertThat(asked(refunded)).containsExactly("money");
            assertThat(refunded.value()).isEqualTo(eur("40.00"));
            keeping();
            var kept = carriedOut(new Intent.GiveMoneyBack(ORDER));
            assertThat(kinds(kept)).containsExactly(Plan.Kind.MOVE_TO_CUSTOMER_CREDIT);
            assertThat(sale.chain().unappliedDeposits()).isEqualTo(eur("0.00"));
        }

        @Test
        void ofOneDocumentLeavesTheOthers() {
            deposited("DP-1", "40.00");
            deposited("DP-2", "7.00");
            sources.add(source(DocumentKind.PAYMENT, "P-1", "3.00", Map.of()));
            assertThat(plan(new Intent.GiveMoneyBack(new DocumentRef(DocumentKind.DEPOSIT, "DP-2")))
                            .get()
                            .value())
                    .isEqualTo(eur("7.00"));
            assertThat(plan(new Intent.GiveMoneyBack(new DocumentRef(DocumentKind.PAYMENT, "P-1")))
                            .get()
                            .value())
                    .isEqualTo(eur("3.00"));
            assertThat(plan(new Intent.GiveMoneyBack(ORDER)).get().value()).isEqualTo(eur("50.00"));
        }

        @Test
        void saysWhyThereIsNone() {
            assertThat(codes(plan(new Intent.GiveMoneyBack(ORDER)))).isEqualTo("more-than-open");
            var payment = new DocumentRef(DocumentKind.PAYMENT, "P-1");
            sources.add(source(DocumentKind.PAYMENT, "P-1", "0.00", Map.of("2026-1", eur("5.00"))));
            assertThat(codes(plan(new Intent.GiveMoneyBack(payment)))).isEqualTo("payment-attached");
            sources.clear();
            sources.add(source(DocumentKind.PAYMENT, "P-1", "5.00", Map.of()));
            keeping();
            assertThat(plan(new Intent.GiveMoneyBack(payment)).refusals())
                    .as("it is customer credit")
                    .singleElement()
                    .isInstanceOf(UnwindRefusal.CreditAlready.class);
        }

        @Test
        void aboveTheLimitWaitsForTheFinanceLead() {
            deposited("DP-1", "40.00");
            bounds = new RefundRules.Bounds(
                    new RoleLimits(Map.of(Role.CONTROLLER, eur("50.00"))),
                    Map.of("controller", eur("10.00")),
                    Map.of(),
                    Map.of());
            assertThat(plan(new Intent.GiveMoneyBack(ORDER))
                            .get()
                            .steps()
                            .get(0)
                            .timing())
                    .as("at the limit with what was refunded before")
                    .isEqualTo(Plan.Timing.NOW);
            deposited("DP-2", "0.01");
            var over = plan(new Intent.GiveMoneyBack(ORDER)).get().steps().get(0);
            assertThat(over.timing()).isEqualTo(Plan.Timing.SOMEBODY_ELSE);
            assertThat(over.by()).containsExactly(Role.LEAD);
            assertThat(over.sentence())
                    .isEqualTo("EUR 40.01 would be refunded to the customer once the finance lead approves; with EUR"
                            + " 10.00 refunded in the last 30 days, up to EUR 50.00 needs no approval");
            who = new Person("lead", Role.LEAD);
            assertThat(plan(new Intent.GiveMoneyBack(ORDER))
                            .get()
                            .steps()
                            .get(0)
                            .timing())
                    .isEqualTo(Plan.Timing.NOW);
        }

        @Test
        void isNotGivenBackByWhoeverRecordedIt() {
            deposited("DP-1", "40.00");
            bounds = new RefundRules.Bounds(
                    RoleLimits.NONE,
                    Map.of(),
                    Map.of(),
                    Map.of(new DocumentRef(DocumentKind.DEPOSIT, "DP-1"), Set.of("controller")));
            var step = plan(new Intent.GiveMoneyBack(ORDER)).get().steps().get(0);
            assertThat(step.timing()).isEqualTo(Plan.Timing.SOMEBODY_ELSE);
            assertThat(step.by()).as("any other controller may").isEqualTo(Planner.MAY_UNDO);
            assertThat(step.sentence()).endsWith("once another person approves; controller recorded the money");
        }

        @Test
        void thatSomeoneAgreedToIsRefundedAsFarAsItIsStillThere() {
            var payment = new DocumentRef(DocumentKind.PAYMENT, "P-1");
            sources.add(source(DocumentKind.PAYMENT, "P-1", "30.00", Map.of()));
            var unwind = new UnwindContext(List.of(sale.chain()), Map.of(), applied, sources, closed, bounds);
            var request =
                    new UnwindRequest(new Intent.GiveMoneyBack(payment), choices, who, "why", "", TODAY, numbers());
            var agreed = List.of(new Effect.RefundGiven("RF-1", "C", payment, "", eur("50.00")));
            assertThat(Planner.refund(unwind, request, agreed).get().value()).isEqualTo(eur("30.00"));
            var gone =
                    new Effect.RefundGiven("RF-1", "C", new DocumentRef(DocumentKind.PAYMENT, "P-9"), "", eur("50.00"));
            assertThat(codes(Planner.refund(unwind, request, List.of(gone)))).isEqualTo("more-than-open");
        }
    }

    @Test
    void placeholdersAreToldApart() {
        var placeholders = new Placeholders();
        assertThat(List.of(
                        placeholders.apply(DocumentKind.REFUND),
                        placeholders.apply(DocumentKind.REFUND),
                        placeholders.apply(DocumentKind.CREDIT_NOTE)))
                .containsExactly("RF-new", "RF-new-2", "C-new");
    }
}
