package app.euthyna.core.proof;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.core.trail.PaymentFact;
import app.euthyna.core.trail.Stamp;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** All of one order's documents on one day hold; each of them a day before its origin is found, and no other. */
class DatesInOrderTests {

    private static final LocalDate EARLY = TODAY.minusDays(1);

    private final Sale sale = new Sale(stock(1, "A", "5", "10.00", "21"));
    private final Invoice invoice;

    DatesInOrderTests() {
        sale.leave("D-1", Map.of(1, q(5)), Map.of(1, eur("20.00")));
        invoice = sale.bill();
        var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(2)));
        sale.receive(goods, new Returning.Came(1, q(2)));
        sale.happen(Returning.inspect(
                        sale.now(goods),
                        List.of(new Returning.InspectionLine(1, Return.Outcome.Kind.RESTOCK, q(2), "S", "")),
                        sale.chain().credits(),
                        TODAY)
                .get());
        sale.credit(goods, "0").get();
    }

    private List<String> found(Chain chain, List<PaymentFact> payments, List<DepositFact> deposits) {
        var facts = new ChainFacts(
                List.of(chain), Map.of(), Map.of(), payments, deposits, List.of(), Map.of(), Map.of(), List.of());
        var result = new DatesInOrder(
                        facts, Map.of(invoice.number(), chain.invoices().get(0)))
                .result();
        assertThat(result.examined()).isPositive();
        assertThat(result.statement()).isEqualTo(Statement.DATES_IN_ORDER);
        return result.failures().stream().map(Statement.Failure::sentence).toList();
    }

    private List<String> found(Chain chain) {
        return found(chain, List.of(), List.of());
    }

    private Chain with(
            List<Dispatch> dispatches, List<Invoice> invoices, List<Return> returns, List<CreditNote> credits) {
        var chain = sale.chain();
        return new Chain(
                chain.order(),
                chain.cancellations(),
                chain.reserved(),
                dispatches,
                invoices,
                chain.deposits(),
                returns,
                credits);
    }

    @Test
    void holdWhereAllIsOfOneDay() {
        assertThat(found(sale.chain())).isEmpty();
    }

    @Test
    void aDispatchBeforeItsOrderIsFoundIfItHasDepartedOnly() {
        var chain = sale.chain();
        for (var state : Dispatch.State.values()) {
            var was = chain.dispatches().get(0);
            var early = new Dispatch(was.number(), was.order(), was.site(), state, EARLY, was.lines());
            var counts = state == Dispatch.State.DEPARTED || state == Dispatch.State.REVERSED;
            assertThat(found(with(List.of(early), chain.invoices(), chain.returns(), chain.credits())))
                    .as(state.name())
                    .isEqualTo(
                            counts
                                    ? List.of("Dispatch D-1 is dated 1 Mar 2026, before order SO-1 of 2 Mar 2026.")
                                    : List.of());
        }
    }

    @Test
    void anInvoiceBeforeItsOrderAndItsDepartureIsFoundTwice() {
        var chain = sale.chain();
        var was = chain.invoices().get(0);
        var early = new Invoice(
                was.number(),
                was.customer(),
                EARLY,
                was.dueOn(),
                was.text(),
                was.reversed(),
                was.lines(),
                was.totals());
        assertThat(found(with(chain.dispatches(), List.of(early), chain.returns(), chain.credits())))
                .containsExactly(
                        "Invoice %s is dated 1 Mar 2026, before order SO-1 of 2 Mar 2026.".formatted(was.number()),
                        "Invoice %s is dated 1 Mar 2026, before dispatch D-1 of 2 Mar 2026.".formatted(was.number()));
    }

    @Test
    void goodsThatCameBeforeTheyLeftAndWereInspectedBeforeTheyCame() {
        var chain = sale.chain();
        var was = chain.returns().get(0);
        assertThat(found(
                        with(chain.dispatches(), chain.invoices(), List.of(dated(was, EARLY, TODAY)), chain.credits())))
                .containsExactly("A receipt of return %s is dated 1 Mar 2026, before dispatch D-1 of 2 Mar 2026."
                        .formatted(was.number()));
        assertThat(found(
                        with(chain.dispatches(), chain.invoices(), List.of(dated(was, TODAY, EARLY)), chain.credits())))
                .containsExactly("An inspection of return %s is dated 1 Mar 2026, before its receipt of 2 Mar 2026."
                        .formatted(was.number()));
    }

    private static Return dated(Return was, LocalDate came, LocalDate inspected) {
        return new Return(
                was.number(),
                was.customer(),
                was.on(),
                was.reason(),
                was.withdrawn(),
                was.lines().stream()
                        .map(line -> new Return.Line(
                                line.no(),
                                line.orderLine(),
                                line.dispatchLine(),
                                line.invoiceLine(),
                                line.item(),
                                line.site(),
                                line.authorised(),
                                line.parts().stream()
                                        .map(part -> new Return.Part(
                                                part.no(),
                                                came,
                                                part.standing(),
                                                part.invoiceLine(),
                                                part.quantity(),
                                                part.cost(),
                                                part.outcomes().stream()
                                                        .map(one -> new Return.Outcome(
                                                                one.kind(),
                                                                inspected,
                                                                one.quantity(),
                                                                one.cost(),
                                                                one.site(),
                                                                one.remark()))
                                                        .toList(),
                                                part.reversed()))
                                        .toList()))
                        .toList());
    }

    @Test
    void aCreditNoteBeforeItsInvoice() {
        var chain = sale.chain();
        var was = chain.credits().get(0);
        var early = new CreditNote(
                was.number(), was.customer(), was.invoice(), EARLY, was.reason(), false, was.lines(), was.totals());
        assertThat(found(with(chain.dispatches(), chain.invoices(), chain.returns(), List.of(early))))
                .containsExactly("Credit note %s is dated 1 Mar 2026, before invoice %s of 2 Mar 2026."
                        .formatted(was.number(), invoice.number()));
    }

    @Test
    void moneyThatSettledBeforeItCameAndBeforeItsInvoice() {
        var paid = new PaymentFact(
                new DocumentRef(DocumentKind.PAYMENT, "P-1"),
                "C",
                TODAY,
                eur("5.00"),
                eur("0.00"),
                eur("0.00"),
                false,
                List.of(new PaymentFact.Allocation(invoice.number(), eur("5.00"), EARLY, new Stamp(9, "receivables"))));
        assertThat(found(sale.chain(), List.of(paid), List.of())).hasSize(2).allMatch(s -> s.contains("payment P-1"));
        var deposit = new DepositFact(
                "DP-1",
                "SO-1",
                TODAY,
                eur("5.00"),
                eur("0.00"),
                "",
                List.of(new DepositFact.Use(
                        DepositFact.Kind.CREDITED,
                        new DocumentRef(DocumentKind.DEPOSIT, "DP-1"),
                        eur("5.00"),
                        EARLY,
                        new Stamp(9, "receivables"))));
        assertThat(found(sale.chain(), List.of(), List.of(deposit)))
                .containsExactly("A use of deposit DP-1 is dated 1 Mar 2026, before its receipt of 2 Mar 2026.");
    }
}
