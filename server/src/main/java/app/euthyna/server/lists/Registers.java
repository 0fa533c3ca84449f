package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.shared.Role;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList.Join;
import app.euthyna.server.lists.DeclaredList.Sorting;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** What all registers have: documents and their reversals by day, the latest first, with the ledger beside them. */
public final class Registers {

    private static final String DAY = "enteredOn";

    private Registers() {}

    /**
     * A register.
     *
     * @param entity of its rows {@code r}, see {@link RegisterRow}
     * @param joins what else its columns read
     * @param number the column that opens the document
     * @param customer the column of its customer, which rows are not sorted by: a register is read day by day, and no
     *     index has it otherwise
     * @param more columns behind the date and the customer
     */
    public static DeclaredList of(
            Register register,
            Set<Role> readers,
            String name,
            String title,
            String one,
            String many,
            String entity,
            List<Join> joins,
            Column number,
            Column customer,
            Column... more) {
        var columns = Stream.of(
                Stream.of(
                        leading(number.with(Trait.SHOWN)),
                        Column.day(DAY, "Date", "r.enteredOn").with(Trait.SHOWN, Trait.SORTED),
                        leading(customer),
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
                        joins,
                        readers,
                        Sorting.by(DAY),
                        columns.flatMap(column -> column).toList())
                .proving(register, DAY)
                .workedOut();
    }

    /** What a register has of its own stands in an index of what it is made of; what is joined to it does not. */
    private static Column leading(Column column) {
        return column.path().startsWith("r.") ? column.with(Trait.LEADING) : column;
    }

    /** An amount of the register. */
    public static Column amount(String name, String label) {
        return Column.amount(name, label, "r." + name).with(Trait.SHOWN, Trait.SUMMED);
    }
}
