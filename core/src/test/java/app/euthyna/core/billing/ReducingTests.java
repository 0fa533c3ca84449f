package app.euthyna.core.billing;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Posting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/**
 * An invoice of 150.00 at 21 % and 33.33 at 9 %: 217.83. VAT goes down with what is not paid: Directive 2006/112/EC
 * art. 79(a) for discounts, art. 90 for bad debt. The figures are our own.
 */
class ReducingTests {

    private static final Person CONTROLLER = new Person("morag", Role.CONTROLLER);
    private static final Person RECEIVABLES = new Person("tove", Role.RECEIVABLES);
    private static final Person LEAD = new Person("lead", Role.LEAD);
    private static final Vat AT_21 = Vat.of(Vat.Category.S, "21");
    private static final Vat AT_9 = Vat.of(Vat.Category.S, "9");
    private static final DocumentRef PAYMENT = new DocumentRef(DocumentKind.PAYMENT, "P-1");

    private final Sale sale =
            new Sale(stock(1, "A", "10", "15.00", "21"), line(2, LineKind.SERVICE, "W", "1", "33.33", "9"));
    private Invoice invoice;
    private boolean relief = true;
    private RoleLimits limits = RoleLimits.NONE;
    private Map<String, Money> byPerson = Map.of();
    private Money ofInvoice = eur("0.00");

    @BeforeEach
    void billed() {
        sale.leave("D-1", Map.of(1, q(10)), Map.of(1, eur("70.00")));
        var billed = Billing.bill(
                        "C",
                        List.of(sale.chain()),
                        List.of(),
                        new Billing.Terms(
                                "2026-1",
                                TODAY,
                                30,
                                "",
                                false,
                                Optional.of(new EarlyPaymentTerms(new BigDecimal("2"), 10))),
                        java.util.Set.of())
                .get();
        sale.happen(billed);
        invoice = billed.invoice();
        assertThat(invoice.totals().gross()).isEqualTo(eur("217.83"));
    }

    private Reducing.Standing standing(String open) {
        return new Reducing.Standing(sale.chain().invoices().get(0), inForce(), eur(open));
    }

    private List<CreditNote> inForce() {
        return sale.chain().credits().stream().filter(c -> !c.reversed()).toList();
    }

    private Decision<Effect.InvoiceReduced> write(Person who, Reduction.Kind kind, String amount, String open) {
        return Reducing.writeOff(
                who,
                new Reducing.WriteOff("W-1", kind, eur(amount), TODAY, "insolvent"),
                standing(open),
                new Reducing.Bounds(eur("1.00"), relief, limits, byPerson, ofInvoice));
    }

    private static List<String> codes(Decision<?> decision) {
        return decision.refusals().stream().map(Refusal::code).toList();
    }

    private static List<String> shares(Decision<Effect.InvoiceReduced> decision) {
        return decision.get().reduction().shares().stream()
                .map(share -> share.vat().ratePercent().intValue() + " %: "
                        + share.net().amount() + " + " + share.tax().amount())
                .toList();
    }

    private static Map<AccountRole, Money> posted(Effect effect) {
        return new Postings(item -> "", customer -> "")
                .of(effect).orElseThrow().posting().lines().stream()
                        .collect(java.util.stream.Collectors.toMap(
                                Posting.Line::role, Posting.Line::amount, Money::plus));
    }

    private CreditNote credit(Crediting.Share... shares) {
        var credited = Crediting.credit(
                        sale.chain().invoices().get(0),
                        inForce(),
                        List.of(shares),
                        eur("0.00"),
                        new Crediting.Terms(
                                () -> "C-" + (sale.chain().credits().size() + 1),
                                TODAY,
                                "agreed",
                                BigDecimal.ZERO,
                                false))
                .get();
        sale.happen(credited);
        return credited.credit();
    }

    @Nested
    class BadDebt {

        @Test
        void givesBackTheVatOfWhatIsNotPaid() {
            var written = write(LEAD, Reduction.Kind.BAD_DEBT, "217.83", "217.83");
            assertThat(shares(written)).containsExactly("9 %: 33.33 + 3.00", "21 %: 150.00 + 31.50");
            assertThat(posted(written.get()))
                    .containsExactlyInAnyOrderEntriesOf(Map.of(
                            AccountRole.BAD_DEBT,
                            eur("183.33"),
                            AccountRole.OUTPUT_VAT,
                            eur("34.50"),
                            AccountRole.RECEIVABLES,
                            eur("-217.83")));
        }

        @Test
        void givesBackThePartOfTheVatThatGoesWithIt() {
            // 31.50 × 100 ÷ 217.83 = 14.46, 3.00 × 100 ÷ 217.83 = 1.38
            assertThat(shares(write(LEAD, Reduction.Kind.BAD_DEBT, "100.00", "217.83")))
                    .containsExactly("9 %: 15.30 + 1.38", "21 %: 68.86 + 14.46");
        }

        @Test
        void writtenOffPieceByPieceGivesBackAllOfTheVat() {
            var open = new BigDecimal("217.83");
            var tax = eur("0.00");
            for (var piece : List.of("0.01", "99.99", "17.77", "100.05", "0.01")) {
                var written = write(LEAD, Reduction.Kind.BAD_DEBT, piece, open.toPlainString())
                        .get();
                assertThat(written.reduction().shares().stream()
                                .map(share -> share.net().plus(share.tax()))
                                .reduce(eur("0.00"), Money::plus))
                        .isEqualTo(eur(piece));
                sale.happen(written);
                tax = tax.plus(written.reduction().tax());
                open = open.subtract(new BigDecimal(piece));
            }
            assertThat(open).isEqualByComparingTo("0.00");
            assertThat(tax).isEqualTo(invoice.totals().vat());
        }

        @Test
        void afterACreditGivesBackWhatIsLeftOfTheVat() {
            credit(Crediting.Share.of(1, q(4)));
            // 90.00 + 18.90 and 33.33 + 3.00 are left: 145.23
            assertThat(shares(write(LEAD, Reduction.Kind.BAD_DEBT, "145.23", "145.23")))
                    .containsExactly("9 %: 33.33 + 3.00", "21 %: 90.00 + 18.90");
        }

        @Test
        void ofWhatCreditsHaveSetFreeElsewhereHasNoVatLeft() {
            credit(Crediting.Share.of(1, q(10)), Crediting.Share.of(2, q(1)));
            var written = write(LEAD, Reduction.Kind.BAD_DEBT, "217.83", "217.83");
            assertThat(written.get().reduction().tax()).isEqualTo(eur("0.00"));
            assertThat(posted(written.get())).containsEntry(AccountRole.BAD_DEBT, eur("217.83"));
        }

        @Test
        void withoutReliefIsBadDebtWhole() {
            relief = false;
            var written = write(LEAD, Reduction.Kind.BAD_DEBT, "217.83", "217.83");
            assertThat(shares(written)).isEmpty();
            assertThat(posted(written.get()))
                    .containsExactlyInAnyOrderEntriesOf(
                            Map.of(AccountRole.BAD_DEBT, eur("217.83"), AccountRole.RECEIVABLES, eur("-217.83")));
        }

        @Test
        void isForWhoeverDecidesAndWithinTheirLimit() {
            assertThat(codes(write(RECEIVABLES, Reduction.Kind.BAD_DEBT, "5.00", "217.83")))
                    .containsExactly("not-authorised");
            limits = new RoleLimits(Map.of(Role.CONTROLLER, eur("100.00")));
            assertThat(write(CONTROLLER, Reduction.Kind.BAD_DEBT, "100.00", "217.83")
                            .isRefused())
                    .isFalse();
            assertThat(codes(write(CONTROLLER, Reduction.Kind.BAD_DEBT, "100.01", "217.83")))
                    .containsExactly("limit-of-person");
            byPerson = Map.of("morag", eur("60.00"));
            assertThat(codes(write(CONTROLLER, Reduction.Kind.BAD_DEBT, "40.01", "217.83")))
                    .as("with what they wrote off for the customer of late")
                    .containsExactly("limit-of-person");
            byPerson = Map.of();
            ofInvoice = eur("60.00");
            assertThat(codes(write(CONTROLLER, Reduction.Kind.BAD_DEBT, "40.01", "217.83")))
                    .as("with what anybody wrote off of the invoice of late")
                    .containsExactly("limit-of-person");
            assertThat(write(LEAD, Reduction.Kind.BAD_DEBT, "217.83", "217.83").isRefused())
                    .isFalse();
        }

        @Test
        void keepsTheInvoiceFromBeingCredited() {
            sale.happen(write(LEAD, Reduction.Kind.BAD_DEBT, "50.00", "217.83").get());
            var credited = Crediting.credit(
                    sale.chain().invoices().get(0),
                    List.of(),
                    List.of(Crediting.Share.of(1, q(1))),
                    eur("167.83"),
                    new Crediting.Terms(() -> "C-1", TODAY, "agreed", BigDecimal.ZERO, false));
            assertThat(codes(credited)).containsExactly("already-written-off");
        }
    }

    @Nested
    class ASmallDifference {

        @Test
        void touchesNoVat() {
            var written = write(RECEIVABLES, Reduction.Kind.SMALL_DIFFERENCE, "0.02", "0.02");
            assertThat(posted(written.get()))
                    .containsExactlyInAnyOrderEntriesOf(Map.of(
                            AccountRole.PAYMENT_DIFFERENCES, eur("0.02"), AccountRole.RECEIVABLES, eur("-0.02")));
        }

        @Test
        void isSmallOnOneInvoiceAltogether() {
            sale.happen(write(RECEIVABLES, Reduction.Kind.SMALL_DIFFERENCE, "0.60", "217.83")
                    .get());
            assertThat(write(RECEIVABLES, Reduction.Kind.SMALL_DIFFERENCE, "0.40", "217.23")
                            .isRefused())
                    .isFalse();
            assertThat(codes(write(LEAD, Reduction.Kind.SMALL_DIFFERENCE, "0.41", "217.23")))
                    .containsExactly("limit-of-person");
        }

        @Test
        void isNotForClerksNorWithoutAReasonNorMoreThanIsOpen() {
            assertThat(codes(write(new Person("clerk", Role.CLERK), Reduction.Kind.SMALL_DIFFERENCE, "0.02", "0.02")))
                    .containsExactly("not-authorised");
            assertThat(codes(write(RECEIVABLES, Reduction.Kind.SMALL_DIFFERENCE, "0.03", "0.02")))
                    .containsExactly("more-than-open");
            assertThat(codes(Reducing.writeOff(
                            RECEIVABLES,
                            new Reducing.WriteOff("W-1", Reduction.Kind.SMALL_DIFFERENCE, eur("0.00"), TODAY, " "),
                            standing("0.02"),
                            new Reducing.Bounds(eur("1.00"), true, limits, byPerson, ofInvoice))))
                    .containsExactly("incomplete", "incomplete");
        }
    }

    @Nested
    class ADiscount {

        private Decision<Effect.InvoiceReduced> take(String paid, int days, Person who, String reason) {
            return Reducing.discount(
                    PAYMENT,
                    eur(paid),
                    standing("217.83"),
                    new Reducing.Grant(who, TODAY, TODAY.plusDays(days), reason));
        }

        @Test
        void lowersTheVatOfEachRate() {
            var taken = take("213.47", 10, RECEIVABLES, "");
            assertThat(taken.get().reduction().amount()).isEqualTo(eur("4.36"));
            assertThat(shares(taken)).containsExactly("9 %: 0.67 + 0.06", "21 %: 3.00 + 0.63");
            assertThat(posted(taken.get()))
                    .containsExactlyInAnyOrderEntriesOf(Map.of(
                            AccountRole.SALES_DISCOUNTS,
                            eur("3.67"),
                            AccountRole.OUTPUT_VAT,
                            eur("0.69"),
                            AccountRole.RECEIVABLES,
                            eur("-4.36")));
        }

        @Test
        void isOverAfterItsDaysUnlessAControllerGrantsItWithAReason() {
            assertThat(codes(take("213.47", 11, RECEIVABLES, "agreed"))).containsExactly("discount-lapsed");
            assertThat(codes(take("213.47", 11, CONTROLLER, ""))).containsExactly("discount-lapsed");
            assertThat(take("213.47", 11, CONTROLLER, "agreed").isRefused()).isFalse();
        }

        @Test
        void isOfTheAmountThatSettlesTheRest() {
            assertThat(codes(take("213.46", 1, RECEIVABLES, ""))).containsExactly("more-than-open");
            assertThat(codes(take("213.48", 1, RECEIVABLES, ""))).containsExactly("more-than-open");
        }

        @Test
        void isTakenOnce() {
            sale.happen(take("213.47", 1, RECEIVABLES, "").get());
            assertThat(codes(take("213.47", 1, RECEIVABLES, ""))).containsExactly("discount-lapsed");
        }

        @Test
        void isOfWhatIsLeftAfterCredits() {
            credit(Crediting.Share.of(1, q(4)));
            assertThat(Reducing.discount(standing("145.23")))
                    .as("2 % of 145.23")
                    .contains(eur("2.90"));
        }

        @Test
        void isGivenBackWithTheCreditsPieceByPiece() {
            sale.happen(take("213.47", 1, RECEIVABLES, "").get());
            var first = credit(Crediting.Share.of(1, q(3)));
            // 45.00 + 9.45, less 0.90 and 0.19 of the discount
            assertThat(first.totals().gross()).isEqualTo(eur("53.36"));
            assertThat(first.discounted()).containsExactly(new Totals.Band(AT_21, eur("0.90"), eur("0.19")));
            assertThat(posted(new Effect.CreditNotePosted(first, invoice, eur("0.00"))))
                    .containsExactlyInAnyOrderEntriesOf(Map.of(
                            AccountRole.SALES_RETURNS,
                            eur("45.00"),
                            AccountRole.SALES_DISCOUNTS,
                            eur("-0.90"),
                            AccountRole.OUTPUT_VAT,
                            eur("9.26"),
                            AccountRole.RECEIVABLES,
                            eur("0.00"),
                            AccountRole.CUSTOMER_CREDIT,
                            eur("-53.36")));
            var rest = credit(Crediting.Share.of(1, q(7)), Crediting.Share.of(2, q(1)));
            assertThat(rest.discounted())
                    .containsExactly(
                            new Totals.Band(AT_9, eur("0.67"), eur("0.06")),
                            new Totals.Band(AT_21, eur("2.10"), eur("0.44")));
            assertThat(first.totals().gross().plus(rest.totals().gross()))
                    .as("what was paid")
                    .isEqualTo(eur("213.47"));
        }

        @Test
        void isNotOnACreditThatHasNoneOfIt() {
            var before = credit(Crediting.Share.of(1, q(8)));
            var taken = Reducing.discount(
                    PAYMENT,
                    eur("71.18"),
                    standing("72.63"),
                    new Reducing.Grant(RECEIVABLES, TODAY, TODAY.plusDays(1), ""));
            sale.happen(taken.get());
            sale.happen(new Effect.CreditNoteReversed(before, invoice, List.of()));
            assertThat(credit(Crediting.Share.of(1, q(2))).discounted())
                    .as("less was credited than before the discount")
                    .isEmpty();
        }

        @Test
        void fallsWithTheMoneyItWasTakenWith() {
            var taken = take("213.47", 1, RECEIVABLES, "").get();
            var source = new RefundRules.Source(
                    PAYMENT,
                    "C",
                    eur("213.47"),
                    eur("0.00"),
                    eur("0.00"),
                    false,
                    Map.of("2026-1", eur("213.47")),
                    List.of(new RefundRules.Discount(taken.reduction(), List.of())));
            assertThat(RefundRules.reverse(source).get())
                    .hasSize(2)
                    .first()
                    .isEqualTo(new Effect.ReductionReversed(taken.reduction()));
            assertThat(RefundRules.takeOff(source, source.settlements()).get())
                    .first()
                    .isEqualTo(new Effect.ReductionReversed(taken.reduction()));
            var credited = new RefundRules.Source(
                    PAYMENT,
                    "C",
                    eur("213.47"),
                    eur("0.00"),
                    eur("0.00"),
                    false,
                    Map.of("2026-1", eur("213.47")),
                    List.of(new RefundRules.Discount(taken.reduction(), List.of("C-1"))));
            assertThat(codes(RefundRules.reverse(credited))).containsExactly("already-credited");
        }
    }
}
