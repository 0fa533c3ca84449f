package app.euthyna.core.shared;

/**
 * A business no. Its record components are the figures; the code is written out and stable, so that a rename breaks no
 * client (section 13). A refused command changes nothing.
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

    String code();

    Kind kind();

    /** A sentence that a clerk understands, with the subject, the limit and the actual figure. */
    String sentence();

    /** What could be done instead; empty when there is nothing to say. */
    default String instead() {
        return "";
    }
}
