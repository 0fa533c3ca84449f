package app.euthyna.core.trail;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;
import static org.assertj.core.api.Assertions.tuple;

import app.euthyna.core.Sale;
import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.Trail.Measure;
import app.euthyna.core.trail.Trail.Row;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Ten ordered; each deed is by a person of its own, so that a row that names the wrong one is seen. */
class TrailRowsTests {

    private static final DocumentRef ORDER = DocumentRef.order("SO-1");
    private static final DocumentRef LEFT = new DocumentRef(DocumentKind.DISPATCH, "D-1");
    private static final DocumentRef PAID = new DocumentRef(DocumentKind.PAYMENT, "P-1");
    private static final DocumentRef DEPOSIT = new DocumentRef(DocumentKind.DEPOSIT, "DP-1");

    private final Sale sale = new Sale(stock(1, "A", "10", "10.00", "21"));
    private final Map<DocumentRef, Stamp> stamps = new HashMap<>(Map.of(ORDER, new Stamp(1, "anna writes")));
    private final List<PaymentFact> payments = new ArrayList<>();
    private final List<DepositFact> deposits = new ArrayList<>();
    private final List<RefundFact> refunds = new ArrayList<>();
    private final List<ReturnMove> moves = new ArrayList<>();
    private final List<ReversalFact> reversals = new ArrayList<>();
    private final List<Remark> remarks = new ArrayList<>();

    private Trail trail() {
        return Trail.of(
                new TrailFacts(
                        ORDER,
                        List.of(sale.chain()),
                        payments,
                        deposits,
                        refunds,
                        moves,
                        reversals,
                        Set.of(),
                        remarks,
                        stamps,
                        List.of()),
                EUR);
    }

    private Row row(int no) {
        return trail().rows().get(no);
    }

    private Row last() {
        var rows = trail().rows();
        return rows.get(rows.size() - 1);
    }

    private Invoice shippedAndBilled() {
        sale.leave("D-1", Map.of(1, q(10)), Map.of(1, eur("40.00")));
        stamps.put(LEFT, new Stamp(2, "bert ships"));
        var invoice = sale.bill();
        stamps.put(new DocumentRef(DocumentKind.INVOICE, invoice.number()), new Stamp(3, "carla bills"));
        return invoice;
    }

    private static PaymentFact.Allocation allocated(Invoice to, String amount, long moment, String by) {
        return new PaymentFact.Allocation(to.number(), eur(amount), TODAY, new Stamp(moment, by));
    }

    /** Received by Dora, and all of it set against invoices, some later. */
    private void paid(String amount, boolean reversed, PaymentFact.Allocation... allocations) {
        stamps.put(PAID, new Stamp(4, "dora receives"));
        payments.add(new PaymentFact(
                PAID, "C", TODAY, eur(amount), eur("0.00"), eur("0.00"), reversed, List.of(allocations)));
    }

    @Nested
    class Actors {

        @Test
        void eachRowIsByWhoeverDidWhatItTells() {
            var invoice = shippedAndBilled();
            paid(
                    "50.00",
                    false,
                    allocated(invoice, "30.00", 4, "dora receives"),
                    allocated(invoice, "20.00", 6, "emil allocates"),
                    allocated(invoice, "-20.00", 7, "fritz unallocates"),
                    allocated(invoice, "20.00", 8, "gerda allocates"));
            remarks.add(
                    new Remark(DocumentRef.order("SO-1"), TODAY, new Stamp(5, "hugo remarks"), "waived: paid", false));
            assertThat(trail().rows())
                    .extracting(Row::moment, Row::by)
                    .containsExactly(
                            tuple(1L, "anna writes"),
                            tuple(2L, "bert ships"),
                            tuple(3L, "carla bills"),
                            tuple(4L, "dora receives"),
                            tuple(5L, "hugo remarks"),
                            tuple(6L, "emil allocates"),
                            tuple(7L, "fritz unallocates"),
                            tuple(8L, "gerda allocates"));
            assertThat(trail().rows())
                    .extracting(Row::open)
                    .containsExactly(
                            eur("0.00"),
                            eur("0.00"),
                            eur("121.00"),
                            eur("91.00"),
                            eur("91.00"),
                            eur("71.00"),
                            eur("91.00"),
                            eur("71.00"));
        }

        @Test
        void whoTookBackIsNotWhoPosted() {
            var invoice = shippedAndBilled();
            sale.happen(new Effect.InvoiceReversed(invoice));
            var billed = new DocumentRef(DocumentKind.INVOICE, invoice.number());
            reversals.add(new ReversalFact(billed, TODAY, new Stamp(9, "ines takes back"), "wrong customer"));
            assertThat(row(2).by()).isEqualTo("carla bills");
            assertThat(row(2).dropped()).isTrue();
            var back = last();
            assertThat(back.by()).isEqualTo("ines takes back");
            assertThat(back.what()).isEqualTo("taken back: wrong customer");
            assertThat(back.undoes()).isTrue();
            assertThat(back.billed()).isEqualTo(eur("-121.00"));
            assertThat(back.open()).isEqualTo(eur("0.00"));
            assertThat(back.units())
                    .containsExactly(new Trail.UnitMove(new LineRef("SO-1", 1), Measure.BILLED, q(10).negated()));
        }

        @Test
        void goodsThatCameBackAreByWhoeverTookThemIn() {
            shippedAndBilled();
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
            var ref = new DocumentRef(DocumentKind.RETURN, goods.number());
            stamps.put(ref, new Stamp(4, "jan allows"));
            var line = new LineRef("SO-1", 1);
            var came = new Stamp(5, "karl receives");
            moves.add(new ReturnMove(goods.number(), TODAY, came, line, ReturnMove.Kind.RECEIVED, q(3)));
            var inspected = new Stamp(6, "lena inspects");
            moves.add(new ReturnMove(goods.number(), TODAY, inspected, line, ReturnMove.Kind.RESTOCKED, q(1)));
            moves.add(new ReturnMove(goods.number(), TODAY, inspected, line, ReturnMove.Kind.SCRAPPED, q(1)));
            moves.add(new ReturnMove(goods.number(), TODAY, inspected, line, ReturnMove.Kind.SENT_BACK, q(1)));
            moves.add(new ReturnMove("RT-other", TODAY, inspected, line, ReturnMove.Kind.SCRAPPED, q(99)));
            var rows = trail().rows();
            assertThat(rows).extracting(Row::by).endsWith("jan allows", "karl receives", "lena inspects");
            assertThat(rows.get(3).what()).isEqualTo("3 authorised");
            assertThat(rows.get(4).what()).isEqualTo("3 received into inspection");
            assertThat(rows.get(4).units()).containsExactly(new Trail.UnitMove(line, Measure.RETURNED, q(3)));
            assertThat(rows.get(5).what()).isEqualTo("1 restocked; 1 scrapped; 1 sent back to the customer");
            assertThat(rows.get(5).units())
                    .as("only what went to the customer again is returned no more")
                    .containsExactly(new Trail.UnitMove(line, Measure.RETURNED, q(1).negated()));
        }

        @Test
        void aDocumentThatTheHistoryDoesNotKnowIsNotGuessedAt() {
            sale.leave("D-1", Map.of(1, q(10)), Map.of(1, eur("40.00")));
            assertThatIllegalStateException()
                    .isThrownBy(TrailRowsTests.this::trail)
                    .withMessageContaining("D-1");
        }
    }

    @Nested
    class Goods {

        private void dispatch(Dispatch.State state) {
            sale.happen(new Effect.DispatchStaged(new Dispatch(
                    "D-1", "SO-1", "QUAY", state, TODAY, List.of(new Dispatch.Line(1, 1, "A", q(4), eur("0.00"))))));
            stamps.put(LEFT, new Stamp(2, "bert ships"));
        }

        @Test
        void areToldByTheStateTheyAreIn() {
            dispatch(Dispatch.State.STAGED);
            assertThat(last().what()).isEqualTo("staged at QUAY, not departed");
            assertThat(last().units()).extracting(Trail.UnitMove::measure).containsExactly(Measure.STAGED);
            assertThat(last().dropped()).isFalse();
        }

        @Test
        void thatWereVoidedMovedNothing() {
            dispatch(Dispatch.State.VOIDED);
            assertThat(last().what()).isEqualTo("staged and voided");
            assertThat(last().units()).isEmpty();
            assertThat(last().dropped()).isTrue();
        }

        @Test
        void thatNeverDepartedAreTakenBackByTheOtherHalfOfThePair() {
            dispatch(Dispatch.State.REVERSED);
            reversals.add(new ReversalFact(LEFT, TODAY, new Stamp(3, "mia reverses"), ""));
            var rows = trail().rows();
            assertThat(rows.get(1).what()).isEqualTo("departed from QUAY, reversed since");
            assertThat(rows.get(1).units()).extracting(Trail.UnitMove::quantity).containsExactly(q(4));
            assertThat(rows.get(2).what()).isEqualTo("reversed, the goods never departed");
            assertThat(rows.get(2).units()).extracting(Trail.UnitMove::quantity).containsExactly(q(4).negated());
            assertThat(rows.get(2).by()).isEqualTo("mia reverses");
        }

        @Test
        void givenUpStandWithTheReason() {
            sale.happen(new Effect.QuantityCancelled(
                    new Cancellation("CA-1", "SO-1", TODAY, "not wanted", List.of(new Cancellation.Line(1, q(2))))));
            stamps.put(new DocumentRef(DocumentKind.CANCELLATION, "CA-1"), new Stamp(2, "nils cancels"));
            assertThat(last().what()).isEqualTo("cancelled: not wanted");
            assertThat(last().by()).isEqualTo("nils cancels");
            assertThat(last().units())
                    .containsExactly(new Trail.UnitMove(new LineRef("SO-1", 1), Measure.CANCELLED, q(2)));
        }
    }

    @Nested
    class MoneyRows {

        private DepositFact.Use use(DepositFact.Kind kind, DocumentRef document, String amount, long moment) {
            return new DepositFact.Use(kind, document, eur(amount), TODAY, new Stamp(moment, "by " + moment));
        }

        private List<String> words() {
            return trail().rows().stream()
                    .filter(row -> row.aspect() == Trail.Aspect.MONEY)
                    .map(Row::what)
                    .toList();
        }

        private Money settled() {
            return trail().rows().stream().map(Row::settled).reduce(eur("0.00"), Money::plus);
        }

        @Test
        void aDepositIsReceivedOnceAndItsUsesDoNotCountAgain() {
            var invoice = shippedAndBilled();
            var billed = new DocumentRef(DocumentKind.INVOICE, invoice.number());
            stamps.put(DEPOSIT, new Stamp(4, "otto deposits"));
            deposits.add(new DepositFact(
                    "DP-1",
                    "SO-1",
                    TODAY,
                    eur("100.00"),
                    eur("0.00"),
                    "",
                    List.of(
                            use(DepositFact.Kind.APPLIED, billed, "40.00", 5),
                            use(DepositFact.Kind.APPLIED, billed, "-10.00", 6),
                            use(DepositFact.Kind.MOVED, new DocumentRef(DocumentKind.DEPOSIT, "DP-2"), "20.00", 7),
                            use(DepositFact.Kind.CREDITED, DEPOSIT, "30.00", 8),
                            use(
                                    DepositFact.Kind.GIVEN_BACK,
                                    new DocumentRef(DocumentKind.REFUND, "RF-1"),
                                    "20.00",
                                    9))));
            assertThat(words())
                    .containsExactly(
                            "bills dispatch D-1",
                            "deposit of EUR 100.00 received for order SO-1",
                            "EUR 40.00 of the deposit applied to the invoice",
                            "EUR 10.00 of the deposit unapplied from the invoice",
                            "EUR 20.00 of the deposit moved as deposit DP-2",
                            "EUR 30.00 of the deposit moved to customer credit",
                            "EUR 20.00 of the deposit refunded");
            assertThat(settled()).as("what is still here of it").isEqualTo(eur("30.00"));
            assertThat(trail().rows()).extracting(Row::by).endsWith("by 5", "by 6", "by 7", "by 8", "by 9");
        }

        @Test
        void aDepositOfAnotherOrderCountsWithWhatItSettlesHere() {
            var invoice = shippedAndBilled();
            stamps.put(DEPOSIT, new Stamp(4, "otto deposits"));
            deposits.add(new DepositFact(
                    "DP-1",
                    "SO-9",
                    TODAY,
                    eur("100.00"),
                    eur("60.00"),
                    "DP-0",
                    List.of(
                            use(
                                    DepositFact.Kind.APPLIED,
                                    new DocumentRef(DocumentKind.INVOICE, invoice.number()),
                                    "40.00",
                                    5),
                            use(
                                    DepositFact.Kind.APPLIED,
                                    new DocumentRef(DocumentKind.INVOICE, "another"),
                                    "20.00",
                                    6))));
            assertThat(words())
                    .containsExactly(
                            "bills dispatch D-1",
                            "EUR 100.00 moved from deposit DP-0",
                            "EUR 40.00 of the deposit applied to the invoice");
            assertThat(settled()).isEqualTo(eur("40.00"));
        }

        @Test
        void aRefundThatDidNotReachTheCustomerIsAPair() {
            stamps.put(DEPOSIT, new Stamp(4, "otto deposits"));
            var refund = new DocumentRef(DocumentKind.REFUND, "RF-1");
            deposits.add(new DepositFact(
                    "DP-1",
                    "SO-1",
                    TODAY,
                    eur("100.00"),
                    eur("100.00"),
                    "",
                    List.of(
                            use(DepositFact.Kind.GIVEN_BACK, refund, "100.00", 5),
                            use(DepositFact.Kind.GIVEN_BACK, refund, "-100.00", 6))));
            var rows = trail().rows();
            assertThat(rows.subList(2, 4)).allMatch(Row::dropped);
            assertThat(rows.get(2).undoes()).isFalse();
            assertThat(rows.get(3).undoes()).isTrue();
            assertThat(rows.get(3).what()).isEqualTo("did not reach the customer");
            assertThat(rows.get(3).parents()).containsExactly(refund);
            assertThat(rows.get(2).parents()).containsExactly(DEPOSIT);
            assertThat(settled()).isEqualTo(eur("100.00"));
        }

        @Test
        void refundsOfCustomerCreditNameTheirSource() {
            var refund = new DocumentRef(DocumentKind.REFUND, "RF-1");
            stamps.put(refund, new Stamp(5, "paula refunds"));
            refunds.add(new RefundFact("RF-1", PAID, TODAY, eur("9.75"), false));
            assertThat(last().what()).isEqualTo("EUR 9.75 of customer credit refunded");
            assertThat(last().by()).isEqualTo("paula refunds");
            assertThat(last().parents()).containsExactly(PAID);
            reversals.add(new ReversalFact(refund, TODAY, new Stamp(6, "quinn mirrors"), "account closed"));
            assertThat(last().what()).isEqualTo("did not reach the customer: account closed");
            assertThat(last().settled()).isEqualTo(eur("0.00"));
        }

        @Test
        void aPaymentThatBouncedLeavesTheInvoiceOpen() {
            var invoice = shippedAndBilled();
            paid(
                    "121.00",
                    true,
                    allocated(invoice, "121.00", 4, "dora receives"),
                    allocated(invoice, "-121.00", 5, "rosa reverses"));
            var rows = trail().rows();
            assertThat(rows.get(3).what()).isEqualTo("EUR 121.00 received, then bounced");
            assertThat(rows.get(3).dropped()).isTrue();
            assertThat(rows.get(3).open()).isEqualTo(eur("0.00"));
            assertThat(rows.get(4).what()).isEqualTo("bounced: the invoices it settled are open again");
            assertThat(rows.get(4).by()).isEqualTo("rosa reverses");
            assertThat(rows.get(4).open()).isEqualTo(eur("121.00"));
            assertThat(trail().money().nextDue()).isEqualTo(invoice.dueOn());
        }
    }

    @Nested
    class CreditNotes {

        @Test
        void creditWhatCameBackAndWhatIsLeftIsUsedLaterOnARowOfItsOwn() {
            var invoice = shippedAndBilled();
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(3)));
            stamps.put(new DocumentRef(DocumentKind.RETURN, goods.number()), new Stamp(4, "jan allows"));
            sale.receive(goods, new Returning.Came(1, q(3)));
            sale.restock(goods);
            var credit = sale.credit(goods, "0").get().get(0).credit();
            var ref = new DocumentRef(DocumentKind.CREDIT_NOTE, credit.number());
            stamps.put(ref, new Stamp(5, "sven credits"));
            payments.add(new PaymentFact(
                    ref,
                    "C",
                    TODAY,
                    eur("36.30"),
                    eur("6.30"),
                    eur("0.00"),
                    false,
                    List.of(
                            allocated(invoice, "20.00", 5, "sven credits"),
                            allocated(invoice, "10.00", 7, "tina uses"))));
            var rows = trail().rows();
            var credited = rows.get(4);
            assertThat(credited.document()).isEqualTo(ref);
            assertThat(credited.by()).isEqualTo("sven credits");
            assertThat(credited.parents())
                    .containsExactly(
                            new DocumentRef(DocumentKind.INVOICE, invoice.number()),
                            new DocumentRef(DocumentKind.RETURN, goods.number()));
            assertThat(credited.units()).extracting(Trail.UnitMove::measure).containsExactly(Measure.CREDITED);
            var used = rows.get(5);
            assertThat(used.what()).isEqualTo("its customer credit allocated to the invoice");
            assertThat(used.by()).isEqualTo("tina uses");
            assertThat(used.open()).as("121.00 less 20.00 and 10.00").isEqualTo(eur("91.00"));
        }

        @Test
        void ofOthersThatPayHereAreNeighbours() {
            var invoice = shippedAndBilled();
            var other = new DocumentRef(DocumentKind.CREDIT_NOTE, "C2026-9");
            stamps.put(other, new Stamp(4, "elsewhere"));
            payments.add(new PaymentFact(
                    other,
                    "C",
                    TODAY,
                    eur("50.00"),
                    eur("38.00"),
                    eur("0.00"),
                    false,
                    List.of(allocated(invoice, "12.00", 6, "uwe uses"))));
            assertThat(trail().neighbours()).containsExactly(new Trail.Neighbour(other, Optional.of(eur("12.00"))));
            assertThat(trail().documents()).doesNotContain(other);
            assertThat(trail().money().open()).isEqualTo(eur("109.00"));
        }
    }
}
