package app.euthyna.core.order;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;

/** Why no order can be made from a quote, a blanket order or a recurring order. */
public sealed interface SalesAgreementRefusal extends Refusal {

    /** It was ordered, lost or ended. */
    @Code("agreement-closed")
    record Closed(String number, SalesAgreement.Kind what, SalesAgreement.State state)
            implements SalesAgreementRefusal, Refusal.WrongState {
        @Override
        public String variant() {
            return state == SalesAgreement.State.ORDERED ? "ordered" : "";
        }
    }

    /** The day lies outside its time. */
    @Code("agreement-not-valid")
    record NotValid(String number, SalesAgreement.Kind what, LocalDate from, LocalDate until, LocalDate on)
            implements SalesAgreementRefusal {}

    /** More is called off than is left of the line. */
    @Code("more-than-left")
    record MoreThanLeft(String number, int line, Quantity asked, Quantity left) implements SalesAgreementRefusal {}

    /** What is called off would be worth more than is left of the agreed value. */
    @Code("more-than-left")
    record MoreThanWorth(String number, Money asked, Money left) implements SalesAgreementRefusal {}
}
