package app.euthyna.core.lists;

import java.util.Set;

/** What a field of a list holds, and with that how rows are filtered by it. */
public enum FieldKind {
    /** Words or a number of a document: filtered by how it begins, reads or what it has in it, capitals or not. */
    TEXT(Filter.Operator.STARTS, Filter.Operator.IS, Filter.Operator.HAS),
    DAY(Filter.Operator.IN, Filter.Operator.BETWEEN),
    /** When something was done: filtered by days in the company's calendar. */
    MOMENT(Filter.Operator.IN, Filter.Operator.BETWEEN),
    /** The day at whose end things are told as they stood; nothing is left out by it. */
    AS_OF(Filter.Operator.AT),
    /** Of the company's currency. */
    AMOUNT(Filter.Operator.BETWEEN),
    /** Units, to three decimals. */
    QUANTITY(Filter.Operator.BETWEEN),
    /** A whole number. */
    COUNT(Filter.Operator.BETWEEN),
    /** One of a few words that the application knows: a state, a kind. */
    CHOICE(Filter.Operator.ANY, Filter.Operator.NONE),
    /** {@code YES} or {@code NO}. */
    FLAG(Filter.Operator.ANY),
    /** The code of something that has a name elsewhere: a customer, an item, a store. */
    CODE(Filter.Operator.ANY, Filter.Operator.NONE);

    @SuppressWarnings("ImmutableEnumChecker") // never changed
    private final Set<Filter.Operator> operators;

    FieldKind(Filter.Operator... operators) {
        this.operators = Set.of(operators);
    }

    /** Whether rows are filtered by days. */
    public boolean isDayed() {
        return this == DAY || this == MOMENT;
    }

    /** Whether rows can be filtered so by a field of this kind. */
    public boolean has(Filter.Operator operator) {
        return operators.contains(operator);
    }
}
