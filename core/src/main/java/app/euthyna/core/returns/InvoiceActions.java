package app.euthyna.core.returns;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What can be done with an invoice as it stands: the same rules that the deed itself goes by, asked before it. */
public final class InvoiceActions {

    private InvoiceActions() {}

    public enum Action {
        /** Credit some of it without goods. */
        CREDIT,
        /** Credit what is left of it, and bill it anew with what was wrong put right. */
        CREDIT_AND_REBILL,
        /** Record money for it. */
        PAY,
        /** Mark it, or a part of it, as disputed. */
        DISPUTE,
        /** Write off what is open of it. */
        WRITE_OFF
    }

    /**
     * What an invoice is there for, in the order in which it is offered; nothing once it was taken back.
     *
     * @param before credit notes for it
     * @param disputed why it can't be disputed now, if so
     */
    public static List<Offered<Action>> of(
            Invoice invoice, List<CreditNote> before, Money open, Optional<Refusal> disputed) {
        if (invoice.reversed()) {
            return List.of();
        }
        var spent = !invoice.writtenOff().isEmpty()
                ? Optional.<Refusal>of(ReturnRefusal.WrittenOff.of(invoice))
                : Crediting.everything(invoice, before).isEmpty()
                        ? Optional.of(Crediting.nothingLeft(invoice))
                        : Optional.<Refusal>empty();
        var offered = new ArrayList<Offered<Action>>();
        offered.add(new Offered<>(Action.CREDIT, spent));
        offered.add(new Offered<>(Action.CREDIT_AND_REBILL, spent.or(() -> Crediting.notToBeBilledAgain(invoice))));
        if (open.isPositive()) {
            offered.add(Offered.of(Action.PAY));
            offered.add(new Offered<>(Action.DISPUTE, disputed));
            offered.add(Offered.of(Action.WRITE_OFF));
        }
        return List.copyOf(offered);
    }
}
