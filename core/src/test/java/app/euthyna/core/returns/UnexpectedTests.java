package app.euthyna.core.returns;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.codes;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Sale;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Three that nobody asked for lie in receiving; ten of the same item had left. */
class UnexpectedTests {

    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    private final Sale sale = new Sale(stock(1, "A", "10", "9.99", "21"), stock(2, "B", "4", "1.00", "21"));
    private final Unexpected three = new Unexpected("U-1", Optional.of("C"), "A", q(3));

    UnexpectedTests() {
        sale.leave("D-1", new java.util.TreeMap<>(Map.of(1, q(10), 2, q(4))), Map.of(1, eur("40.00"), 2, eur("2.00")));
    }

    private static Unexpected.Decided decided(Person by, long quantity, String reason) {
        return new Unexpected.Decided(by, q(quantity), reason);
    }

    private Decision<List<app.euthyna.core.flow.Effect>> admit(
            Unexpected goods, Unexpected.Decided decided, String customer, long daysLater, Returning.OfDispatch of) {
        return goods.admit(
                decided,
                new Returning.Asked("RT-1", customer, TODAY.plusDays(daysLater), "faulty", List.of(of), List.of()),
                List.of(sale.chain()),
                Sale.POLICY);
    }

    @Test
    void comeBackOnAReturnThatIsReceivedAtOnce() {
        var effects = admit(three, decided(CONTROLLER, 3, "theirs"), "C", 1, ofDispatch("D-1", 1, q(3)))
                .get();
        effects.forEach(sale::happen);
        var goods = sale.chain().returnOf("RT-1").orElseThrow();
        assertThat(goods.line(1).received()).isEqualTo(q(3));
        assertThat(goods.inInspection()).isTrue();
        assertThat(sale.ledger().get(AccountRole.GOODS_IN_INSPECTION))
                .as("three tenths of what they cost")
                .isEqualTo(eur("12.00"));
    }

    @Test
    void onlyFromADispatchOfTheSameItemAndTheSameCustomer() {
        assertThat(codes(admit(three, decided(CONTROLLER, 3, "theirs"), "C", 1, ofDispatch("D-1", 2, q(3)))))
                .isEqualTo("wrong-item");
        assertThat(codes(admit(
                        new Unexpected("U-1", Optional.of("D"), "A", q(3)),
                        decided(CONTROLLER, 3, "theirs"),
                        "C",
                        1,
                        ofDispatch("D-1", 1, q(3)))))
                .isEqualTo("wrong-customer");
        assertThat(admit(
                                new Unexpected("U-1", Optional.empty(), "A", q(3)),
                                decided(CONTROLLER, 3, "theirs"),
                                "C",
                                1,
                                ofDispatch("D-1", 1, q(3)))
                        .isRefused())
                .as("nobody knew who sent them")
                .isFalse();
    }

    @Test
    void asTheCompanyGrantsReturns() {
        var late = ofDispatch("D-1", 1, q(3));
        assertThat(admit(three, decided(CONTROLLER, 3, "theirs"), "C", 31, late).isRefused())
                .as("who decides makes the exception with the reason")
                .isFalse();
        assertThat(codes(admit(three, decided(CONTROLLER, 3, "theirs"), "C", 1, ofDispatch("D-1", 1, q(11)))))
                .as("no more than left")
                .isEqualTo("more-than-returnable");
    }

    @Test
    void theirDecisionIsForWhoMayAndSaysWhy() {
        assertThat(codes(three.turnAway(decided(new Person("warehouse", Role.WAREHOUSE), 1, "no return"))))
                .isEqualTo("not-authorised");
        assertThat(codes(three.turnAway(decided(CONTROLLER, 1, " ")))).isEqualTo("incomplete");
        assertThat(codes(three.turnAway(decided(CONTROLLER, 0, "no return")))).isEqualTo("incomplete");
        assertThat(codes(three.turnAway(decided(CONTROLLER, 4, "no return")))).isNotEmpty();
        assertThat(three.turnAway(decided(CONTROLLER, 3, "no return")).get()).isEqualTo(q(3));
        assertThat(codes(admit(three, decided(CONTROLLER, 4, "theirs"), "C", 1, ofDispatch("D-1", 1, q(4)))))
                .as("more than came")
                .isEqualTo(codes(three.turnAway(decided(CONTROLLER, 4, "no return"))));
        assertThat(codes(admit(
                        three, decided(new Person("clerk", Role.CLERK), 3, ""), "C", 1, ofDispatch("D-1", 2, q(3)))))
                .as("all that speaks against it at once")
                .isEqualTo("not-authorised,incomplete,wrong-item");
    }

    @Test
    void areTakenInWithAQuantityAndSomeoneWhoSentThem() {
        assertThat(Unexpected.takingIn(q(1), Optional.of("C"), "")).isEmpty();
        assertThat(Unexpected.takingIn(q(1), Optional.empty(), "a label")).isEmpty();
        assertThat(Unexpected.takingIn(q(1), Optional.empty(), " "))
                .singleElement()
                .satisfies(refusal -> assertThat(refusal.sentence()).contains("the sender on the label"));
        assertThat(Unexpected.takingIn(Quantity.ZERO, Optional.empty(), ""))
                .as("one refusal for all that is missing")
                .hasSize(1)
                .allSatisfy(refusal -> assertThat(refusal.sentence()).contains("a quantity above zero"));
    }
}
