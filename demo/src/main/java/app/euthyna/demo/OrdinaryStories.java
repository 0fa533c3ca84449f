package app.euthyna.demo;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.order.OrderDraft;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The orders of every day: entered, shipped, billed and mostly paid, each as far as its age allows. */
class OrdinaryStories extends Story {

    private final List<DemoCatalogue.Stocked> items = DemoCatalogue.items().stream()
            .filter(i -> i.item().regulated().isEmpty() && !i.item().code().equals("MS-01"))
            .toList();
    private final LocalDate start;
    private final int count;

    /** So many orders, spread evenly from a day until today. */
    OrdinaryStories(Desks desks, Agenda agenda, LocalDate start, int count) {
        super(desks, agenda);
        this.start = start;
        this.count = count;
    }

    @Override
    void tell() {
        var days = ChronoUnit.DAYS.between(start, today) + 1;
        for (int at = 0; at < count; at++) {
            var day = start.plusDays(at * days / count);
            on(day, () -> ordinary(day));
        }
    }

    /** An order of the day, which goes as far on its way as its age allows. */
    private void ordinary(LocalDate on) {
        var customer = customers.get(random.nextInt(customers.size()));
        var lines = new ArrayList<OrderDraft.Line>();
        for (int at = 0; at <= random.nextInt(4); at++) {
            var item = items.get(random.nextInt(items.size())).item();
            var dear = item.price().compareTo(BigDecimal.valueOf(100)) > 0;
            lines.add(line(
                    item.code(),
                    String.valueOf(dear ? 1 + random.nextInt(2) : 2 + random.nextInt(12)),
                    null,
                    random.nextInt(6) == 0 ? "5" : null));
        }
        var number = submit(
                on,
                customer.code(),
                "%s-%04d/%02d".formatted(initials(customer.name()), given(), on.getYear() % 100),
                OrderKind.STANDARD,
                on.plusDays(2 + random.nextInt(12)),
                lines.toArray(OrderDraft.Line[]::new));
        if (state(number) == OrderState.CLEARED) {
            goOn(number, on);
        } else if (on.isBefore(today.minusDays(12))) {
            on(on.plusDays(1), () -> {
                if (state(number) == OrderState.HELD) {
                    waive(number, on.plusDays(1), "known and agreed by telephone");
                }
                goOn(number, on.plusDays(1));
            });
        }
    }

    private String initials(String name) {
        var words = name.split(" ", -1);
        return ("" + words[0].charAt(0) + words[words.length - 1].charAt(0)).toUpperCase(Locale.ROOT);
    }
}
