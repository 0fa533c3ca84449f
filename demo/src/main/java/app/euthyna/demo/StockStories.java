package app.euthyna.demo;

import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.order.OrderDraft;
import java.util.List;

/** Goods that are short, rests that nobody wants, orders given up; and what lies about on a day. */
class StockStories extends Story {

    StockStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        shortOfStock();
        nobodyWantsTheRest();
        cancelledAndDeclined();
    }

    private void shortOfStock() {
        order(3, 1, "GS-MOOR-26", 20, line("MS-01", "3"));
        order(1, 8, "BI-88", 10, line("MS-01", "4"));
    }

    private void nobodyWantsTheRest() {
        partShipped(70, 16, "RH-300", 120, null, line("CH-08", "200"), line("FT-210", "60"));
        partShipped(80, 17, "SP-51", 180, "the yard has changed to another line", line("RP-310", "300"));
    }

    /** Some of the first line leaves and is billed; the rest waits, or is given up for a reason. */
    private void partShipped(
            int daysAgo, int customer, String po, int leaves, String givenUp, OrderDraft.Line... lines) {
        var day = today.minusDays(daysAgo);
        on(day, () -> {
            var number = submit(day, customers.get(customer).code(), po, OrderKind.STANDARD, day.plusDays(12), lines);
            on(day.plusDays(4), () -> ship(number, day.plusDays(4), List.of(new Pick(1, Quantity.of(leaves)))));
            on(
                    day.plusDays(6),
                    () -> billing.bill(receivables(day.plusDays(6), ""), List.of(number), List.of(), "", false));
            if (givenUp != null) {
                on(day.plusDays(30), () -> undo(number, day.plusDays(30), "cancel-rest", "customer-asked", givenUp));
            }
        });
    }

    private void cancelledAndDeclined() {
        on(today.minusDays(10), () -> {
            var cancelled = submit(
                    today.minusDays(10),
                    customers.get(18).code(),
                    "MS-17",
                    OrderKind.STANDARD,
                    today.minusDays(2),
                    line("SF-01", "8"));
            on(
                    today.minusDays(8),
                    () -> undo(cancelled, today.minusDays(8), "cancel-order", "customer-asked", "ordered elsewhere"));
        });
        on(today.minusDays(8), () -> {
            var declined = submit(
                    today.minusDays(8),
                    customers.get(19).code(),
                    "LH-2",
                    OrderKind.STANDARD,
                    today,
                    line("SF-02", "4", "0", null));
            on(
                    today.minusDays(7),
                    () -> checks.decline(
                            context(
                                    "controller",
                                    Role.CONTROLLER,
                                    today.minusDays(7),
                                    "nothing is given away without a sample order"),
                            declined,
                            version(declined)));
        });
        on(today.minusDays(4), () -> {
            var staged = submit(
                    today.minusDays(4),
                    customers.get(21).code(),
                    "BM-70",
                    OrderKind.STANDARD,
                    today,
                    line("AN-2002", "3"));
            on(today.minusDays(1), () -> {
                if (state(staged) == OrderState.CLEARED) {
                    stage(staged, today.minusDays(1), List.of());
                }
            });
        });
    }
}
