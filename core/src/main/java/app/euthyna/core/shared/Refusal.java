package app.euthyna.core.shared;

/**
 * A business no. Its record components are the figures; its code is written out ({@link Code}) and stable, so that a
 * rename breaks no client (section 13). Its words stand in the resource of the class that declares it: see
 * {@link RefusalWords}. A refused command changes nothing.
 */
public interface Refusal {

    /** What kind of no it is: the server turns it into an HTTP status in one place. */
    enum Kind {
        /** The request is understood, but a rule speaks against it. */
        RULE_NOT_MET,
        /** The document is in a state that does not allow it. */
        WRONG_STATE,
        /** The person may not do it. */
        NOT_AUTHORISED,
        /** There is no such document, customer or item. */
        NOT_FOUND,
        /** Something mandatory is missing or not well formed. */
        INCOMPLETE
    }

    /** A document does not stand so that it could be done. */
    interface WrongState extends Refusal {
        @Override
        default Kind kind() {
            return Kind.WRONG_STATE;
        }
    }

    /** A person may not do it. */
    interface NotAuthorised extends Refusal {
        @Override
        default Kind kind() {
            return Kind.NOT_AUTHORISED;
        }
    }

    default String code() {
        return getClass().getAnnotation(Code.class).value();
    }

    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** Which of several wordings is meant, where there are several; empty for the usual one. */
    default String variant() {
        return "";
    }

    /** A sentence that a clerk understands, with the subject, the limit and the actual figure. */
    default String sentence() {
        return RefusalWords.sentence(this);
    }

    /** What could be done instead; empty when there is nothing to say. */
    default String instead() {
        return RefusalWords.instead(this);
    }
}
