package app.euthyna.core.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What should be undone (section 9). Each knows the document it begins at. */
public sealed interface Intent {

    <T> T accept(Visitor<T> visitor);

    String code();

    DocumentRef subject();

    /** What the button says: "cancel the rest of order SO-2184". */
    String words();

    /** Open quantity of some or all lines is given up; where no lines are named, all of it. */
    record CancelRest(String order, List<Part> lines) implements Intent {
        public CancelRest {
            lines = List.copyOf(lines);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.cancelRest(this);
        }

        @Override
        public String code() {
            return "cancel-rest";
        }

        @Override
        public DocumentRef subject() {
            return DocumentRef.order(order);
        }

        @Override
        public String words() {
            return "cancel the rest of order " + order;
        }
    }

    /** An order of which nothing has left is cancelled whole. */
    record CancelOrder(String order) implements Intent {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.cancelOrder(this);
        }

        @Override
        public String code() {
            return "cancel-order";
        }

        @Override
        public DocumentRef subject() {
            return DocumentRef.order(order);
        }

        @Override
        public String words() {
            return "cancel order " + order;
        }
    }

    /** An invoice was posted by mistake. */
    record TakeBackInvoice(String invoice, boolean withDispatch) implements Intent {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.takeBackInvoice(this);
        }

        @Override
        public String code() {
            return "take-back-invoice";
        }

        @Override
        public DocumentRef subject() {
            return new DocumentRef(DocumentKind.INVOICE, invoice);
        }

        @Override
        public String words() {
            return "take back invoice " + invoice + (withDispatch ? " and its dispatch" : "");
        }
    }

    /** A dispatch was sent off in the books and never left the building. */
    record TakeBackDispatch(String dispatch) implements Intent {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.takeBackDispatch(this);
        }

        @Override
        public String code() {
            return "take-back-dispatch";
        }

        @Override
        public DocumentRef subject() {
            return new DocumentRef(DocumentKind.DISPATCH, dispatch);
        }

        @Override
        public String words() {
            return "take back dispatch " + dispatch;
        }
    }

    /** Goods of an order, a dispatch or an invoice come back; where no lines are named, all that may. */
    record TakeGoodsBack(DocumentRef subject, List<Part> lines) implements Intent {
        public TakeGoodsBack {
            lines = List.copyOf(lines);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.takeGoodsBack(this);
        }

        @Override
        public String code() {
            return "take-goods-back";
        }

        @Override
        public String words() {
            return "take back the goods of " + subject;
        }
    }

    /** Money that is not used goes back: of an order, or of one deposit, payment or credit note. */
    record GiveMoneyBack(DocumentRef subject) implements Intent {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.giveMoneyBack(this);
        }

        @Override
        public String code() {
            return "give-money-back";
        }

        @Override
        public String words() {
            return "refund the money of " + subject;
        }
    }

    /**
     * Something else was posted by mistake or came to nothing: a credit note, a payment, a deposit, a refund, the
     * receipt of a return, a write-off.
     *
     * @param withdrawn the goods of the return are not expected any more either
     */
    record TakeBack(DocumentRef subject, boolean withdrawn) implements Intent {

        /** What can be taken back like this, with the code of its intent. */
        private static final Map<DocumentKind, String> CODES = new EnumMap<>(Map.of(
                DocumentKind.CREDIT_NOTE, "take-back-credit",
                DocumentKind.PAYMENT, "take-back-payment",
                DocumentKind.DEPOSIT, "take-back-deposit",
                DocumentKind.REFUND, "take-back-refund",
                DocumentKind.RETURN, "take-back-receipt",
                DocumentKind.WRITE_OFF, "take-back-write-off"));

        /** The kind of document that an intent of this code takes back; empty where it is another intent's. */
        public static Optional<DocumentKind> kindOf(String code) {
            return CODES.entrySet().stream()
                    .filter(one -> one.getValue().equals(code))
                    .map(Map.Entry::getKey)
                    .findFirst();
        }

        public TakeBack {
            if (!CODES.containsKey(subject.kind())) {
                throw new IllegalArgumentException(subject + " is not taken back like this");
            }
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.takeBack(this);
        }

        @Override
        public String code() {
            return CODES.get(subject.kind());
        }

        @Override
        public String words() {
            return "take back " + (subject.kind() == DocumentKind.RETURN ? "the receipt of " : "") + subject;
        }
    }

    /** A quantity of a line of the document that one starts from. */
    record Part(int line, Quantity quantity) {}

    /** One method an intent. */
    interface Visitor<T> {
        T cancelRest(CancelRest intent);

        T cancelOrder(CancelOrder intent);

        T takeBackInvoice(TakeBackInvoice intent);

        T takeBackDispatch(TakeBackDispatch intent);

        T takeGoodsBack(TakeGoodsBack intent);

        T giveMoneyBack(GiveMoneyBack intent);

        T takeBack(TakeBack intent);
    }
}
