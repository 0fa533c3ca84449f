package app.euthyna.demo;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.unwind.AskedUnwind;
import java.math.BigDecimal;
import java.util.List;

/** What was taken back: bills, dispatches, money. */
class UndoneStories extends Story {

    UndoneStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        undone();
    }

    /**
     * Billed to the wrong yard, sent off on paper only, lamps that arrived broken, what was not wanted, and money for
     * an order that is dead.
     */
    private void undone() {
        gone(
                14,
                30,
                "GT-12",
                line("FT-210", "24"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(10),
                        () -> undo(
                                AskedUnwind.of(DocumentKind.INVOICE, invoice, "take-back-invoice"),
                                today.minusDays(10),
                                "billed-in-error",
                                "billed to the wrong yard")));
        on(today.minusDays(7), () -> {
            var order = submit(
                    today.minusDays(7),
                    customers.get(31).code(),
                    "HW-9",
                    OrderKind.STANDARD,
                    today.plusDays(4),
                    line("RP-208", "30"));
            decided(order, today.minusDays(7));
            var dispatch = stage(order, today.minusDays(6), List.of());
            goods.depart(warehouse(today.minusDays(6), ""), dispatch, 0);
            on(
                    today.minusDays(5),
                    () -> undo(
                            AskedUnwind.of(DocumentKind.DISPATCH, dispatch, "take-back-dispatch"),
                            today.minusDays(5),
                            "never-left",
                            "the van was full"));
        });
        brokenLamps();
        notWanted();
        deadOrder();
    }

    /** Lamps that arrived broken, and their money back. */
    private void brokenLamps() {
        gone(15, 32, "LAMPS-3", line("SF-05", "10"), (order, dispatch, invoice) -> {
            on(today.minusDays(8), () -> {
                var open = chains.chain(order).invoices().get(0).totals().gross();
                payments.receive(
                        receivables(today.minusDays(8), ""),
                        customers.get(32).code(),
                        open,
                        List.of(new Settlement(invoice, open)),
                        invoice);
            });
            on(
                    today.minusDays(4),
                    () -> undo(
                            new AskedUnwind(
                                    DocumentKind.ORDER,
                                    order,
                                    "take-goods-back",
                                    List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(3))),
                                    "refund",
                                    false,
                                    false,
                                    null),
                            today.minusDays(4),
                            "damaged",
                            "three arrived broken"));
        });
    }

    /** The wrong ones, and too many. */
    private void notWanted() {
        gone(18, 33, "SV-77", line("SF-06", "6"), (order, dispatch, invoice) -> {
            on(
                    today.minusDays(9),
                    () -> undo(
                            new AskedUnwind(
                                    DocumentKind.INVOICE,
                                    invoice,
                                    "take-goods-back",
                                    List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(2))),
                                    null,
                                    false,
                                    false,
                                    null),
                            today.minusDays(9),
                            "wrong-item",
                            "ordered the red ones"));
            on(
                    today.minusDays(1),
                    () -> returns.receive(warehouse(today.minusDays(1), ""), returnOf(order), null, List.of()));
        });
        gone(26, 34, "CH-5", line("FT-112", "40"), (order, dispatch, invoice) -> {
            on(
                    today.minusDays(19),
                    () -> undo(
                            new AskedUnwind(
                                    DocumentKind.DISPATCH,
                                    dispatch,
                                    "take-goods-back",
                                    List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(8))),
                                    null,
                                    false,
                                    false,
                                    BigDecimal.TEN),
                            today.minusDays(19),
                            "unwanted",
                            "ordered too many"));
            on(
                    today.minusDays(13),
                    () -> returns.receive(warehouse(today.minusDays(13), ""), returnOf(order), null, List.of()));
            on(
                    today.minusDays(12),
                    () -> returns.inspect(
                            warehouse(today.minusDays(12), ""),
                            returnOf(order),
                            null,
                            List.of(
                                    new InspectionLine(1, Return.Outcome.Kind.RESTOCK, Quantity.of(7), "", ""),
                                    new InspectionLine(1, Return.Outcome.Kind.SCRAP, Quantity.of(1), "", "bent"))));
        });
    }

    /** Money for an order that is dead. */
    private void deadOrder() {
        on(today.minusDays(60), () -> {
            var dead = submit(
                    today.minusDays(60),
                    customers.get(35).code(),
                    "REFIT-1",
                    OrderKind.STANDARD,
                    today.minusDays(30),
                    line("MS-01", "1"));
            decided(dead, today.minusDays(60));
            on(
                    today.minusDays(58),
                    () -> deposits.deposit(receivables(today.minusDays(58), ""), dead, euros("400.00")));
        });
    }
}
