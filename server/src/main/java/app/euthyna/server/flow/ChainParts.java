package app.euthyna.server.flow;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import java.util.Collection;
import java.util.List;
import java.util.Map;

/**
 * What later capabilities keep of the chains of orders, each in a few questions whatever the number of orders. Orders
 * are named by the ids of their rows.
 */
public interface ChainParts {

    /** Goods that were reserved, and those that were staged or left. */
    interface Moved {
        /** By order and line. */
        Map<Long, Map<Integer, Quantity>> reserved(Collection<Long> orders);

        Map<Long, List<Dispatch>> dispatches(Collection<Long> orders);
    }

    /** Invoices and deposits. */
    interface Billed {
        /** The ids of all invoices that bill one of the orders. */
        List<Long> invoicesOf(Collection<Long> orders);

        /**
         * Invoices, whole, oldest first.
         *
         * @param takenBack what credit notes took back of goods billed ahead and of deferred revenue, by invoice line
         */
        List<Invoice> invoices(Collection<Long> invoices, Map<LineRef, List<Invoice.TakenBack>> takenBack);

        Map<Long, List<Deposit>> deposits(Collection<Long> orders);
    }

    /** Returns and credit notes. */
    interface Returned {
        /** Returns with goods of one of the orders, whole, oldest first. */
        List<Return> returns(Collection<Long> orders);

        /** Credit notes for invoices, oldest first. */
        List<CreditNote> creditNotes(Collection<Long> invoices);

        Map<LineRef, List<Invoice.TakenBack>> takenBack(Collection<Long> invoices);
    }
}
