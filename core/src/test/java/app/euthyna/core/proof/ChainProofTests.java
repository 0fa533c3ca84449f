package app.euthyna.core.proof;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.PaymentFact;
import app.euthyna.core.trail.Stamp;
import app.euthyna.core.trail.Trail;
import app.euthyna.core.trail.TrailFacts;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** One order shipped, billed at 60.50 and half paid: its proof and its trail, whole and with one fact broken. */
class ChainProofTests {

    private static final DocumentRef PAID = new DocumentRef(DocumentKind.PAYMENT, "P-1");
    private static final DocumentRef INVOICE = new DocumentRef(DocumentKind.INVOICE, "2026-1");

    private final Effect.DispatchDeparted departed = new Effect.DispatchDeparted(
            new Dispatch(
                    "D-1",
                    "SO-1",
                    "S",
                    Dispatch.State.DEPARTED,
                    TODAY,
                    List.of(new Dispatch.Line(1, 1, "A", q(5), eur("20.00")))),
            List.of(),
            List.of());
    private final Chain shipped = Chain.of(order("SO-1", OrderState.CLEARED, stock(1, "A", "5", "10.00", "21")))
            .after(departed);
    private final Effect.InvoicePosted invoiced = Billing.bill(
                    "C", List.of(shipped), List.of(), new Billing.Terms("2026-1", TODAY, 30, "", false), Set.of())
            .get();
    private final Chain chain = shipped.after(invoiced);
    private final Effect.PaymentReceived paid =
            new Effect.PaymentReceived("P-1", "C", eur("40.00"), List.of(new Settlement("2026-1", eur("30.25"))));
    private final PaymentFact payment = new PaymentFact(
            PAID,
            "C",
            TODAY,
            eur("40.00"),
            eur("9.75"),
            eur("0.00"),
            false,
            List.of(new PaymentFact.Allocation("2026-1", eur("30.25"), TODAY, new Stamp(4, "receivables"))));
    private final List<Entry> entries = entries(departed, invoiced, paid);

    private static List<Entry> entries(Effect... effects) {
        var postings = new Postings(item -> "", customer -> "");
        var entries = new ArrayList<Entry>();
        for (var effect : effects) {
            postings.of(effect)
                    .ifPresent(p -> entries.add(new Entry(
                            "J-" + (entries.size() + 1),
                            TODAY,
                            p.posting().event(),
                            p.document(),
                            p.customer(),
                            p.posting().lines().stream()
                                    .filter(l -> !l.amount().isZero())
                                    .map(l -> new EntryLine(l.role(), l.role().code(), l.amount()))
                                    .toList())));
        }
        return entries;
    }

    private ChainFacts facts(List<Entry> posted, String storedOpen, PaymentFact stored, OrderState then) {
        Map<DocumentRef, ChainFacts.StoredTotals> totals = new HashMap<>();
        totals.put(
                DocumentRef.order("SO-1"),
                ChainFacts.StoredTotals.of(chain.order().totals()));
        totals.put(INVOICE, ChainFacts.StoredTotals.of(invoiced.invoice().totals()));
        return new ChainFacts(
                List.of(chain),
                totals,
                Map.of("2026-1", eur(storedOpen)),
                List.of(stored),
                List.of(),
                posted,
                Map.of(),
                posted.stream().collect(Collectors.toMap(Entry::number, entry -> TODAY)),
                List.of(new ChainFacts.Move(INVOICE, "SO-1", then)));
    }

    private static List<Integer> failing(ChainFacts facts) {
        return ChainProof.run(facts, EUR).stream()
                .filter(r -> !r.holds())
                .map(r -> r.statement().no())
                .toList();
    }

    @Nested
    class Proof {

        @Test
        void holdsForBooksThatFollowFromTheirDocuments() {
            assertThat(failing(facts(entries, "30.25", payment, OrderState.CLEARED)))
                    .isEmpty();
        }

        @Test
        void failsWhereADocumentIsDatedBeforeWhatItComesFrom() {
            var early = chain.invoices().get(0);
            var asOfYesterday = new Chain(
                    chain.order(),
                    chain.cancellations(),
                    chain.reserved(),
                    chain.dispatches(),
                    List.of(new Invoice(
                            early.number(),
                            early.customer(),
                            TODAY.minusDays(1),
                            early.dueOn(),
                            early.text(),
                            early.reversed(),
                            early.lines(),
                            early.totals())),
                    chain.deposits(),
                    chain.returns(),
                    chain.credits());
            var facts = facts(entries, "30.25", payment, OrderState.CLEARED);
            assertThat(failing(new ChainFacts(
                            List.of(asOfYesterday),
                            facts.storedTotals(),
                            facts.storedOpen(),
                            facts.payments(),
                            facts.deposits(),
                            facts.entries(),
                            facts.mirrors(),
                            facts.written(),
                            facts.moves())))
                    .containsExactly(17);
        }

        @Test
        void failsWhereAnEntryIsDatedAfterTheDayItWasWritten() {
            var facts = facts(entries, "30.25", payment, OrderState.CLEARED);
            assertThat(failing(new ChainFacts(
                            facts.roots(),
                            facts.storedTotals(),
                            facts.storedOpen(),
                            facts.payments(),
                            facts.deposits(),
                            facts.entries(),
                            facts.mirrors(),
                            Map.of(entries.get(0).number(), TODAY.minusDays(1)),
                            facts.moves())))
                    .containsExactly(17);
        }

        @Test
        void looksAtSomethingInEveryStatement() {
            assertThat(ChainProof.run(facts(entries, "30.25", payment, OrderState.CLEARED), EUR))
                    .hasSize(13)
                    .allMatch(r -> r.examined() > 0 || r.statement() == Statement.MIRRORS);
        }

        @Test
        void namesTheDocumentBothFiguresAndTheDifference() {
            var results = ChainProof.run(facts(entries, "31.25", payment, OrderState.CLEARED), EUR);
            var failure = results.stream()
                    .filter(r -> !r.holds())
                    .findFirst()
                    .orElseThrow()
                    .failures()
                    .get(0);
            assertThat(failure.document()).isEqualTo("2026-1");
            assertThat(failure.difference()).isEqualByComparingTo("1.00");
            assertThat(failure.sentence())
                    .isEqualTo("Invoice 2026-1 of EUR 60.50 is settled with EUR 30.25, but states EUR 31.25 open.");
        }

        @Test
        void findsTheStatementThatAMissingEntryBreaks() {
            assertThat(failing(facts(entries.subList(1, 3), "30.25", payment, OrderState.CLEARED)))
                    .containsExactly(6, 7);
            assertThat(failing(facts(entries.subList(0, 2), "30.25", payment, OrderState.CLEARED)))
                    .containsExactly(5, 8);
        }

        @Test
        void findsMoneyThatIsLeftTwiceAndBillsOfOrdersThatWereHeld() {
            var twice = new PaymentFact(
                    PAID, "C", TODAY, eur("40.00"), eur("10.75"), eur("0.00"), false, payment.allocations());
            assertThat(failing(facts(entries, "30.25", twice, OrderState.CLEARED)))
                    .containsExactly(8);
            assertThat(failing(facts(entries, "30.25", payment, OrderState.HELD)))
                    .containsExactly(13);
        }
    }

    @Nested
    class Statements {

        private final Trail trail = Trail.of(
                new TrailFacts(
                        INVOICE,
                        List.of(chain),
                        List.of(payment),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        Set.of("SO-9"),
                        List.of(),
                        Map.of(
                                DocumentRef.order("SO-1"),
                                new Stamp(1, "clerk"),
                                new DocumentRef(DocumentKind.DISPATCH, "D-1"),
                                new Stamp(2, "warehouse"),
                                INVOICE,
                                new Stamp(3, "receivables"),
                                new DocumentRef(DocumentKind.PAYMENT, "P-1"),
                                new Stamp(4, "receivables")),
                        entries),
                EUR);

        @Test
        void standInTheOrderOfTimeWithARunningBalance() {
            assertThat(trail.rows())
                    .extracting(r -> r.document().number())
                    .containsExactly("SO-1", "D-1", "2026-1", "P-1");
            assertThat(trail.rows())
                    .extracting(Trail.Row::open)
                    .containsExactly(eur("0.00"), eur("0.00"), eur("60.50"), eur("30.25"));
            assertThat(trail.rows().get(3).what()).isEqualTo("EUR 40.00 received, EUR 9.75 of it on account");
        }

        @Test
        void nameWhatCameFromWhatAndWhoIsMetOnTheWay() {
            assertThat(trail.rows().get(2).parents())
                    .extracting(DocumentRef::number)
                    .containsExactly("D-1");
            assertThat(trail.rows().get(3).parents()).containsExactly(INVOICE);
            assertThat(trail.neighbours())
                    .containsExactly(new Trail.Neighbour(DocumentRef.order("SO-9"), Optional.empty()));
        }

        @Test
        void leaveInTheLedgerWhatTheEntriesLeave() {
            var receivables = trail.ledger().stream()
                    .filter(l -> l.role() == AccountRole.RECEIVABLES)
                    .findFirst()
                    .orElseThrow();
            assertThat(receivables.balance()).isEqualTo(eur("30.25"));
            assertThat(trail.ledger().stream()
                            .map(Trail.AccountLine::balance)
                            .reduce(eur("0.00"), Money::plus)
                            .isZero())
                    .isTrue();
        }
    }
}
