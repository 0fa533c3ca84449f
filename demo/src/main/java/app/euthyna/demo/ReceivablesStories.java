package app.euthyna.demo;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import app.euthyna.server.unwind.AskedUnwind;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** Cents that are written off, customers who do not pay, and one who paid after all. */
class ReceivablesStories extends Story {

    ReceivablesStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        gone(
                21,
                35,
                "CENTS-1",
                line("FT-210", "12"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(8),
                        () -> shortBy(order, invoice, today.minusDays(8), "0.02", "bank charge of the payer")));
        gone(
                19,
                36,
                "CENTS-2",
                line("RP-112", "25"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(6),
                        () -> shortBy(order, invoice, today.minusDays(6), "0.40", "rounded by the payer")));
        gone(
                34,
                37,
                "YARD-88",
                line("SF-06", "9"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(12),
                        () -> badDebt(invoice, today.minusDays(12), "the yard is insolvent, no quota")));
        gone(33, 38, "YARD-91", line("RP-110", "60"), (order, dispatch, invoice) -> {
            on(today.minusDays(14), () -> badDebt(invoice, today.minusDays(14), "moved away, no address"));
            on(today.minusDays(5), () -> paidAfterAll(invoice, today.minusDays(5)));
        });
        // a customer with whom a discount for paying early is agreed
        gone(
                15,
                20,
                "EARLY-1",
                line("SF-05", "8"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(7),
                        () -> pay(
                                Chain.invoiceOf(List.of(chains.chain(order)), invoice),
                                today.minusDays(7),
                                billed(invoice))));
        disagreed();
    }

    /** Invoices that customers do not agree with, whole and in part. */
    private void disagreed() {
        gone(
                50,
                39,
                "MAST-4",
                line("FT-112", "30"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(16),
                        () -> disputed(
                                invoice,
                                today.minusDays(16),
                                Optional.empty(),
                                today.minusDays(1),
                                "two cartons were wet")));
        gone(
                48,
                40,
                "BUOY-7",
                line("RP-208", "20"),
                (order, dispatch, invoice) -> on(
                        today.minusDays(9),
                        () -> disputed(
                                invoice,
                                today.minusDays(9),
                                Optional.of(euros("25.00")),
                                today.plusDays(6),
                                "the price was agreed lower")));
    }

    /** Paid but for some cents, which are written off the day after. */
    private void shortBy(String order, String invoice, LocalDate on, String cents, String reason) {
        var billed = billed(invoice);
        var paid = billed.minus(euros(cents));
        payments.receive(
                receivables(on, ""),
                chains.chain(order).order().customer(),
                paid,
                List.of(new Settlement(invoice, paid)),
                invoice);
        var next = on.plusDays(1);
        on(
                next,
                () -> writeOffs.write(
                        receivables(next, reason),
                        invoice,
                        writeOffs.versionOf(invoice),
                        Reduction.Kind.SMALL_DIFFERENCE,
                        euros(cents)));
    }

    private String badDebt(String invoice, LocalDate on, String reason) {
        return writeOffs.write(
                context("lead", Role.LEAD, on, reason),
                invoice,
                writeOffs.versionOf(invoice),
                Reduction.Kind.BAD_DEBT,
                billed(invoice));
    }

    private void paidAfterAll(String invoice, LocalDate on) {
        var written = chains.chains(writeOffs.ordersOf(invoice)).values();
        var found = Chain.invoiceOf(written, invoice);
        undo(
                AskedUnwind.of(
                        DocumentKind.WRITE_OFF,
                        found.writtenOff().get(0).document().number(),
                        "take-back-write-off"),
                on,
                "other",
                "paid after all");
        payments.receive(
                receivables(on, ""),
                found.customer(),
                found.totals().gross(),
                List.of(new Settlement(invoice, found.totals().gross())),
                invoice);
    }

    private void disputed(String invoice, LocalDate on, Optional<Money> amount, LocalDate lookOn, String reason) {
        disputes.open(receivables(on, reason), invoice, writeOffs.versionOf(invoice), amount, "", lookOn);
    }

    private Money billed(String invoice) {
        return Chain.invoiceOf(chains.chains(writeOffs.ordersOf(invoice)).values(), invoice)
                .totals()
                .gross();
    }
}
