package app.euthyna.core.order;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;

/** Why no order can be made from a quote, a blanket order or a recurring order. */
public sealed interface OutlineRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** It was ordered, lost or ended. */
    record Closed(String number, Outline.Kind what, Outline.State state) implements OutlineRefusal {
        @Override
        public String code() {
            return "outline-closed";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "The %s %s is %s."
                    .formatted(
                            what.words(),
                            number,
                            switch (state) {
                                case OPEN -> "open";
                                case ORDERED -> "ordered already";
                                case LOST -> "lost";
                                case ENDED -> "ended";
                            });
        }

        @Override
        public String instead() {
            return "Start a new one, or an order, from it.";
        }
    }

    /** The day lies outside its time. */
    record NotValid(String number, Outline.Kind what, LocalDate from, LocalDate until, LocalDate on)
            implements OutlineRefusal {
        @Override
        public String code() {
            return "outline-not-valid";
        }

        @Override
        public String sentence() {
            return "The %s %s is valid from %s until %s, not on %s.".formatted(what.words(), number, from, until, on);
        }

        @Override
        public String instead() {
            return "Change the time that it is valid, if the customer agrees.";
        }
    }

    /** More is called off than is left of the line. */
    record MoreThanLeft(String number, int line, Quantity asked, Quantity left) implements OutlineRefusal {
        @Override
        public String code() {
            return "more-than-left";
        }

        @Override
        public String sentence() {
            return "Of line %d of blanket order %s %s are left; %s are called off."
                    .formatted(line, number, left, asked);
        }

        @Override
        public String instead() {
            return "Call off less, or agree on a larger blanket order.";
        }
    }

    /** What is called off would be worth more than is left of the agreed value. */
    record MoreThanWorth(String number, Money asked, Money left) implements OutlineRefusal {
        @Override
        public String code() {
            return "more-than-left";
        }

        @Override
        public String sentence() {
            return "Of the value agreed in blanket order %s %s is left; what is called off comes to %s."
                    .formatted(number, left, asked);
        }

        @Override
        public String instead() {
            return "Call off less, or agree on a higher value.";
        }
    }
}
