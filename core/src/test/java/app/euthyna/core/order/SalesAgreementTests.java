package app.euthyna.core.order;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Given;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class SalesAgreementTests {

    private static final LocalDate FROM = LocalDate.of(2026, 1, 31);
    private static final LocalDate UNTIL = LocalDate.of(2026, 12, 31);

    private static SalesAgreement agreement(
            SalesAgreement.Kind kind,
            SalesAgreement.State state,
            String ceiling,
            Recurrence recurrence,
            int made,
            SalesAgreement.Line... lines) {
        return new SalesAgreement(
                "B-1",
                kind,
                state,
                "C",
                FROM,
                UNTIL,
                Optional.ofNullable(ceiling).map(Given::eur),
                Optional.ofNullable(recurrence),
                made,
                Given.EUR,
                List.of(lines),
                List.of());
    }

    private static SalesAgreement.Line line(int no, long quantity, String price) {
        return new SalesAgreement.Line(no, "A" + no, "Item", Quantity.of(quantity), Price.of(price));
    }

    private static SalesAgreement.Taken taken(Map<Integer, Quantity> quantities, String net) {
        return new SalesAgreement.Taken(quantities, Given.eur(net));
    }

    private static List<String> codes(
            SalesAgreement agreement, Map<Integer, Quantity> asked, SalesAgreement.Taken taken, LocalDate on) {
        return agreement.take(asked, taken, on).refusals().stream()
                .map(Refusal::code)
                .toList();
    }

    @Nested
    class BlanketOrders {

        private final SalesAgreement blanket = agreement(
                SalesAgreement.Kind.BLANKET_ORDER,
                SalesAgreement.State.OPEN,
                "500.00",
                null,
                0,
                line(1, 100, "4.00"),
                line(2, 50, "6.00"));

        @Test
        void giveWhatIsLeftOfEachLineAndOfTheValue() {
            var sixty = taken(Map.of(1, Given.q(60)), "240.00");
            assertThat(codes(blanket, Map.of(1, Given.q(40)), sixty, FROM)).isEmpty();
            assertThat(codes(blanket, Map.of(1, Given.q(41)), sixty, FROM)).containsExactly("more-than-left");
            // 240 + 40 × 4 + 17 × 6 = 502 over 500
            assertThat(codes(blanket, Map.of(1, Given.q(40), 2, Given.q(16)), sixty, FROM))
                    .isEmpty();
            assertThat(codes(blanket, Map.of(1, Given.q(40), 2, Given.q(17)), sixty, FROM))
                    .containsExactly("more-than-left");
            assertThat(codes(blanket, Map.of(3, Given.q(1)), sixty, FROM)).containsExactly("not-found");
            assertThat(codes(blanket, Map.of(1, Given.q(0)), sixty, FROM)).containsExactly("incomplete");
            assertThat(codes(blanket, Map.of(), sixty, FROM)).containsExactly("incomplete");
        }

        @Test
        void areDueByTheFirstCallOfTheirScheduleAndComeToAllOfTheirLines() {
            var calls = List.of(
                    new SalesAgreement.Call(FROM.plusDays(9), 1, Given.q(5)),
                    new SalesAgreement.Call(FROM.plusDays(3), 2, Given.q(5)));
            var scheduled = new SalesAgreement(
                    "B-1",
                    SalesAgreement.Kind.BLANKET_ORDER,
                    SalesAgreement.State.OPEN,
                    "C",
                    FROM,
                    UNTIL,
                    Optional.empty(),
                    Optional.empty(),
                    0,
                    Given.EUR,
                    blanket.lines(),
                    calls);
            assertThat(scheduled.dueNext()).contains(FROM.plusDays(3));
            assertThat(List.of(scheduled.isDue(FROM.plusDays(2)), scheduled.isDue(FROM.plusDays(3))))
                    .containsExactly(false, true);
            assertThat(blanket.dueNext()).isEmpty();
            assertThat(blanket.net()).isEqualTo(Given.eur("700.00"));
        }

        @Test
        void giveOnlyInTheirTimeAndWhileTheyAreOpen() {
            var none = taken(Map.of(), "0.00");
            assertThat(codes(blanket, Map.of(1, Given.q(1)), none, FROM.minusDays(1)))
                    .containsExactly("agreement-not-valid");
            assertThat(codes(blanket, Map.of(1, Given.q(1)), none, UNTIL)).isEmpty();
            assertThat(codes(blanket, Map.of(1, Given.q(1)), none, UNTIL.plusDays(1)))
                    .containsExactly("agreement-not-valid");
            for (var state :
                    List.of(SalesAgreement.State.ENDED, SalesAgreement.State.LOST, SalesAgreement.State.ORDERED)) {
                assertThat(codes(
                                agreement(SalesAgreement.Kind.QUOTE, state, null, null, 0, line(1, 1, "1.00")),
                                Map.of(1, Given.q(1)),
                                none,
                                FROM))
                        .containsExactly("agreement-closed");
            }
        }

        /**
         * Calls in any sequence: nothing is refused that is left, nothing is given that is not, and what is given and
         * left adds up.
         */
        @Test
        void areNeverCalledOffBeyondWhatWasAgreed() {
            var seed = Long.getLong("seed", System.nanoTime());
            var random = new Random(seed);
            for (int run = 0; run < 500; run++) {
                var lines = new ArrayList<SalesAgreement.Line>();
                for (int no = 1; no <= 1 + random.nextInt(3); no++) {
                    lines.add(line(
                            no, 1 + random.nextInt(40), "%d.%02d".formatted(random.nextInt(9), random.nextInt(100))));
                }
                var all = random.nextBoolean() ? "%d.00".formatted(random.nextInt(300)) : null;
                var agreed = agreement(
                        SalesAgreement.Kind.BLANKET_ORDER,
                        SalesAgreement.State.OPEN,
                        all,
                        null,
                        0,
                        lines.toArray(SalesAgreement.Line[]::new));
                var quantities = new HashMap<Integer, Quantity>();
                var net = Given.eur("0.00");
                for (int call = 0; call < 12; call++) {
                    var asked = new HashMap<Integer, Quantity>();
                    lines.stream()
                            .filter(l -> random.nextBoolean())
                            .forEach(l -> asked.put(l.no(), Given.q(1 + random.nextInt(15))));
                    var worth = asked.entrySet().stream()
                            .map(a -> lines.get(a.getKey() - 1).price().net(a.getValue(), Given.EUR))
                            .reduce(Given.eur("0.00"), (a, b) -> a.plus(b));
                    var fits = !asked.isEmpty()
                            && asked.entrySet().stream()
                                    .allMatch(a -> quantities
                                                    .getOrDefault(a.getKey(), Quantity.ZERO)
                                                    .plus(a.getValue())
                                                    .value()
                                                    .compareTo(lines.get(a.getKey() - 1)
                                                            .quantity()
                                                            .value())
                                            <= 0)
                            && (all == null || net.plus(worth).compareTo(Given.eur(all)) <= 0);
                    var decided = agreed.take(asked, new SalesAgreement.Taken(quantities, net), FROM);
                    assertThat(decided.isRefused())
                            .as("seed %d, run %d, call %d of %s", seed, run, call, asked)
                            .isEqualTo(!fits);
                    if (fits) {
                        asked.forEach((no, quantity) -> quantities.merge(no, quantity, Quantity::plus));
                        net = net.plus(worth);
                    }
                }
                var now = new SalesAgreement.Taken(quantities, net);
                lines.forEach(l -> assertThat(agreed.left(l, now).plus(quantities.getOrDefault(l.no(), Quantity.ZERO)))
                        .as("seed %d", seed)
                        .isEqualTo(l.quantity()));
            }
        }
    }

    @Nested
    class RecurringOrders {

        /**
         * The last day of a short month, and the 31st again after it: as ISO 8601 calendar arithmetic in java.time has
         * it.
         */
        @Test
        void comeDueByTheirRhythmCountedFromTheFirstDay() {
            var monthly = new Recurrence(1, Recurrence.Unit.MONTH);
            assertThat(List.of(monthly.due(FROM, 0), monthly.due(FROM, 1), monthly.due(FROM, 2)))
                    .containsExactly(FROM, LocalDate.of(2026, 2, 28), LocalDate.of(2026, 3, 31));
            assertThat(new Recurrence(2, Recurrence.Unit.WEEK).due(FROM, 3)).isEqualTo(LocalDate.of(2026, 3, 14));
            assertThat(new Recurrence(10, Recurrence.Unit.DAY).due(FROM, 1)).isEqualTo(LocalDate.of(2026, 2, 10));
        }

        @Test
        void areNotDueBeyondTheirTimeNorOnceEnded() {
            var monthly = new Recurrence(1, Recurrence.Unit.MONTH);
            assertThat(agreement(
                                    SalesAgreement.Kind.RECURRING_ORDER,
                                    SalesAgreement.State.OPEN,
                                    null,
                                    monthly,
                                    11,
                                    line(1, 1, "1.00"))
                            .dueNext())
                    .contains(UNTIL);
            assertThat(agreement(
                                    SalesAgreement.Kind.RECURRING_ORDER,
                                    SalesAgreement.State.OPEN,
                                    null,
                                    monthly,
                                    12,
                                    line(1, 1, "1.00"))
                            .dueNext())
                    .isEmpty();
            assertThat(agreement(
                                    SalesAgreement.Kind.RECURRING_ORDER,
                                    SalesAgreement.State.ENDED,
                                    null,
                                    monthly,
                                    1,
                                    line(1, 1, "1.00"))
                            .dueNext())
                    .isEmpty();
        }
    }

    @Nested
    class Prices {

        @Test
        void areTheCustomersOwnBeforeEverybodysAndTheGreatestBreakReached() {
            var breaks = List.of(
                    new PriceList.Break("", Given.q(10), new java.math.BigDecimal("9")),
                    new PriceList.Break("", Given.q(100), new java.math.BigDecimal("8")),
                    new PriceList.Break("C", Given.q(20), new java.math.BigDecimal("8.5")),
                    new PriceList.Break("D", Given.q(1), new java.math.BigDecimal("1")));
            assertThat(PriceList.price(java.math.BigDecimal.TEN, breaks, "C", Given.q(9)))
                    .isEqualByComparingTo("10");
            assertThat(PriceList.price(java.math.BigDecimal.TEN, breaks, "C", Given.q(19)))
                    .isEqualByComparingTo("9");
            assertThat(PriceList.price(java.math.BigDecimal.TEN, breaks, "C", Given.q(100)))
                    .isEqualByComparingTo("8.5");
            assertThat(PriceList.price(java.math.BigDecimal.TEN, breaks, "E", Given.q(100)))
                    .isEqualByComparingTo("8");
        }
    }
}
