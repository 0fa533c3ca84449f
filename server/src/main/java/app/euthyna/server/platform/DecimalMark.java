package app.euthyna.server.platform;

/** What stands before decimals where people type figures. */
public enum DecimalMark {
    POINT,
    COMMA;

    /** Answered by whoever keeps the company's rules. */
    public interface Rule {
        DecimalMark decimalMark();
    }
}
