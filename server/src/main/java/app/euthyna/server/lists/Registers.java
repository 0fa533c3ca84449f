package app.euthyna.server.billing;

import app.euthyna.core.ledger.Register;
import app.euthyna.server.lists.Column;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.Reading;
import java.util.List;
import java.util.stream.Stream;

/** What all registers have: documents and their reversals by day, the latest first, with the ledger beside them. */
public final class Registers {

    private static final String DAY = "enteredOn";

    private Registers() {}

    /**
     * A register.
     *
     * @param entity of its rows, which have a number, a customer, the day on which they were entered and a side; of
     *     those that are about an invoice, {@code i} is the invoice
     * @param number the column that opens the document
     * @param more columns behind the date and the customer
     */
    public static DeclaredList of(
            Register register,
            String name,
            String title,
            String one,
            String many,
            String entity,
            Column number,
            Column... more) {
        var columns = Stream.of(
                Stream.of(
                        number.with(Trait.SHOWN),
                        Column.day(DAY, "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                        Column.code("customer", "Customer", "r.customerId", "CustomerEntity", "c", "CUSTOMER")
                                .with(Trait.SHOWN),
                        Column.choice("side", "Issued or reversed", "r.side", Register.Side.class)
                                .with(Trait.SHOWN)),
                Stream.of(more));
        return new DeclaredList(
                        name,
                        title,
                        one,
                        many,
                        entity + " r",
                        "r.id",
                        List.of(new Join("i", "left join InvoiceEntity i on i.id = r.invoiceId")),
                        Reading.SELLING,
                        Sorting.by(DAY),
                        columns.flatMap(column -> column).toList())
                .proving(register, DAY);
    }

    /** An amount of the register. */
    public static Column amount(String name, String label) {
        return Column.amount(name, label, "r." + name).with(Trait.SHOWN, Trait.SUMMED);
    }
}
