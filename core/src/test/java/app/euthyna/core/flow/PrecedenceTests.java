package app.euthyna.core.flow;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

/** Nothing is dated before what it comes from: each effect against each of its origins, to the day. */
class PrecedenceTests {

    private static final DocumentRef ORDER = DocumentRef.order("SO-1");
    private static final DocumentRef DISPATCH = new DocumentRef(DocumentKind.DISPATCH, "D-1");
    private static final DocumentRef INVOICE = new DocumentRef(DocumentKind.INVOICE, "2026-1");
    private static final DocumentRef PAYMENT = new DocumentRef(DocumentKind.PAYMENT, "PA-1");
    private static final DocumentRef DEPOSIT = new DocumentRef(DocumentKind.DEPOSIT, "DP-1");
    private static final DocumentRef REFUND = new DocumentRef(DocumentKind.REFUND, "RF-1");
    private static final List<Settlement> SETTLES = List.of(new Settlement("2026-1", eur("10.00")));

    /** What the origins know: dates of documents, of settlements, and of money that was set free. */
    private static final class Known implements Precedence.Origins {
        private final Map<DocumentRef, LocalDate> documents = new HashMap<>();
        private final Map<DocumentRef, LocalDate> settled = new HashMap<>();
        private final Map<DocumentRef, LocalDate> free = new HashMap<>();
        private final Map<String, Return> returns = new HashMap<>();
        private Quantity credited = Quantity.ZERO;

        @Override
        public Optional<LocalDate> dateOf(DocumentRef document) {
            return Optional.ofNullable(documents.get(document));
        }

        @Override
        public Optional<LocalDate> settled(DocumentRef source, String invoice) {
            return invoice.equals("2026-1") ? Optional.ofNullable(settled.get(source)) : Optional.empty();
        }

        @Override
        public Optional<LocalDate> setFree(DocumentRef source) {
            return Optional.ofNullable(free.get(source));
        }

        @Override
        public Quantity credited(LineRef returnLine, LineRef invoiceLine) {
            return credited;
        }

        @Override
        public Optional<Return> goods(String number) {
            return Optional.ofNullable(returns.get(number));
        }
    }

    /** How an origin is made known to have happened on a day. */
    private interface Happened {
        void on(Known known, LocalDate day);
    }

    private static Happened dated(DocumentRef document) {
        return (known, day) -> known.documents.put(document, day);
    }

    private static Happened settledBy(DocumentRef source) {
        return (known, day) -> known.settled.put(source, day);
    }

    private static Happened freed(DocumentRef source) {
        return (known, day) -> known.free.put(source, day);
    }

    private record Case(Effect effect, Map<String, Happened> origins) {}

    private static final Sale SOLD = sold();

    private static Sale sold() {
        var sale = new Sale(stock(1, "A", "5", "10.00", "21"));
        sale.leave("D-1", Map.of(1, q(5)), Map.of(1, eur("20.00")));
        return sale;
    }

    private static final Dispatch LEFT = SOLD.chain().dispatches().get(0);
    private static final Invoice BILLED = Billing.bill(
                    "C", List.of(SOLD.chain()), List.of(), new Billing.Terms("2026-1", TODAY, 30, "", false), Set.of())
            .get()
            .invoice();
    private static final CreditNote CREDITED = Crediting.credit(
                    BILLED,
                    List.of(),
                    List.of(Crediting.Share.of(1, q(1))),
                    eur("12.10"),
                    new Crediting.Terms(() -> "CN-1", TODAY, "too much", BigDecimal.ZERO, false))
            .get()
            .credit();
    private static final DocumentRef CREDIT = new DocumentRef(DocumentKind.CREDIT_NOTE, "CN-1");
    private static final BilledAheadDelivery AHEAD = new BilledAheadDelivery(
            "C",
            new LineRef("2026-1", 1),
            "A",
            new Invoice.Source(new LineRef("D-1", 1), q(1), eur("4.00"), true, eur("10.00")),
            Set.of("SO-1"));

    private static List<Case> cases() {
        return Stream.of(ofGoodsInvoicesAndPayments(), ofDeposits(), ofWhatGivesBack())
                .flatMap(List::stream)
                .toList();
    }

    private static List<Case> ofGoodsInvoicesAndPayments() {
        return List.of(
                new Case(
                        new Effect.DispatchDeparted(LEFT, List.of(), List.of(AHEAD)),
                        Map.of("its order", dated(ORDER), "the invoice that billed it ahead", dated(INVOICE))),
                new Case(
                        new Effect.DispatchReversed(LEFT, List.of(), List.of()),
                        Map.of("the departure", dated(DISPATCH))),
                new Case(
                        new Effect.RevenueDeferredAgain("D-1", List.of(AHEAD)),
                        Map.of("the departure", dated(DISPATCH))),
                new Case(
                        new Effect.InvoicePosted(BILLED),
                        Map.of("its order", dated(ORDER), "the departure that it bills", dated(DISPATCH))),
                new Case(new Effect.InvoiceReversed(BILLED), Map.of("the invoice", dated(INVOICE))),
                new Case(
                        new Effect.PaymentReceived("PA-1", "C", eur("10.00"), SETTLES),
                        Map.of("the invoice that it settles", dated(INVOICE))),
                new Case(
                        new Effect.CreditAllocated(PAYMENT, "C", SETTLES),
                        Map.of(
                                "the payment", dated(PAYMENT),
                                "what was set free of it since", freed(PAYMENT),
                                "the invoice that it settles", dated(INVOICE))),
                new Case(
                        new Effect.AllocationTakenOff(PAYMENT, "C", SETTLES),
                        Map.of("the allocation", settledBy(PAYMENT))),
                new Case(
                        new Effect.PaymentReversed("PA-1", "C", eur("10.00"), SETTLES),
                        Map.of("the payment", dated(PAYMENT), "its allocation", settledBy(PAYMENT))));
    }

    private static List<Case> ofDeposits() {
        return List.of(
                new Case(
                        new Effect.DepositReceived("DP-1", "C", "SO-1", TODAY, eur("10.00")),
                        Map.of("its order", dated(ORDER))),
                new Case(
                        new Effect.DepositApplied("DP-1", "C", "SO-1", SETTLES),
                        Map.of("the deposit", dated(DEPOSIT), "the invoice that it settles", dated(INVOICE))),
                new Case(
                        new Effect.DepositTakenOff("DP-1", "C", "SO-1", SETTLES),
                        Map.of("when it was applied", settledBy(DEPOSIT))),
                new Case(
                        new Effect.DepositMoved("DP-1", "SO-2", "DP-2", "SO-1", "C", TODAY, eur("10.00")),
                        Map.of("the deposit", dated(DEPOSIT), "the order that it goes to", dated(ORDER))),
                new Case(
                        new Effect.DepositCredited("DP-1", "SO-1", "C", eur("10.00")),
                        Map.of("the deposit", dated(DEPOSIT), "what was unapplied since", freed(DEPOSIT))));
    }

    private static List<Case> ofWhatGivesBack() {
        return List.of(
                new Case(
                        new Effect.RefundGiven("RF-1", "C", PAYMENT, "", eur("10.00")),
                        Map.of("the payment", dated(PAYMENT), "what was set free of it since", freed(PAYMENT))),
                new Case(new Effect.InvoiceReduced(written(TODAY)), Map.of("the invoice", dated(INVOICE))),
                new Case(
                        new Effect.RefundReversed("RF-1", "C", PAYMENT, "", eur("10.00")),
                        Map.of("the refund", dated(REFUND))),
                new Case(
                        new Effect.DepositReversed("DP-1", "C", "SO-1", eur("10.00"), eur("0.00"), Optional.empty()),
                        Map.of("the deposit", dated(DEPOSIT), "what was unapplied since", freed(DEPOSIT))),
                new Case(
                        new Effect.CreditNoteReversed(CREDITED, BILLED, SETTLES),
                        Map.of(
                                "the credit note",
                                dated(CREDIT),
                                "its allocation",
                                settledBy(CREDIT),
                                "what was set free of it since",
                                freed(CREDIT))),
                new Case(
                        new Effect.QuantityCancelled(new Cancellation(
                                "CA-1", "SO-1", TODAY, "less", List.of(new Cancellation.Line(1, q(1))))),
                        Map.of("its order", dated(ORDER))));
    }

    private static List<Refusal> refusals(Effect effect, Known known) {
        return Precedence.refusals(List.of(effect), TODAY, known);
    }

    @TestFactory
    Stream<DynamicTest> onTheDayOfItsOriginAndNotADayBefore() {
        return cases().stream()
                .flatMap(one -> one.origins().entrySet().stream()
                        .map(origin -> DynamicTest.dynamicTest(
                                "%s and %s".formatted(one.effect().getClass().getSimpleName(), origin.getKey()), () -> {
                                    var known = new Known();
                                    assertThat(refusals(one.effect(), known))
                                            .as("nothing is known of it")
                                            .isEmpty();
                                    origin.getValue().on(known, TODAY);
                                    assertThat(refusals(one.effect(), known))
                                            .as("on the same day")
                                            .isEmpty();
                                    origin.getValue().on(known, TODAY.plusDays(1));
                                    assertThat(refusals(one.effect(), known))
                                            .extracting(Refusal::code)
                                            .containsExactly("dated-before");
                                })));
    }

    /** A new effect is tried here, or is said to come from no document. */
    @Test
    void everyEffectIsTriedOrComesFromNoDocument() {
        var tried = new HashSet<Class<?>>();
        cases().forEach(one -> tried.add(one.effect().getClass()));
        var triedBelow = Set.<Class<?>>of(
                Effect.ReturnReceived.class,
                Effect.ReturnInspected.class,
                Effect.InspectionReversed.class,
                Effect.ReceiptReversed.class,
                Effect.CreditNotePosted.class,
                Effect.ReductionReversed.class);
        var ofNoDocument = Set.<Class<?>>of(
                Effect.OrderSubmitted.class,
                Effect.OrderChanged.class,
                Effect.StateChanged.class,
                Effect.StockReserved.class,
                Effect.ReservationReleased.class,
                Effect.ReservationTransferred.class,
                Effect.DispatchStaged.class,
                Effect.DispatchVoided.class,
                Effect.StockReceived.class,
                Effect.StockCounted.class,
                Effect.CustomerChanged.class,
                Effect.ReturnAuthorised.class,
                Effect.ReturnWithdrawn.class,
                Effect.ManualEntryPosted.class);
        tried.addAll(triedBelow);
        tried.addAll(ofNoDocument);
        assertThat(tried).containsExactlyInAnyOrderElementsOf(EffectHandlers.types(Effect.class));
    }

    @Test
    void writeOffIsNotTakenBackBeforeItWasWritten() {
        assertThat(refusals(new Effect.ReductionReversed(written(TODAY)), new Known()))
                .isEmpty();
        assertThat(refusals(new Effect.ReductionReversed(written(TODAY.plusDays(1))), new Known()))
                .extracting(Refusal::code)
                .containsExactly("dated-before");
    }

    private static Reduction written(LocalDate on) {
        return new Reduction(
                Reduction.Kind.SMALL_DIFFERENCE,
                new DocumentRef(DocumentKind.WRITE_OFF, "W-1001"),
                "C",
                INVOICE.number(),
                Set.of("SO-1"),
                on,
                eur("0.02"),
                "rounding",
                List.of());
    }

    @Test
    void goodsDoNotComeBackBeforeTheyLeft() {
        var sale = sold();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
        var came = Returning.receive(goods, List.of(), List.of(sale.chain()), TODAY)
                .get();
        var known = new Known();
        known.documents.put(DISPATCH, TODAY);
        assertThat(refusals(came, known)).isEmpty();
        known.documents.put(DISPATCH, TODAY.plusDays(1));
        assertThat(refusals(came, known)).extracting(Refusal::code).containsExactly("dated-before");
    }

    @Test
    void theyAreNotInspectedBeforeTheyCame() {
        var sale = sold();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
        sale.receive(goods, new Returning.Came(1, q(2)));
        var line = new Returning.InspectionLine(1, Return.Outcome.Kind.SCRAP, q(2), "", "");
        for (var early : List.of(false, true)) {
            var inspected = Returning.inspect(
                            sale.now(goods), List.of(line), List.of(), early ? TODAY.minusDays(1) : TODAY)
                    .get();
            assertThat(refusals(inspected, new Known()))
                    .extracting(Refusal::sentence)
                    .hasSize(early ? 1 : 0)
                    .allSatisfy(sentence -> assertThat(sentence).contains("the receipt of return " + goods.number()));
        }
    }

    @Test
    void whatCameAndWasDecidedIsNotTakenBackBeforeThat() {
        var sale = sold();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
        sale.receive(goods, new Returning.Came(1, q(2)));
        sale.restock(goods);
        var now = sale.now(goods);
        var back = new Effect.InspectionReversed(
                now,
                now.decided().stream()
                        .map(one -> new Effect.InspectionResult(
                                one.line(), one.part(), one.outcome().taken(TODAY, "")))
                        .toList());
        for (var effect : List.of(back, new Effect.ReceiptReversed(now))) {
            assertThat(Precedence.refusals(List.of(effect), TODAY, new Known())).isEmpty();
            assertThat(Precedence.refusals(List.of(effect), TODAY.minusDays(1), new Known()))
                    .extracting(Refusal::code)
                    .containsExactly("dated-before");
        }
    }

    /** Two came today and two tomorrow; what a credit note may be dated depends on how many it credits. */
    @Test
    void goodsThatAreHereAreNotCreditedBeforeTheyCame() {
        var sale = sold();
        sale.bill();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(4)));
        sale.receive(goods, new Returning.Came(1, q(2)));
        var late = Returning.receive(
                        sale.now(goods), List.of(new Returning.Came(1, q(2))), List.of(sale.chain()), TODAY.plusDays(1))
                .get();
        sale.happen(late);
        var credited = sale.credit(goods, "0").get().get(0);
        assertThat(Quantity.sum(credited.credit().lines().stream()
                        .map(CreditNote.Line::quantity)
                        .toList()))
                .isEqualTo(q(4));
        var known = new Known();
        known.returns.put(goods.number(), sale.now(goods));
        assertThat(refusals(credited, known))
                .extracting(Refusal::sentence)
                .singleElement()
                .asString()
                .contains("the receipt of return " + goods.number());
        var half = new Effect.CreditNotePosted(
                withQuantity(credited.credit(), q(2)), credited.invoice(), credited.settled());
        assertThat(refusals(half, known)).as("the two that came today").isEmpty();
        known.credited = q(1);
        assertThat(refusals(half, known))
                .as("one of today's is credited already")
                .hasSize(1);
        known.documents.put(
                new DocumentRef(DocumentKind.INVOICE, credited.credit().invoice()), TODAY.plusDays(1));
        assertThat(refusals(half, known)).as("nor before its invoice").hasSize(2);
    }

    private static CreditNote withQuantity(CreditNote credit, Quantity quantity) {
        return new CreditNote(
                credit.number(),
                credit.customer(),
                credit.invoice(),
                credit.on(),
                credit.reason(),
                credit.reversed(),
                credit.lines().stream()
                        .map(line -> new CreditNote.Line(
                                line.no(),
                                line.invoiceLine(),
                                line.orderLine(),
                                line.returnLine(),
                                line.item(),
                                line.description(),
                                quantity,
                                line.net(),
                                line.fee(),
                                line.feePercent(),
                                line.ahead(),
                                line.deferred(),
                                line.vat()))
                        .toList(),
                credit.totals());
    }

    @Test
    void whatSeveralEffectsSayOfOneOriginIsSaidOnce() {
        var known = new Known();
        known.documents.put(INVOICE, TODAY.plusDays(1));
        var paid = new Effect.PaymentReceived("PA-1", "C", eur("10.00"), SETTLES);
        assertThat(Precedence.refusals(List.of(paid, paid), TODAY, known)).hasSize(1);
    }

    @Test
    void anEffectGoesByItsOwnDateWhereItHasOne() {
        var known = new Known();
        known.documents.put(ORDER, TODAY.plusDays(3));
        var later = new Effect.DepositReceived("DP-1", "C", "SO-1", TODAY.plusDays(3), eur("10.00"));
        assertThat(refusals(later, known))
                .as("although the command is of today")
                .isEmpty();
    }
}
