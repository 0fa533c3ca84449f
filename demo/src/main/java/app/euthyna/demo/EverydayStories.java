package app.euthyna.demo;

import app.euthyna.core.order.OrderKind;
import app.euthyna.server.order.OrderDraft;
import java.util.List;

/** A service, money on account, a draft. */
class EverydayStories extends Story {

    EverydayStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        var yesterday = today.minusDays(1);
        on(
                today.minusDays(6),
                () -> submit(
                        today.minusDays(6),
                        customers.get(22).code(),
                        "ST-rig",
                        OrderKind.STANDARD,
                        today.minusDays(3),
                        line("SV-01", "14.5"),
                        line("SV-03", "1")));
        on(
                today.minusDays(3),
                () -> payments.receive(
                        receivables(today.minusDays(3), ""),
                        customers.get(23).code(),
                        euros("750.00"),
                        List.of(),
                        "on account, spring fitting-out"));
        on(
                yesterday,
                () -> orders.keep(
                        clerk(yesterday),
                        new OrderDraft(
                                customers.get(4).code(),
                                "",
                                OrderKind.STANDARD,
                                null,
                                yesterday,
                                today.plusDays(9),
                                "waits for the yard to name the colour",
                                null,
                                List.of(line("PT-02", "6")))));
    }
}
