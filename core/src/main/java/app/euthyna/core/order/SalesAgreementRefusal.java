package app.euthyna.core.order;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;

/** Why no order can be made from a quote, a blanket order or a recurring order. */
public sealed interface SalesAgreementRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** It was ordered, lost or ended. */
    record Closed(String number, SalesAgreement.Kind what, SalesAgreement.State state)
            implements SalesAgreementRefusal {
        @Override
        public String code() {
            return "agreement-closed";
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
            return "Create a new one, or an order, from it.";
        }
    }

    /** The day lies outside its time. */
    record NotValid(String number, SalesAgreement.Kind what, LocalDate from, LocalDate until, LocalDate on)
            implements SalesAgreementRefusal {
        @Override
        public String code() {
            return "agreement-not-valid";
        }

        @Override
        public String sentence() {
            return "The %s %s is valid from %s until %s, not on %s.".formatted(what.words(), number, from, until, on);
        }

        @Override
        public String instead() {
            return "Extend its validity, if the customer agrees.";
        }
    }

    /** More is called off than is left of the line. */
    record MoreThanLeft(String number, int line, Quantity asked, Quantity left) implements SalesAgreementRefusal {
        @Override
        public String code() {
            return "more-than-left";
        }

        @Override
        public String sentence() {
            return "Line %d of blanket order %s has %s left; %s are called off.".formatted(line, number, left, asked);
        }

        @Override
        public String instead() {
            return "Call off less, or agree on a larger blanket order.";
        }
    }

    /** What is called off would be worth more than is left of the agreed value. */
    record MoreThanWorth(String number, Money asked, Money left) implements SalesAgreementRefusal {
        @Override
        public String code() {
            return "more-than-left";
        }

        @Override
        public String sentence() {
            return "Blanket order %s has a value of %s left; the call-off totals %s.".formatted(number, left, asked);
        }

        @Override
        public String instead() {
            return "Call off less, or agree on a higher value.";
        }
    }
}
