package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.List;

/** An earlier order of the customer whose PO number may be the same, with the invoices that bill it. */
public record PoUse(String order, String po, LocalDate on, Money net, List<String> invoices) {
    public PoUse {
        invoices = List.copyOf(invoices);
    }
}
