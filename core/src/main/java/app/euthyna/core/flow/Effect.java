package app.euthyna.core.flow;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.util.List;
import java.util.Set;

/**
 * Everything that can happen to orders, goods and money: the closed list that decisions answer with. Who, when and why belong to
 * the command and are the same for all its effects.
 */
public sealed interface Effect {

    <T> T accept(Visitor<T> visitor);

    /** The orders whose chain it changes. */
    default Set<String> orders() {
        return accept(new ConcernedOrders());
    }

    /** A draft was handed in; the checks are to look at it. */
    record OrderSubmitted(Order order) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.orderSubmitted(this);
        }
    }

    /** The content of an order that was handed in has changed. */
    record OrderChanged(Order before, Order after, List<String> differences) implements Effect {
        public OrderChanged {
            differences = List.copyOf(differences);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.orderChanged(this);
        }
    }

    /** An order was held, cleared, declined, or came to its end. */
    record StateChanged(String order, OrderState from, OrderState to) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stateChanged(this);
        }
    }

    /** Free stock is held for an order line. */
    record Reserved(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.reserved(this);
        }
    }

    /** Stock held for an order line is free again. */
    record Released(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.released(this);
        }
    }

    /** Reserved goods were picked. */
    record Staged(Dispatch dispatch) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.staged(this);
        }
    }

    /** Picked goods went back to the shelf, where they are reserved for their own order again. */
    record Voided(Dispatch dispatch) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.voided(this);
        }
    }

    /**
     * Staged goods left the building.
     *
     * @param atNoCharge the order's lines that are never billed
     */
    record Departed(Dispatch dispatch, List<Integer> atNoCharge) implements Effect {
        public Departed {
            atNoCharge = List.copyOf(atNoCharge);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.departed(this);
        }
    }

    /** An invoice was posted. */
    record Invoiced(Invoice invoice) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.invoiced(this);
        }
    }

    /** Money came in; what it does not settle at once stays on account as customer credit. */
    record PaymentReceived(String payment, String customer, Money amount, List<Settlement> settlements) implements Effect {
        public PaymentReceived {
            settlements = List.copyOf(settlements);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.paymentReceived(this);
        }
    }

    /** Customer credit left from an earlier payment settles invoices. */
    record CreditAllocated(String payment, String customer, List<Settlement> settlements) implements Effect {
        public CreditAllocated {
            settlements = List.copyOf(settlements);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.creditAllocated(this);
        }
    }

    /** An amount set against an invoice. */
    record Settlement(String invoice, Money amount) {
    }

    /** Open quantity was given up. */
    record QuantityCancelled(Cancellation cancellation) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.quantityCancelled(this);
        }
    }

    /** Goods came in at a value. */
    record StockReceived(String receipt, String site, String item, Quantity quantity, Money value) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stockReceived(this);
        }
    }

    /** What the house agreed with a customer is different now: a limit, a block, when invoices count as overdue. */
    record CustomerChanged(String customer) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.customerChanged(this);
        }
    }

    /** One method a case: a new case does not compile until everybody concerned has an answer. */
    interface Visitor<T> {
        T orderSubmitted(OrderSubmitted effect);

        T orderChanged(OrderChanged effect);

        T stateChanged(StateChanged effect);

        T reserved(Reserved effect);

        T released(Released effect);

        T staged(Staged effect);

        T voided(Voided effect);

        T departed(Departed effect);

        T invoiced(Invoiced effect);

        T paymentReceived(PaymentReceived effect);

        T creditAllocated(CreditAllocated effect);

        T quantityCancelled(QuantityCancelled effect);

        T stockReceived(StockReceived effect);

        T customerChanged(CustomerChanged effect);
    }
}
