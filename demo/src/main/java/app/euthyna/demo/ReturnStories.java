package app.euthyna.demo;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.returns.CreditWish;
import app.euthyna.server.returns.UnexpectedService;
import app.euthyna.server.unwind.AskedUnwind;
import java.util.List;
import java.util.Optional;

/** Goods that came back, asked for or not. */
class ReturnStories extends Story {

    ReturnStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        cameBack();
    }

    /**
     * What came back over the last weeks, what did not come although it was credited, and what came that nobody had
     * allowed.
     */
    private void cameBack() {
        sentBack(48, 3, "OL-31", line("RP-112", "20"), "unwanted", 6, true);
        sentBack(41, 6, "PO 5521", line("SF-05", "4"), "faulty", 1, true);
        sentBack(33, 9, "K-118", line("FT-210", "16"), "wrong-item", 16, true);
        sentBack(27, 12, "TB-9", line("SF-06", "5"), "damaged", 2, true);
        sentBack(22, 3, "OL-37", line("RP-208", "25"), "too-many", 5, false);
        gone(
                31,
                22,
                "BW-4",
                line("SF-05", "3"),
                (order, dispatch, invoice) -> on(today.minusDays(20), () -> {
                    var goods = returns.authorise(
                            context(
                                    "clerk",
                                    Role.CLERK,
                                    today.minusDays(20),
                                    "both dead out of the box; wants the credit at once"),
                            List.of(dispatched(dispatch, 2)),
                            List.of(),
                            "faulty",
                            "");
                    credits.creditReturn(receivables(today.minusDays(19), ""), goods, true);
                }));
        gone(24, 24, "ST-88", line("FT-112", "12"), (order, dispatch, invoice) -> {
            on(
                    today.minusDays(20),
                    () -> payments.receive(
                            receivables(today.minusDays(20), ""),
                            customers.get(24).code(),
                            gross(order),
                            List.of(new Settlement(invoice, gross(order))),
                            invoice));
            on(today.minusDays(7), () -> {
                var typed = credits.creditInvoice(
                        receivables(today.minusDays(7), "a tenth less for thin galvanising"),
                        invoice,
                        List.of(Crediting.Share.of(1, euros("65.00"))));
                undo(
                        AskedUnwind.of(DocumentKind.CREDIT_NOTE, typed, "take-back-credit"),
                        today.minusDays(7),
                        "entered-in-error",
                        "65.00 typed for 6.50");
            });
            on(
                    today.minusDays(6),
                    () -> credits.wish(
                            receivables(today.minusDays(6), ""),
                            credits.creditInvoice(
                                    receivables(
                                            today.minusDays(6), "galvanising thin, they keep them for a tenth less"),
                                    invoice,
                                    List.of(Crediting.Share.of(1, euros("6.50")))),
                            CreditWish.REFUND));
        });
        unexpected();
    }

    /** What nobody had allowed. */
    private void unexpected() {
        gone(
                17,
                25,
                "NQ-2",
                line("SF-06", "2"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(2),
                        () -> unexpected.takeIn(
                                warehouse(today.minusDays(2), ""),
                                new UnexpectedService.Came(
                                        Optional.of(customers.get(25).code()),
                                        "",
                                        "",
                                        "SF-06",
                                        Quantity.of(1),
                                        "",
                                        "no slip; glass cracked, serial 0417"))));
        on(
                today.minusDays(1),
                () -> unexpected.takeIn(
                        warehouse(today.minusDays(1), ""),
                        new UnexpectedService.Came(
                                Optional.empty(),
                                "yard at the north pier, no name",
                                "",
                                "RP-112",
                                Quantity.of(3),
                                "",
                                "one of the three is cut")));
    }

    private static Returning.OfDispatch dispatched(String dispatch, int quantity) {
        return new Returning.OfDispatch(new LineRef(dispatch, 1), Quantity.of(quantity));
    }

    /** Sold, sent back a week later, restocked and, unless someone forgot, credited. */
    private void sentBack(
            int daysAgo, int customer, String po, OrderDraft.Line line, String reason, int quantity, boolean credited) {
        gone(daysAgo, customer, po, line, (order, dispatch, invoice) -> {
            var back = today.minusDays(daysAgo - 12);
            on(
                    today.minusDays(daysAgo - 9),
                    () -> returns.authorise(
                            context("clerk", Role.CLERK, today.minusDays(daysAgo - 9), ""),
                            List.of(dispatched(dispatch, quantity)),
                            List.of(),
                            reason,
                            ""));
            on(back, () -> returns.receive(warehouse(back, ""), returnOf(order), null, List.of()));
            on(
                    back.plusDays(1),
                    () -> returns.inspect(
                            warehouse(back.plusDays(1), ""),
                            returnOf(order),
                            null,
                            List.of(new InspectionLine(
                                    1, Return.Outcome.Kind.RESTOCK, Quantity.of(quantity), "", ""))));
            if (credited) {
                on(
                        back.plusDays(2),
                        () -> credits.creditReturn(receivables(back.plusDays(2), ""), returnOf(order), false));
            }
        });
    }
}
