package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.check.Evidence.InvoicesOverdue;
import app.euthyna.core.check.Evidence.OverLimit;
import app.euthyna.core.check.Evidence.QuotaPassed;
import app.euthyna.core.check.Evidence.StockShortage;
import app.euthyna.core.check.Evidence.Unlicensed;
import app.euthyna.core.check.Evidence.Unusual;
import app.euthyna.core.check.Evidence.WrongDates;
import app.euthyna.core.check.PoEvidence.PoCeilingPassed;
import app.euthyna.core.check.PoEvidence.PoMet;
import app.euthyna.core.check.PoEvidence.PoMissing;
import app.euthyna.core.check.PriceEvidence.BelowFloor;
import app.euthyna.core.check.PriceEvidence.ThinMargin;
import app.euthyna.core.check.PriceEvidence.WrongPrice;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What a finding says of itself, and when it has grown so that a waiver no longer covers it (section 4). */
class EvidenceTests {

    private static final List<BigDecimal> USUAL = Stream.of("8", "9", "10", "10", "10", "11", "12", "12")
            .map(BigDecimal::new)
            .toList();

    private static PoEvidence.PoMet met(PoNumber.Likeness kind, String order) {
        return new PoMet("P-1", List.of(match(kind, order)));
    }

    private static PoMet.Match match(PoNumber.Likeness kind, String order) {
        return new PoMet.Match(
                kind,
                new PoUse(order, "P 1", TODAY, eur("9.00"), eur("9.00"), List.of(), PoUse.Place.OPEN_ORDER, false));
    }

    private static BelowFloor floor(int line, String item, String given) {
        return new BelowFloor(
                List.of(new BelowFloor.FloorLine(line, item, "Rope", new BigDecimal(given), new BigDecimal("10.0000"))),
                List.of());
    }

    private static BelowFloor discount(int line, String item, String given) {
        return new BelowFloor(
                List.of(),
                List.of(new BelowFloor.DiscountLine(
                        line, item, "Rope", new BigDecimal(given), new BigDecimal("5"), Role.CLERK)));
    }

    private static WrongPrice price(String unit, int... lines) {
        return new WrongPrice(
                !unit.equals("0.00"),
                java.util.Arrays.stream(lines)
                        .mapToObj(no -> new WrongPrice.PricedLine(no, "A", "Rope", unit))
                        .toList());
    }

    private static ThinMargin margin(int line, String item, String percent) {
        return new ThinMargin(
                BigDecimal.TEN,
                List.of(new ThinMargin.MarginLine(
                        line, item, "Rope", BigDecimal.TEN, BigDecimal.ONE, new BigDecimal(percent))));
    }

    private static OverLimit over(String excess) {
        var nothing = Term.nothing(EUR);
        return new OverLimit(
                new CustomerPosition(nothing, nothing, nothing, nothing),
                eur("1.00"),
                eur("1.00"),
                eur("1.00"),
                eur(excess));
    }

    private static InvoicesOverdue overdue(int daysLater, String number, String open) {
        return new InvoicesOverdue(
                TODAY.plusDays(daysLater),
                0,
                eur("0.00"),
                List.of(new CheckContext.DueInvoice(number, TODAY.minusDays(40), eur(open))));
    }

    private static Unlicensed licence(String item, LicenceFact.Answer answer, String number, int tries) {
        return new Unlicensed(
                TODAY,
                List.of(new Unlicensed.LicenceGap(
                        1,
                        item,
                        "Resin",
                        new LicenceFact("chemicals", number, answer, TODAY.minusDays(3), TODAY, tries))));
    }

    private static StockShortage shortage(int line, long waiting) {
        return new StockShortage(
                List.of(new StockShortage.ShortLine(line, "A", "Rope", q(10), q(10 - waiting), q(waiting))));
    }

    private static QuotaPassed quota(String item, Quota.Scope scope, String key, long asked) {
        return new QuotaPassed(
                List.of(new QuotaPassed.Passed(new Quota(item, scope, key, TODAY, TODAY, q(10), q(8)), q(asked))));
    }

    private static WrongDates wanted(int line, int inDays) {
        return new WrongDates(
                TODAY,
                List.of(new WrongDates.DatedLine(line, "A", "Rope", TODAY.plusDays(inDays), TODAY.plusDays(10), 10)));
    }

    private static Unusual unusualValue(String value) {
        return new Unusual(RobustScore.of(new BigDecimal(value), USUAL), 8, BigDecimal.ONE, List.of());
    }

    private static Unusual unusualLine(String item, String quantity) {
        return new Unusual(
                Optional.empty(),
                8,
                BigDecimal.ONE,
                List.of(new Unusual.UnusualLine(
                        1,
                        item,
                        "Rope",
                        RobustScore.of(new BigDecimal(quantity), USUAL).orElseThrow())));
    }

    /** Waived, found again, and whether that is worse. */
    static Stream<Arguments> growth() {
        return Stream.of(growthOfPosAndPrices(), growthOfCustomers(), growthOfGoods(), growthFromOneCheckToAnother())
                .flatMap(one -> one);
    }

    private static Stream<Arguments> growthOfPosAndPrices() {
        return Stream.of(
                Arguments.of(met(PoNumber.Likeness.ALIKE, "SO-1"), met(PoNumber.Likeness.ALIKE, "SO-1"), false),
                Arguments.of(met(PoNumber.Likeness.ALIKE, "SO-1"), met(PoNumber.Likeness.NEAR, "SO-1"), false),
                Arguments.of(met(PoNumber.Likeness.ALIKE, "SO-1"), met(PoNumber.Likeness.SAME, "SO-1"), true),
                Arguments.of(met(PoNumber.Likeness.SAME, "SO-1"), met(PoNumber.Likeness.NEAR, "SO-2"), true),
                Arguments.of(ceiling("100.00"), ceiling("100.00"), false),
                Arguments.of(ceiling("100.00"), ceiling("100.01"), true),
                Arguments.of(new PoMissing("C1"), new PoMissing("C2"), false),
                Arguments.of(met(PoNumber.Likeness.SAME, "SO-1"), new PoMissing("C1"), true),
                Arguments.of(met(PoNumber.Likeness.SAME, "SO-1"), ceiling("1.00"), true),
                Arguments.of(ceiling("100.00"), met(PoNumber.Likeness.NEAR, "SO-1"), true),
                Arguments.of(floor(1, "A", "9.0000"), floor(1, "A", "9.0000"), false),
                Arguments.of(floor(1, "A", "9.0000"), floor(1, "A", "8.9999"), true),
                Arguments.of(floor(1, "A", "9.0000"), floor(2, "A", "9.5000"), true),
                Arguments.of(floor(1, "A", "9.0000"), floor(1, "B", "9.5000"), true),
                Arguments.of(discount(1, "A", "6"), discount(1, "A", "6"), false),
                Arguments.of(discount(1, "A", "6"), discount(1, "A", "6.01"), true),
                Arguments.of(discount(1, "A", "6"), discount(2, "A", "5.5"), true),
                Arguments.of(discount(1, "A", "6"), discount(1, "B", "5.5"), true),
                Arguments.of(price("0.00", 1, 2), price("0.00", 2), false),
                Arguments.of(price("0.00", 1), price("0.00", 1, 2), true),
                Arguments.of(price("0.00", 1), price("4.00", 1), true),
                Arguments.of(margin(1, "A", "8.0"), margin(1, "A", "8.0"), false),
                Arguments.of(margin(1, "A", "8.0"), margin(1, "A", "7.9"), true),
                Arguments.of(margin(1, "A", "8.0"), margin(1, "B", "9.0"), true),
                Arguments.of(margin(1, "A", "8.0"), margin(2, "A", "9.0"), true));
    }

    private static Stream<Arguments> growthOfCustomers() {
        return Stream.of(
                Arguments.of(over("10.00"), over("10.00"), false),
                Arguments.of(over("10.00"), over("10.01"), true),
                Arguments.of(overdue(0, "2026-1", "5.00"), overdue(90, "2026-1", "5.00"), false),
                Arguments.of(overdue(0, "2026-1", "5.00"), overdue(0, "2026-1", "5.01"), true),
                Arguments.of(overdue(0, "2026-1", "5.00"), overdue(0, "2026-2", "1.00"), true),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 1),
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 9),
                        false),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 1),
                        licence("A", LicenceFact.Answer.NOT_FOUND, "L1", 1),
                        true),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 1),
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L2", 1),
                        true),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 1),
                        licence("B", LicenceFact.Answer.NO_ANSWER, "L1", 1),
                        true));
    }

    private static Stream<Arguments> growthOfGoods() {
        return Stream.of(
                Arguments.of(shortage(1, 4), shortage(1, 4), false),
                Arguments.of(shortage(1, 4), shortage(1, 5), true),
                Arguments.of(shortage(1, 4), shortage(2, 1), true),
                Arguments.of(quota("A", Quota.Scope.REGION, "N", 5), quota("A", Quota.Scope.REGION, "N", 5), false),
                Arguments.of(quota("A", Quota.Scope.REGION, "N", 5), quota("A", Quota.Scope.REGION, "N", 6), true),
                Arguments.of(quota("A", Quota.Scope.REGION, "N", 5), quota("B", Quota.Scope.REGION, "N", 3), true),
                Arguments.of(quota("A", Quota.Scope.REGION, "N", 5), quota("A", Quota.Scope.SELLER, "N", 3), true),
                Arguments.of(quota("A", Quota.Scope.REGION, "N", 5), quota("A", Quota.Scope.REGION, "S", 3), true),
                Arguments.of(wanted(1, 3), wanted(1, 3), false),
                Arguments.of(wanted(1, 3), wanted(1, 2), true),
                Arguments.of(wanted(1, 3), wanted(2, 5), true),
                Arguments.of(unusualValue("40"), unusualValue("40"), false),
                Arguments.of(unusualValue("40"), unusualValue("41"), true),
                Arguments.of(unusualLine("A", "40"), unusualLine("A", "40"), false),
                Arguments.of(unusualLine("A", "40"), unusualLine("A", "41"), true),
                Arguments.of(unusualLine("A", "40"), unusualLine("B", "20"), true),
                Arguments.of(unusualLine("A", "40"), unusualValue("20"), true));
    }

    private static Stream<Arguments> growthFromOneCheckToAnother() {
        return Stream.of(
                Arguments.of(over("10.00"), shortage(1, 1), true),
                Arguments.of(shortage(1, 1), over("0.01"), true),
                Arguments.of(shortage(1, 1), floor(1, "A", "9.9999"), true),
                Arguments.of(shortage(1, 1), price("0.00", 1), true),
                Arguments.of(shortage(1, 1), margin(1, "A", "9.9"), true),
                Arguments.of(shortage(1, 1), overdue(0, "2026-1", "1.00"), true),
                Arguments.of(shortage(1, 1), licence("A", LicenceFact.Answer.FOUND, "L", 1), true),
                Arguments.of(shortage(1, 1), quota("A", Quota.Scope.CUSTOMER, "C", 3), true),
                Arguments.of(shortage(1, 1), wanted(1, 9), true),
                Arguments.of(shortage(1, 1), unusualValue("40"), true));
    }

    private static PoCeilingPassed ceiling(String together) {
        return new PoCeilingPassed("P-1", eur(together), eur("90.00"), List.of());
    }

    @ParameterizedTest
    @MethodSource("growth")
    void coversWhatIsNoWorse(Evidence waived, Evidence now, boolean worse) {
        assertThat(now.isWorseThan(waived)).isEqualTo(worse);
        assertThat(now.isWorseThan(now)).as("than itself").isFalse();
    }

    /** Findings in a list and in a sentence. */
    static Stream<Arguments> words() {
        return Stream.of(wordsOfPosAndPrices(), wordsOfCustomersAndGoods()).flatMap(one -> one);
    }

    private static Stream<Arguments> wordsOfPosAndPrices() {
        return Stream.of(
                Arguments.of(
                        met(PoNumber.Likeness.SAME, "SO-7"), "PO used before", "the PO number is also on order SO-7"),
                Arguments.of(
                        met(PoNumber.Likeness.ALIKE, "SO-7"),
                        "PO alike P 1",
                        "the PO number matches P 1 on order SO-7"),
                Arguments.of(
                        new PoMet(
                                "P-1",
                                List.of(match(PoNumber.Likeness.NEAR, "SO-7"), match(PoNumber.Likeness.NEAR, "SO-8"))),
                        "PO near P 1",
                        "the PO number is a near match of P 1 on order SO-7 and 1 more"),
                Arguments.of(
                        ceiling("100.00"),
                        "PO ceiling exceeded",
                        "orders under this PO total EUR 100.00; its ceiling is EUR 90.00"),
                Arguments.of(new PoMissing("C1"), "no PO", "customer C1 requires a PO number and the order has none"),
                Arguments.of(
                        floor(1, "A", "9.5000"),
                        "below floor price",
                        "line 1 is priced at 9.50, below the floor price of 10.00"),
                Arguments.of(
                        discount(2, "A", "6.50"),
                        "discount too high",
                        "line 2 has a discount of 6.5 %, a sales clerk may give 5 %"),
                Arguments.of(price("0.00", 1), "price is zero", "line 1 has no price"),
                Arguments.of(price("0.00", 1, 3), "price is zero", "lines 1, 3 have no price"),
                Arguments.of(price("4.00", 2), "price not zero", "line 2 has a price on goods at no charge"),
                Arguments.of(
                        margin(1, "A", "8.0"), "margin too low", "line 1 has a margin of 8.0 %, the minimum is 10 %"));
    }

    private static Stream<Arguments> wordsOfCustomersAndGoods() {
        return Stream.of(
                Arguments.of(over("12.00"), "over limit", "the customer would be EUR 12.00 over the limit"),
                Arguments.of(
                        overdue(0, "2026-1", "5.00"),
                        "overdue 40 days",
                        "invoice 2026-1 with EUR 5.00 open is 40 days past due"),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_LICENCE, "", 0),
                        "no licence",
                        "there is no chemicals licence"),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NOT_FOUND, "L1", 1),
                        "licence not found",
                        "the register does not list the chemicals licence L1"),
                Arguments.of(
                        licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 3),
                        "register did not answer",
                        "the register did not answer for the chemicals licence L1 in 3 tries"),
                Arguments.of(
                        licence("A", LicenceFact.Answer.FOUND, "L1", 1),
                        "licence lapsed",
                        "the chemicals licence lapsed 3 days ago"),
                Arguments.of(shortage(1, 4), "short 4 of 10", "4 of 10 rope are not in stock"),
                Arguments.of(
                        quota("A", Quota.Scope.REGION, "NORTH", 5),
                        "over quota by 3",
                        "region NORTH may have 10 of A this season, has 8 and asks for 5"),
                Arguments.of(wanted(1, -2), "date has passed", "line 1 was requested for 2 days ago"),
                Arguments.of(wanted(1, 0), "before lead time", "line 1 is requested today, its lead time is 10"),
                Arguments.of(wanted(1, 1), "before lead time", "line 1 is requested tomorrow, its lead time is 10"),
                Arguments.of(wanted(1, 4), "before lead time", "line 1 is requested in 4 days, its lead time is 10"),
                Arguments.of(unusualLine("A", "40"), "unusual quantity", "line 1 orders 40; usual is 10"));
    }

    @ParameterizedTest
    @MethodSource("words")
    void saysWhatItFound(Evidence evidence, String brief, String sentence) {
        assertThat(evidence.brief()).isEqualTo(brief);
        assertThat(evidence.sentence()).isEqualTo(sentence);
    }

    @Test
    void thinMarginNamesTheWorstLineAndHowManyMore() {
        var two = new ThinMargin(
                BigDecimal.TEN,
                List.of(
                        margin(1, "A", "8.0").lines().get(0),
                        margin(2, "B", "-3.5").lines().get(0)));
        assertThat(two.sentence()).isEqualTo("line 2 has a margin of −3.5 %, the minimum is 10 %, and 1 more");
    }

    /** Floor prices, costs and margins are not for everybody: what is shown then names lines only (section 15). */
    @Test
    void withoutCostsNoFigureIsLeft() {
        var floor = new BelowFloor(
                floor(1, "A", "9.0000").lines(), discount(1, "A", "6").discounts());
        for (var evidence : List.<Evidence>of(floor, margin(1, "A", "8.0"))) {
            var shown = evidence.withoutCosts();
            assertThat(shown).isInstanceOf(Evidence.LinesNamed.class);
            assertThat(shown.check()).isEqualTo(evidence.check());
            assertThat(shown.sentence())
                    .isEqualTo("line 1: " + evidence.brief())
                    .doesNotContainPattern("[2-9]");
            assertThatThrownBy(() -> shown.isWorseThan(evidence)).isInstanceOf(UnsupportedOperationException.class);
        }
        var over = over("10.00");
        assertThat(over.withoutCosts()).as("there is no cost in it").isSameAs(over);
    }

    @Test
    void whatElseIsSaid() {
        var block = new Evidence.Blocked(new CustomerRules.Block("lead", TODAY, "disputes every bill"));
        assertThat(block.brief()).isEqualTo("blocked");
        assertThat(block.sentence()).isEqualTo("the customer is blocked by lead: disputes every bill");
        assertThat(unusualValue("40").brief()).isEqualTo("unusual value");
        assertThat(unusualValue("40").sentence()).isEqualTo("its net of 40 is far from the usual 10");
        assertThat(licence("A", LicenceFact.Answer.NO_ANSWER, "L1", 1).sentence())
                .as("one try is not counted")
                .isEqualTo("the register did not answer for the chemicals licence L1");
        assertThat(FindingDecisionRefusal.StandsWorse.of(
                                "SO-1", List.of(Finding.open(Severity.STOP, over("1.00"), TODAY)))
                        .sentence())
                .isEqualTo("Order SO-1 stands worse than you saw: the customer would be EUR 1.00 over the limit.");
    }

    /** Each evidence belongs to one check, which findings are carried on by. */
    @Test
    void belongsToItsCheck() {
        assertThat(Stream.of(
                                met(PoNumber.Likeness.SAME, "SO-1"),
                                ceiling("1.00"),
                                new PoMissing("C1"),
                                floor(1, "A", "9.0000"),
                                price("0.00", 1),
                                margin(1, "A", "8.0"),
                                over("1.00"),
                                overdue(0, "2026-1", "5.00"),
                                licence("A", LicenceFact.Answer.FOUND, "L", 1),
                                shortage(1, 1),
                                quota("A", Quota.Scope.CUSTOMER, "C", 3),
                                wanted(1, 3),
                                unusualValue("40"))
                        .map(Evidence::check))
                .containsExactly(
                        Check.DUPLICATE_PO,
                        Check.DUPLICATE_PO,
                        Check.MISSING_PO,
                        Check.PRICE_FLOOR,
                        Check.ZERO_PRICE,
                        Check.MARGIN,
                        Check.CREDIT_LIMIT,
                        Check.OVERDUE,
                        Check.LICENCE,
                        Check.UNRESERVED,
                        Check.QUOTA,
                        Check.DATES,
                        Check.UNUSUAL);
    }

    @Test
    void overdueTogetherIsTheirSum() {
        var two = new InvoicesOverdue(
                TODAY,
                0,
                eur("0.00"),
                List.of(
                        new CheckContext.DueInvoice("2026-1", TODAY.minusDays(9), eur("5.00")),
                        new CheckContext.DueInvoice("2026-2", TODAY.minusDays(2), eur("0.45"))));
        assertThat(two.together()).isEqualTo(eur("5.45"));
        assertThat(two.sentence()).endsWith("9 days past due and 1 more");
        assertThat(new InvoicesOverdue(TODAY, 0, eur("0.00"), Collections.emptyList()).together())
                .isEqualTo(eur("0.00"));
    }
}
