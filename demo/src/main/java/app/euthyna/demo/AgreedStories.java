package app.euthyna.demo;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.PriceList;
import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.SalesAgreements;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What was agreed beforehand: quotes, blanket and recurring orders, and approvals. */
class AgreedStories extends Story {

    AgreedStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        agreedBeforehand();
        approvalStories();
    }

    private SalesAgreements.Written written(
            int customer,
            String po,
            LocalDate from,
            LocalDate until,
            String ceiling,
            Recurrence recurrence,
            List<SalesAgreement.Call> schedule,
            OrderDraft.Line... lines) {
        return new SalesAgreements.Written(
                new OrderDraft(customers.get(customer).code(), po, null, null, null, null, "", null, List.of(lines)),
                from,
                until,
                Optional.ofNullable(ceiling).map(c -> Money.of(c, "EUR")),
                Optional.ofNullable(recurrence),
                schedule);
    }

    /** Quotes, a harbour trust's chain for the year, and a school's rope of every month. */
    private void agreedBeforehand() {
        var spring = today.minusDays(60);
        on(spring, () -> {
            prices.set(
                    "RP-208",
                    List.of(
                            new PriceList.Break("", Quantity.of(100), new BigDecimal("2.10")),
                            new PriceList.Break(customers.get(14).code(), Quantity.of(20), new BigDecimal("2.20"))));
            var chain = agreements.write(
                    clerk(spring),
                    SalesAgreement.Kind.BLANKET_ORDER,
                    written(
                            1,
                            "GS-CHAIN-YEAR",
                            spring,
                            spring.plusDays(364),
                            "9000.00",
                            null,
                            List.of(
                                    new SalesAgreement.Call(spring.plusDays(30), 1, Quantity.of(150)),
                                    new SalesAgreement.Call(today.minusDays(1), 1, Quantity.of(150)),
                                    new SalesAgreement.Call(today.plusDays(29), 1, Quantity.of(150))),
                            line("CH-10", "800")));
            on(
                    spring.plusDays(30),
                    () -> goOn(
                            agreements
                                    .make(clerk(spring.plusDays(30)), chain, 0, Map.of(), null, true)
                                    .number(),
                            spring.plusDays(30)));
            agreements.write(
                    clerk(spring),
                    SalesAgreement.Kind.RECURRING_ORDER,
                    written(
                            2,
                            "term rope",
                            today.minusMonths(1),
                            today.plusMonths(10),
                            null,
                            new Recurrence(1, Recurrence.Unit.MONTH),
                            List.of(),
                            line("RP-112", "40")));
        });
        quotes();
    }

    /** Quotes: one open, one that ended, one that was lost. */
    private void quotes() {
        on(
                today.minusDays(12),
                () -> agreements.write(
                        clerk(today.minusDays(12)),
                        SalesAgreement.Kind.QUOTE,
                        written(
                                8,
                                "",
                                today.minusDays(12),
                                today.plusDays(18),
                                null,
                                null,
                                List.of(),
                                line("AN-2002", "12", "180", null),
                                line("CH-10", "240"))));
        on(today.minusDays(50), () -> {
            agreements.write(
                    clerk(today.minusDays(50)),
                    SalesAgreement.Kind.QUOTE,
                    written(
                            9,
                            "",
                            today.minusDays(50),
                            today.minusDays(20),
                            null,
                            null,
                            List.of(),
                            line("SF-05", "30")));
            var lost = agreements.write(
                    clerk(today.minusDays(50)),
                    SalesAgreement.Kind.QUOTE,
                    written(
                            21,
                            "",
                            today.minusDays(50),
                            today.plusDays(10),
                            null,
                            null,
                            List.of(),
                            line("PT-02", "24")));
            on(
                    today.minusDays(31),
                    () -> agreements.close(
                            context("clerk", Role.CLERK, today.minusDays(31), "bought from another company"), lost, 0));
        });
    }

    /** Customers without a limit: one order waits for a controller, one is past the controller, one was sent back. */
    private void approvalStories() {
        order(2, 26, "HT-CHAIN-27", 12, line("CH-10", "1300"));
        on(today.minusDays(3), () -> {
            var large = submit(
                    today.minusDays(3),
                    customers.get(8).code(),
                    "BI-FLEET-27",
                    OrderKind.STANDARD,
                    today.plusDays(15),
                    line("AN-3501", "90"));
            on(today.minusDays(2), () -> {
                if (state(large) == OrderState.AWAITING_APPROVAL) {
                    approvals.approve(
                            context(
                                    "controller",
                                    Role.CONTROLLER,
                                    today.minusDays(2),
                                    "three boats, agreed with sales"),
                            large,
                            version(large));
                }
            });
        });
        on(today.minusDays(2), () -> {
            var back = submit(
                    today.minusDays(2),
                    customers.get(17).code(),
                    "SP-YARD-3",
                    OrderKind.STANDARD,
                    today.plusDays(9),
                    line("AN-3501", "40"));
            on(
                    today.minusDays(1),
                    () -> approvals.sendBack(
                            context(
                                    "controller2",
                                    Role.CONTROLLER,
                                    today.minusDays(1),
                                    "ask for a deposit of a third first"),
                            back,
                            version(back)));
        });
    }
}
