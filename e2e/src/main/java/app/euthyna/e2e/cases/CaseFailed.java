package app.euthyna.e2e.cases;

/** A case is not met, or says something that the runner does not understand. */
final class CaseFailed extends RuntimeException {

    private static final long serialVersionUID = 1L;

    CaseFailed(String message) {
        super(message);
    }

    CaseFailed(String message, Throwable cause) {
        super(message, cause);
    }
}
