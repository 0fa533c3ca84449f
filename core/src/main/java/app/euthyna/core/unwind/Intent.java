package app.euthyna.core.unwind;

import app.euthyna.core.shared.Quantity;
import java.util.List;

/** What should be undone (section 9). Each intent knows how to plan itself, so that a new one can't be forgotten. */
public sealed interface Intent {

    String code();

    /** What the button says: "cancel the rest of order SO-2184". */
    String words(String order);

    /** Open quantity of some or all lines is given up; where no lines are named, all of it. */
    record CancelRest(List<Part> lines) implements Intent {
        public CancelRest {
            lines = List.copyOf(lines);
        }

        @Override
        public String code() {
            return "cancel-rest";
        }

        @Override
        public String words(String order) {
            return "cancel the rest of order " + order;
        }
    }

    /** An order of which nothing has left is cancelled whole. */
    record CancelOrder() implements Intent {
        @Override
        public String code() {
            return "cancel-order";
        }

        @Override
        public String words(String order) {
            return "cancel order " + order;
        }
    }

    /** A quantity of an order line. */
    record Part(int line, Quantity quantity) {
    }
}
