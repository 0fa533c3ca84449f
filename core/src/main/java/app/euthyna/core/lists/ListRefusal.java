package app.euthyna.core.lists;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;

/** Why a list can't be asked so. */
public sealed interface ListRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.INCOMPLETE;
    }

    /** The list has no such field, or not for whoever asks: the same answer, so that nothing is learned from it. */
    @Code("unknown-field")
    record UnknownField(String list, String field) implements ListRefusal {}

    /**
     * A filter can't be read without guessing.
     *
     * @param expected how it is written for such a field
     */
    @Code("unreadable-filter")
    record UnreadableFilter(String filter, String expected) implements ListRefusal {

        static UnreadableFilter of(Field field, String written) {
            var expected = switch (field.kind()) {
                case TEXT -> "starts:some text";
                case DAY, MOMENT -> "in:last-3-days or between:2026-10-01..2026-10-31";
                case AS_OF -> "at:2026-09-30 or at:month-2026-09 or at:last-month";
                case AMOUNT, QUANTITY, COUNT -> "between:100..250, the smaller first";
                case CHOICE -> "any:%1$s or none:%1$s".formatted(String.join(",", field.choices()));
                case FLAG -> "any:YES or any:NO";
                case CODE -> "any:one,another or none:one,another";
            };
            return new UnreadableFilter(written, field.name() + ":" + expected);
        }
    }

    /** Rows are not put together so. */
    @Code("not-charted")
    record NotCharted(String list, String chart) implements ListRefusal {}

    /**
     * There are more rows than are set on paper.
     *
     * @param most so many are
     */
    @Code("too-long-for-paper")
    record TooLongForPaper(long rows, int most) implements ListRefusal {}

    /** The list is not sorted by that field. */
    @Code("not-sortable")
    record NotSortable(String list, String field) implements ListRefusal {}
}
