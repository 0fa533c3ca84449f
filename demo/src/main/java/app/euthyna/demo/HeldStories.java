package app.euthyna.demo;

import app.euthyna.core.check.Quota;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;

/** Orders that something holds: PO numbers twice, licences, limits, prices, quotas, approvals. */
class HeldStories extends Story {

    HeldStories(Desks desks, Agenda agenda) {
        super(desks, agenda);
    }

    @Override
    void tell() {
        var yesterday = today.minusDays(1);
        twoSpellings();
        licences();
        overTheLimit(customers.get(0).code(), "AN-3501", today.minusDays(5), today);
        overTheLimit(customers.get(7).code(), "AN-3502", today.minusDays(2), today.plusDays(2));
        overTheLimit(customers.get(20).code(), "AN-3503", yesterday, today.plusDays(6));
        prices();
        rationed();
    }

    private void twoSpellings() {
        on(
                today.minusDays(30),
                () -> goOn(
                        submit(
                                today.minusDays(30),
                                customers.get(5).code(),
                                "PO 04417-B",
                                OrderKind.STANDARD,
                                today.minusDays(20),
                                line("RP-112", "60"),
                                line("FT-112", "24")),
                        today.minusDays(30)));
        order(2, 5, "4417/b", 1, line("RP-112", "60"), line("FT-112", "24"));
        order(3, 14, "WS-2051", 6, line("RP-208", "30"));
        order(1, 14, "WS-2O51", 7, line("RP-208", "45"));
        order(1, 11, "SN-118", 3, line("SF-05", "12"));
        order(0, 11, "SN-118", 3, line("SF-05", "12"));
    }

    /** Lapsed, not given, not found in the register, and a register that does not answer. */
    private void licences() {
        on(today.minusDays(20), () -> {
            register.enter("pyro", "PY-2206", today.minusDays(12), true);
            register.enter("biocide", "BI-713", null, false);
        });
        order(4, 6, "HP-771", 0, line("FL-01", "12"), line("RP-208", "40"));
        order(6, 2, "flares for the spring course", 5, line("FL-02", "20"));
        order(3, 10, "TB-50", 8, line("AF-01", "6"));
        order(1, 13, "CQ-2031", 4, line("AF-02", "10"));
    }

    /** Enough of a dear item to pass the customer's limit by itself. */
    private void overTheLimit(String customer, String item, LocalDate day, LocalDate wanted) {
        on(day, () -> {
            var limit = masterData.customer(customer).rules().creditLimit().orElse(Money.of("20000.00", "EUR"));
            var gross = masterData.item(item).price().multiply(new BigDecimal("1.21"));
            var pieces = limit.amount().divide(gross, 0, RoundingMode.CEILING);
            submit(
                    day,
                    customer,
                    "season " + day.getYear() + " " + customer.substring(1),
                    OrderKind.STANDARD,
                    wanted,
                    line(item, pieces.toPlainString()),
                    line("SV-01", "6"),
                    line("CH-10", "30"));
        });
    }

    private void prices() {
        order(1, 9, "KD-9", 2, line("FT-316", "40", "0", null), line("RP-416", "25"));
        on(today.minusDays(9), () -> {
            var sample = submit(
                    today.minusDays(9),
                    customers.get(14).code(),
                    "",
                    OrderKind.SAMPLE,
                    today.minusDays(5),
                    line("CC-01", "20", "0", null));
            on(today.minusDays(7), () -> ship(sample, today.minusDays(7), List.of()));
        });
        on(
                today,
                () -> submit(
                        today, customers.get(15).code(), "", OrderKind.SAMPLE, today.plusDays(4), line("CC-01", "10")));
    }

    /** Hand-laid hemp is rationed by region; a yard wants more than is left of it. */
    private void rationed() {
        on(
                today.minusDays(140),
                () -> quotas.set(
                        Quota.Scope.REGION,
                        DemoMasterData.REGIONS[0],
                        "RP-420",
                        today.minusDays(140),
                        today.plusDays(200),
                        Quantity.of(400)));
        order(25, 12, "BW-HEMP-1", -20, line("RP-420", "360"));
        order(1, 15, "PL-HEMP-7", 6, line("RP-420", "120"));
    }
}
