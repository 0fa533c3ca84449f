package app.euthyna.core.shared;

/** What a person may do in the company. Each command names the roles that may give it. */
public enum Role {
    CLERK,
    CONTROLLER,
    LEAD,
    WAREHOUSE,
    RECEIVABLES,
    AUDITOR,
    ADMIN;

    /** Words for sentences: a controller, the finance lead. */
    public String words() {
        return switch (this) {
            case CLERK -> "a sales clerk";
            case CONTROLLER -> "a controller";
            case LEAD -> "the finance lead";
            case WAREHOUSE -> "the warehouse";
            case RECEIVABLES -> "receivables";
            case AUDITOR -> "an auditor";
            case ADMIN -> "an administrator";
        };
    }
}
