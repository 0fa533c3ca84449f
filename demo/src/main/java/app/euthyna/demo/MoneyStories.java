package app.euthyna.demo;

import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Optional;

/** Deposits, goods billed ahead, a payment that bounced, credit refunded. */
class MoneyStories extends Story {

    MoneyStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        money();
    }

    /**
     * Deposits in every state, goods billed ahead, a payment that bounced, credit refunded, lamps that a count did not
     * find.
     */
    private void money() {
        var day = today.minusDays(24);
        on(day, () -> {
            var order = submit(
                    day, customers.get(25).code(), "MOOR-7", OrderKind.STANDARD, day.plusDays(40), line("MS-01", "1"));
            on(day.plusDays(1), () -> decided(order, day.plusDays(1)));
            on(day.plusDays(2), () -> deposits.deposit(receivables(day.plusDays(2), ""), order, euros("1200.00")));
        });
        on(today.minusDays(16), () -> {
            var order = submit(
                    today.minusDays(16),
                    customers.get(26).code(),
                    "LAMP-31",
                    OrderKind.STANDARD,
                    today.minusDays(2),
                    line("SF-05", "12"));
            deposits.deposit(receivables(today.minusDays(16), ""), order, euros("150.00"));
            on(today.minusDays(9), () -> {
                ship(order, today.minusDays(9), List.of(new Pick(1, Quantity.of(4))));
                billing.bill(
                        receivables(today.minusDays(9), ""), List.of(order), List.of(), "The rest follows.", false);
            });
        });
        on(today.minusDays(11), () -> {
            var order = submit(
                    today.minusDays(11),
                    customers.get(27).code(),
                    "SEASON-2",
                    OrderKind.STANDARD,
                    today.plusDays(3),
                    line("RP-110", "80"),
                    line("FT-210", "20"));
            decided(order, today.minusDays(11));
            on(
                    today.minusDays(8),
                    () -> billing.bill(
                            receivables(today.minusDays(8), ""),
                            List.of(order),
                            List.of(),
                            "Billed ahead as agreed for the season.",
                            true));
            on(today.minusDays(4), () -> ship(order, today.minusDays(4), List.of(new Pick(1, Quantity.of(50)))));
        });
        moneyBack();
    }

    /** A payment that bounced, and one that was refunded. */
    private void moneyBack() {
        on(today.minusDays(7), () -> {
            var bounced = payments.receive(
                    receivables(today.minusDays(7), ""),
                    customers.get(28).code(),
                    euros("310.00"),
                    List.of(),
                    "autumn bill");
            on(
                    today.minusDays(5),
                    () -> payments.reverse(
                            receivables(today.minusDays(5), "returned by the bank, account closed"), bounced, 0));
        });
        on(today.minusDays(6), () -> {
            var twice = payments.receive(
                    receivables(today.minusDays(6), ""),
                    customers.get(29).code(),
                    euros("88.40"),
                    List.of(),
                    "paid twice by mistake");
            on(
                    today.minusDays(2),
                    () -> deposits.refund(
                            context("controller", Role.CONTROLLER, today.minusDays(2), "paid twice by mistake"),
                            twice,
                            0,
                            Optional.empty()));
        });
        on(
                today.minusDays(3),
                () -> stock.count(
                        warehouse(today.minusDays(3), "a box of lamps was broken"),
                        null,
                        "SF-06",
                        stock.onHand("SF-06").minus(Quantity.of(6)),
                        Optional.empty()));
    }
}
