package app.euthyna.core.billing;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.billing.Dunning.Overdue;
import app.euthyna.core.billing.Matching.Candidate;
import app.euthyna.core.billing.Matching.Received;
import app.euthyna.core.billing.Matching.Sureness;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.util.List;
import java.util.Random;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Figures of worked examples that are not ours; each names its source, or says that it comes from memory. */
class PublishedExamplesTests {

    /** EN 16931-1:2017, business rules BR-CO-10 to BR-CO-17 and BR-S-08, BR-S-09. */
    @Nested
    class En16931 {

        private static Totals.Part part(String net, Vat.Category category, String rate) {
            return new Totals.Part(eur(net), Vat.of(category, rate));
        }

        /**
         * Number 3 of the published CEN examples (CII) is due with 1125.00; that its lines come to 900.00 at 25 % is
         * from memory.
         */
        @Test
        void aQuarterOnNineHundredIsDueWithElevenHundredAndTwentyFive() {
            var totals =
                    Totals.of(List.of(part("400.00", Vat.Category.S, "25"), part("500.00", Vat.Category.S, "25")), EUR);
            assertThat(totals.net()).as("BR-CO-10: sum of the line nets").isEqualTo(eur("900.00"));
            assertThat(totals.vat()).as("BR-CO-14 and BR-CO-17: 900.00 x 25 %").isEqualTo(eur("225.00"));
            assertThat(totals.gross()).as("BR-CO-15: net and VAT").isEqualTo(eur("1125.00"));
        }

        /**
         * BR-S-08 groups by rate, BR-S-09 and BR-CO-17 round the product of each group once, to two decimals. Lines
         * invented so that rounding by line would differ.
         */
        @Test
        void vatIsRoundedOncePerCategoryAndRate() {
            var totals = Totals.of(
                    List.of(
                            part("0.03", Vat.Category.S, "21"),
                            part("0.03", Vat.Category.S, "21"),
                            part("0.03", Vat.Category.S, "21"),
                            part("10.05", Vat.Category.S, "9"),
                            part("7.77", Vat.Category.AE, "0")),
                    EUR);
            assertThat(totals.bands())
                    .extracting(b -> b.vat().category() + " " + b.taxable().amount() + " "
                            + b.tax().amount())
                    .containsExactlyInAnyOrder("S 0.09 0.02", "S 10.05 0.90", "AE 7.77 0.00");
            assertThat(totals.vat()).isEqualTo(eur("0.92"));
        }

        /** The rules themselves, over random documents: recomputed here in their own words. */
        @Test
        void holdsForDocumentsOfManyLines() {
            var seed = Long.getLong("seed", System.nanoTime());
            var random = new Random(seed);
            for (int round = 0; round < Rounds.of(500); round++) {
                var parts = new java.util.ArrayList<Totals.Part>();
                for (int line = 0; line < 1 + random.nextInt(40); line++) {
                    parts.add(part(
                            BigDecimal.valueOf(random.nextInt(1_000_000), 2).toPlainString(),
                            Vat.Category.S,
                            List.of("6", "9", "21", "25").get(random.nextInt(4))));
                }
                var totals = Totals.of(parts, EUR);
                var net = parts.stream().map(p -> p.net().amount()).reduce(BigDecimal.ZERO, BigDecimal::add);
                assertThat(totals.net().amount()).as("BR-CO-10, seed %d", seed).isEqualByComparingTo(net);
                for (var band : totals.bands()) {
                    var taxable = parts.stream()
                            .filter(p -> p.vat().equals(band.vat()))
                            .map(p -> p.net().amount())
                            .reduce(BigDecimal.ZERO, BigDecimal::add);
                    assertThat(band.taxable().amount())
                            .as("BR-S-08, seed %d", seed)
                            .isEqualByComparingTo(taxable);
                    assertThat(band.tax().amount())
                            .as("BR-S-09 and BR-CO-17, seed %d", seed)
                            .isEqualByComparingTo(taxable.multiply(band.vat().ratePercent())
                                    .divide(BigDecimal.valueOf(100), 2, java.math.RoundingMode.HALF_UP));
                }
                assertThat(totals.vat().amount())
                        .as("BR-CO-14")
                        .isEqualByComparingTo(totals.bands().stream()
                                .map(b -> b.tax().amount())
                                .reduce(BigDecimal.ZERO, BigDecimal::add));
                assertThat(totals.gross()).as("BR-CO-15").isEqualTo(totals.net().plus(totals.vat()));
            }
        }
    }

    /**
     * IAS 2.27: the average may be calculated as each shipment is received. The figures are a textbook's, from memory:
     * 100 at 10.00, 200 at 13.00.
     */
    @Nested
    class Ias2 {

        @Test
        void weightedAverageIsTakenAnewWithEachReceipt() {
            var shelf = new Shelf("S", "A", q(100), Quantity.ZERO, eur("1000.00"));
            shelf = shelf.receive(q(200), shelf.valueAt(q(200), new BigDecimal("13.00")));
            assertThat(shelf.value()).isEqualTo(eur("3600.00"));
            assertThat(shelf.cost(q(250))).as("250 at an average of 12.00").isEqualTo(eur("3000.00"));
            var left = shelf.reserve(q(250)).issue(q(250), shelf.cost(q(250)));
            assertThat(left.cost(q(50))).isEqualTo(eur("600.00"));
        }
    }

    /**
     * ISO 7064 MOD 97-10 through ISO 11649; the reference library is commons-validator, whose IBANCheckDigit is the
     * same scheme.
     */
    @Nested
    class Iso7064 {

        /** RF18 5390 0754 7034 is the example that the European Payments Council and many banks print. */
        @Test
        void knowsTheExampleThatBanksPrint() {
            assertThat(CreditorReference.isValid("RF18 5390 0754 7034")).isTrue();
            assertThat(CreditorReference.isValid("RF18 5390 0754 7043")).isFalse();
            assertThat(CreditorReference.of("539007547034")).isEqualTo("RF18539007547034");
        }

        @Test
        void agreesWithTheReferenceLibraryOnRandomNumbers() {
            var seed = Long.getLong("seed", System.nanoTime());
            var random = new Random(seed);
            for (int round = 0; round < Rounds.of(2_000); round++) {
                var number = "%d-%05d".formatted(2000 + random.nextInt(100), random.nextInt(100_000));
                var reference = CreditorReference.of(number);
                assertThat(IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(reference))
                        .as("%s of %s, seed %d", reference, number, seed)
                        .isTrue();
                var slip = new StringBuilder(reference);
                var at = 4 + random.nextInt(reference.length() - 4);
                slip.setCharAt(at, (char)
                        ('0' + (Character.digit(reference.charAt(at), 10) + 1 + random.nextInt(9)) % 10));
                assertThat(CreditorReference.isValid(slip.toString()))
                        .as("a digit changed, seed %d", seed)
                        .isEqualTo(IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(slip.toString()))
                        .isFalse();
            }
        }
    }

    /** Invented; that references beat numbers, and numbers beat amounts, is common practice. */
    @Nested
    class BankEntries {

        private static final Matching.Beside NOTHING_ELSE = new Matching.Beside(List.of(), eur("0.00"));

        private final List<Candidate> open = List.of(
                candidate("2026-00007", "C-1", "Sandeel Yard", "100.00"),
                candidate("2026-00071", "C-1", "Sandeel Yard", "40.00"),
                candidate("2026-00008", "C-2", "Łuk Boats", "100.00"));

        private static Candidate candidate(String number, String customer, String name, String open) {
            return new Candidate(
                    new OpenInvoice(number, customer, eur(open), eur(open)), name, java.util.Optional.empty());
        }

        private Matching.Proposal first(String amount, String payer, String reference, String remittance) {
            return Matching.propose(new Received(eur(amount), payer, reference, remittance, TODAY), open, NOTHING_ELSE)
                    .stream()
                    .findFirst()
                    .orElseThrow();
        }

        @Test
        void areCertainByReferenceOrNumberWithTheVeryAmount() {
            assertThat(first("100.00", "", CreditorReference.of("2026-00008"), "")
                            .sureness())
                    .isEqualTo(Sureness.CERTAIN);
            assertThat(first("140.00", "somebody", "", "inv. 2026/00007 and 202600071, thanks")
                            .settlements())
                    .containsExactly(
                            new Settlement("2026-00007", eur("100.00")), new Settlement("2026-00071", eur("40.00")));
            var less = first("60.00", "", "", "2026-00007");
            assertThat(less.sureness()).isEqualTo(Sureness.LIKELY);
            assertThat(less.reason())
                    .isEqualTo(
                            "The payer names invoice 2026-00007, but EUR 100.00 is open and EUR 60.00 was received.");
        }

        @Test
        void takeNoNumberForThePartOfALongerOne() {
            assertThat(Matching.propose(
                            new Received(eur("40.00"), "", "", "our ref 92026000710", TODAY), open, NOTHING_ELSE))
                    .noneMatch(p -> p.sureness() == Sureness.CERTAIN);
            assertThat(first("40.00", "", "", "2026-00071").settlements())
                    .containsExactly(new Settlement("2026-00071", eur("40.00")));
        }

        @Test
        void fallBackOnPayerAndAmount() {
            assertThat(first("100.00", "LUK BOATS", "", "").sureness()).isEqualTo(Sureness.POSSIBLE);
            assertThat(first("100.00", "sandeel-yard", "", "").reason()).startsWith("The payer is Sandeel Yard");
            assertThat(first("140.00", "Sandeel Yard", "", "").reason()).contains("equals all open invoices");
            assertThat(Matching.propose(new Received(eur("77.00"), "nobody", "", "hello", TODAY), open, NOTHING_ELSE))
                    .isEmpty();
        }
    }

    /** Three reminders at 7, 21 and 35 days past due, ten days apart; common practice, figures ours. */
    @Nested
    class Reminders {

        @Test
        void goOutStepByStep() {
            var late = new Overdue("I-1", TODAY.minusDays(8), eur("50.00"), 0, null);
            assertThat(late.next(TODAY)).contains(1);
            assertThat(new Overdue("I-1", TODAY.minusDays(30), eur("50.00"), 1, TODAY.minusDays(5)).next(TODAY))
                    .as("too soon after the first")
                    .isEmpty();
            assertThat(new Overdue("I-1", TODAY.minusDays(90), eur("50.00"), 3, TODAY.minusDays(40)).next(TODAY))
                    .as("all went out")
                    .isEmpty();
            var letter = Dunning.reminder(
                            List.of(
                                    late,
                                    new Overdue("I-2", TODAY.minusDays(40), eur("20.00"), 2, TODAY.minusDays(12))),
                            TODAY)
                    .orElseThrow();
            assertThat(letter.step()).isEqualTo(3);
            assertThat(letter.open()).isEqualTo(eur("70.00"));
            assertThat(Dunning.reminder(List.of(new Overdue("I-3", TODAY.minusDays(2), eur("1.00"), 0, null)), TODAY))
                    .isEmpty();
        }
    }
}
