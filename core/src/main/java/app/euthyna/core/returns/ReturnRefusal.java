package app.euthyna.core.returns;

import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;

/** Why goods can't come back, or can't be credited. */
public sealed interface ReturnRefusal extends Refusal {

    /** The document does not stand so that it could be done. */
    sealed interface WrongState extends ReturnRefusal, Refusal.WrongState {}

    /** More than is out and not allowed back yet. */
    @Code("more-than-returnable")
    record MoreThanReturnable(String subject, Quantity asked, Quantity returnable) implements ReturnRefusal {}

    /** Nothing of it has left the building. */
    @Code("more-than-returnable")
    record NotDeparted(String dispatchLine) implements ReturnRefusal {}

    /** Goods may come back for so many days only. */
    @Code("too-late")
    record TooLate(LineRef dispatchLine, LocalDate left, LocalDate on, int days) implements ReturnRefusal {
        long daysAgo() {
            return ChronoUnit.DAYS.between(left, on);
        }
    }

    /** The customer has the money for goods that have not come. */
    @Code("already-credited")
    record CreditedAhead(String number, Quantity quantity) implements WrongState {}

    /** Nothing is credited for this reason before the goods are here. */
    @Code("not-here-yet")
    record NotAhead(String number, String reason) implements ReturnRefusal {}

    /** All that was allowed back has come, or it was withdrawn. */
    @Code("more-than-returnable")
    record NothingExpected(String number) implements WrongState {}

    /** The last reminder is too fresh. */
    @Code("nothing-due")
    record RemindedAlready(String number, LocalDate last) implements ReturnRefusal {
        int daysBetween() {
            return Returning.DAYS_BETWEEN_REMINDERS;
        }
    }

    /** More than is in inspection. */
    @Code("more-than-returnable")
    record MoreThanInInspection(String number, int line, Quantity asked, Quantity there) implements ReturnRefusal {}

    /** The customer has the money for it already, so they don't get the goods again. */
    @Code("already-credited")
    record CreditedAlready(String number, int line, Quantity asked, Quantity uncredited) implements WrongState {}

    /** Nothing that came back was billed and is not credited. */
    @Code("more-than-creditable")
    record NothingToCredit(String number) implements WrongState {}

    /** More than is left to credit. */
    @Code("more-than-creditable")
    record MoreThanCreditable(String invoice, int line, String asked, String left) implements ReturnRefusal {
        @Override
        public String variant() {
            return line == 0 ? "invoice" : "";
        }
    }

    /** No invoice bills it, or all of that is credited. */
    @Code("more-than-creditable")
    record NothingBilled(String document) implements WrongState {}

    /** The goods have not left: nothing was delivered that could be rebilled. */
    @Code("billed-ahead")
    record BilledAhead(String invoice) implements WrongState {}

    /** The invoice was taken back. */
    @Code("already-reversed")
    record InvoiceReversed(String invoice) implements WrongState {}

    /** A part of the invoice was written off; its VAT with it, where the company claims that. */
    @Code("already-written-off")
    record WrittenOff(String invoice, List<String> writeOffs, Money amount) implements WrongState {
        static WrittenOff of(Invoice invoice) {
            return new WrittenOff(
                    invoice.number(),
                    invoice.writtenOff().stream()
                            .map(one -> one.document().number())
                            .toList(),
                    invoice.writtenOff().stream()
                            .map(Reduction::amount)
                            .reduce(Money::plus)
                            .orElseThrow());
        }
    }

    /** What came is another item than what left. */
    @Code("wrong-item")
    record WrongItem(String number, String item, LineRef dispatchLine, String left) implements ReturnRefusal {}

    /** So much did not come, or was decided on already. */
    @Code("more-than-returnable")
    record MoreThanCame(String number, Quantity asked, Quantity left) implements ReturnRefusal {}
}
