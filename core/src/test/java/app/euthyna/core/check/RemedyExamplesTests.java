package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.staged;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Remedies by hand: for each kind of finding what is offered, to the unit and to the cent, and what is not. */
class RemedyExamplesTests {

    private final Map<String, ItemFact> items = new HashMap<>();
    private final Map<String, LicenceFact> licences = new HashMap<>();
    private final Map<String, Quantity> free = new HashMap<>(Map.of("A", q(1000), "B", q(1000)));
    private final List<Quota> quotas = new ArrayList<>();
    private List<CheckContext.DueInvoice> due = List.of();
    private String limit = "1000000.00";
    private CheckFigures figures = CheckFigures.NONE;
    private PoPolicy po = PoPolicy.STANDARD;

    private CheckContext world() {
        var nothing = Term.nothing(EUR);
        return new CheckContext(
                TODAY,
                new CustomerRules(
                        "C",
                        Optional.of(eur(limit)),
                        po,
                        Optional.of(new CustomerRules.Overdue(30, eur("0.00"))),
                        Optional.empty()),
                new CustomerPosition(nothing, nothing, nothing, nothing),
                List.of(),
                due,
                items,
                licences,
                free,
                quotas,
                PastOrders.NONE,
                Optional.of(Role.CLERK),
                new CheckPolicy(Map.of(), figures));
    }

    private List<String> offered(Chain chain) {
        var found = Checks.run(chain, world(), List.of(), Checks.Occasion.SUBMITTED, Optional.empty());
        assertThat(found).isNotEmpty();
        var held = chain.after(new Effect.StateChanged("SO-1", chain.order().state(), Checks.stateOf(chain, found)));
        return Remedies.of(held, world(), found, changed -> world()).stream()
                .map(remedy -> "%s %s: %s%s"
                        .formatted(
                                remedy.check().code(),
                                remedy.kind(),
                                remedy.sentence(),
                                remedy.clears() ? "" : " (something is left)"))
                .toList();
    }

    private List<String> offered(OrderLine... lines) {
        return offered(Chain.of(order("SO-1", OrderState.SUBMITTED, lines)));
    }

    @Test
    void overTheLimitAPaymentTheLeastOfALineOrALineLess() {
        limit = "100.00";
        assertThat(offered(stock(1, "A", "10", "9.00", "0"), stock(2, "B", "2", "20.00", "0")))
                .containsExactly(
                        "credit-limit PAYMENT: a payment or deposit of EUR 30.00 brings the exposure to the limit",
                        "credit-limit QUANTITY: line 1 at 6 instead of 10 Item A",
                        "credit-limit LINE: line 2 removed: 2 Item B");
    }

    @Test
    void partsOfAUnitAreGoneThroughWhereTheLineHasThem() {
        limit = "100.00";
        assertThat(offered(stock(1, "A", "10.5", "10.00", "0")))
                .contains("credit-limit QUANTITY: line 1 at 10 instead of 10.5 Item A");
        limit = "99.99";
        assertThat(offered(stock(1, "A", "10.5", "10.00", "0")))
                .contains("credit-limit QUANTITY: line 1 at 9.999 instead of 10.5 Item A");
    }

    @Test
    void whatIsStagedOrGoneIsNotTakenOff() {
        limit = "100.00";
        var partly = Chain.of(order("SO-1", OrderState.CLEARED, stock(1, "A", "20", "10.00", "0")))
                .after(new Effect.StockReserved(new app.euthyna.core.shared.LineRef("SO-1", 1), "S", "A", q(20)))
                .after(new Effect.DispatchStaged(staged("D-1", "A", q(12))));
        assertThat(offered(partly))
                .as("twelve are staged, and even they are over the limit")
                .containsExactly(
                        "credit-limit PAYMENT: a payment or deposit of EUR 100.00 brings the exposure to the limit");
        limit = "150.00";
        assertThat(offered(partly))
                .containsExactly(
                        "credit-limit PAYMENT: a payment or deposit of EUR 50.00 brings the exposure to the limit",
                        "credit-limit QUANTITY: line 1 at 15 instead of 20 Item A");
    }

    @Test
    void overdueInvoicesArePaid() {
        due = List.of(
                new CheckContext.DueInvoice("2026-1", TODAY.minusDays(60), eur("12.10")),
                new CheckContext.DueInvoice("2026-2", TODAY.minusDays(40), eur("0.90")));
        assertThat(offered(stock(1, "A", "1", "9.00", "0")))
                .containsExactly("overdue PAYMENT: a payment of EUR 13.00 settles the overdue invoices");
    }

    @Test
    void aPoCeilingAndAQuotaByLess() {
        po = new PoPolicy(
                false, Severity.STOP, Severity.STOP, Severity.CAUTION, Optional.of(eur("50.00")), PoPolicy.Barred.HOLD);
        assertThat(offered(stock(1, "A", "10", "9.00", "0")))
                .containsExactly("duplicate-po QUANTITY: line 1 at 5 instead of 10 Item A");
        po = PoPolicy.STANDARD;
        quotas.add(new Quota("A", Quota.Scope.REGION, "NORTH", TODAY, TODAY, q(10), q(7)));
        assertThat(offered(stock(1, "A", "10", "9.00", "0"), stock(2, "B", "1", "9.00", "0")))
                .containsExactly(
                        "quota QUANTITY: line 1 at 3 instead of 10 Item A", "quota LINE: line 1 removed: 10 Item A");
        quotas.set(0, new Quota("A", Quota.Scope.REGION, "NORTH", TODAY, TODAY, q(10), q(11)));
        assertThat(offered(stock(1, "A", "10", "9.00", "0"), stock(2, "B", "1", "9.00", "0")))
                .as("nothing is left of it")
                .containsExactly("quota LINE: line 1 removed: 10 Item A");
    }

    @Test
    void noPriceGetsTheListPriceWhereThereIsOne() {
        assertThat(offered(stock(1, "A", "1", "0.00", "0"))).isEmpty();
        items.put(
                "A", new ItemFact(new BigDecimal("12.5000"), Optional.empty(), Optional.empty(), 0, Optional.empty()));
        assertThat(offered(stock(1, "A", "1", "0.00", "0"))).containsExactly("zero-price PRICE: line 1 at 12.50");
        assertThat(offered(stock(1, "A", "1", "0.00", "0"), stock(2, "B", "1", "0.00", "0")))
                .as("one of two lines has no list price")
                .isEmpty();
    }

    @Test
    void goodsAtNoChargeGetNoPrice() {
        var sample = order("SO-1", OrderKind.SAMPLE, OrderState.SUBMITTED, "P-1", stock(1, "A", "1", "9.00", "0"));
        assertThat(offered(Chain.of(sample))).containsExactly("zero-price PRICE: line 1 at 0.00");
    }

    private static OrderLine at(String unit, String discount) {
        return stock(1, "A", "1", "1", "0").withPrice(new Price(new BigDecimal(unit), new BigDecimal(discount)));
    }

    @Test
    void belowTheFloorLessDiscountIfThatIsEnoughElseTheFloor() {
        items.put("A", ItemFact.PLAIN.withFloor(new BigDecimal("9.0000")));
        assertThat(offered(at("10.00", "15"))).containsExactly("price-floor PRICE: line 1 at 10.00 less 10 per cent");
        assertThat(offered(at("8.50", "0"))).containsExactly("price-floor PRICE: line 1 at 9.00");
        items.put("A", ItemFact.PLAIN.withFloor(new BigDecimal("9.3000")));
        assertThat(offered(at("9.33", "15")))
                .as("100 − 9.30 × 100 ÷ 9.33, rounded in the company's favour")
                .containsExactly("price-floor PRICE: line 1 at 9.33 less 0.32 per cent");
    }

    @Test
    void noMoreDiscountThanTheRoleMayGive() {
        figures = new CheckFigures(
                Optional.empty(), Optional.empty(), Map.of(Role.CLERK, BigDecimal.TEN), CheckFigures.USUAL_SCORE);
        assertThat(offered(at("10.00", "15"))).containsExactly("price-floor PRICE: line 1 at 10.00 less 10 per cent");
        items.put("A", ItemFact.PLAIN.withFloor(new BigDecimal("9.7000")));
        assertThat(offered(at("10.00", "15")))
                .as("the floor leaves less than the role may give")
                .containsExactly("price-floor PRICE: line 1 at 10.00 less 3 per cent");
    }

    /** Price = cost ÷ (1 − margin): 7.00 ÷ 0.7 = 10.00, and a hundredth more where it does not come out even. */
    @Test
    void aThinMarginByThePriceThatLeavesIt() {
        figures = new CheckFigures(
                Optional.empty(), Optional.of(new BigDecimal("30")), Map.of(), CheckFigures.USUAL_SCORE);
        items.put("A", ItemFact.PLAIN.withUnitCost(new BigDecimal("7.00")));
        assertThat(offered(at("9.00", "0"))).containsExactly("margin PRICE: line 1 at 10.00");
        assertThat(offered(at("12.50", "40"))).containsExactly("margin PRICE: line 1 at 12.50 less 20 per cent");
        items.put("A", ItemFact.PLAIN.withUnitCost(new BigDecimal("7.01")));
        assertThat(offered(at("9.00", "0"))).as("10.0143").containsExactly("margin PRICE: line 1 at 10.02");
        figures = new CheckFigures(
                Optional.empty(), Optional.of(new BigDecimal("100")), Map.of(), CheckFigures.USUAL_SCORE);
        assertThat(offered(at("9.00", "0"))).as("no price leaves all of itself").isEmpty();
    }

    @Test
    void withoutALicenceTheLineGoesUnlessItIsAllThereIs() {
        items.put("A", ItemFact.PLAIN.withRegulated("chemicals"));
        assertThat(offered(stock(1, "A", "3", "9.00", "0"), stock(2, "B", "1", "9.00", "0")))
                .containsExactly("licence LINE: line 1 removed: 3 Item A");
        assertThat(offered(stock(1, "A", "3", "9.00", "0"))).isEmpty();
    }

    @Test
    void shortOfStockShipsWhatThereIs() {
        free.put("A", q(4));
        assertThat(offered(stock(1, "A", "10", "9.00", "0"), stock(2, "B", "1", "9.00", "0")))
                .containsExactly(
                        "unreserved SPLIT: ship what is reserved; 6 Item A on a separate order",
                        "unreserved QUANTITY: ship what is reserved; cancel 6 Item A");
        free.put("A", q(0));
        assertThat(offered(stock(1, "A", "10", "9.00", "0")))
                .as("nothing would be left to ship")
                .isEmpty();
    }

    @Test
    void datesMoveToTheFirstThatIsPossible() {
        items.put("A", ItemFact.PLAIN.withLeadDays(5));
        assertThat(offered(stock(1, "A", "1", "9.00", "0"), stock(2, "B", "1", "9.00", "0")))
                .containsExactly("dates DATE: line 1 on 2026-03-07");
    }

    @Test
    void whatIsLeftIsSaid() {
        limit = "50.00";
        items.put("A", ItemFact.PLAIN.withRegulated("chemicals"));
        assertThat(offered(stock(1, "A", "1", "9.00", "0"), stock(2, "B", "10", "9.00", "0")))
                .contains("licence LINE: line 1 removed: 1 Item A (something is left)");
    }

    /** Floor prices and costs are told by the price that a remedy names; a list price tells neither (section 15). */
    @Test
    void pricesThatFollowFromCostsAreKnownAsSuch() {
        for (var kind : Remedy.Kind.values()) {
            for (var check : Check.values()) {
                var remedy =
                        new Remedy(check, kind, "", Optional.empty(), Optional.empty(), Optional.empty(), List.of());
                assertThat(remedy.tellsCosts())
                        .as("%s of %s", kind, check)
                        .isEqualTo(kind == Remedy.Kind.PRICE
                                && List.of(Check.PRICE_FLOOR, Check.MARGIN).contains(check));
            }
        }
    }
}
