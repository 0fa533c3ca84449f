package app.euthyna.server.masterdata;

import java.math.BigDecimal;
import java.util.List;

/**
 * What the company has published for unwinding.
 *
 * @param reasons from which one is chosen, beside a text of one's own
 * @param refundLimit of rules that were kept before limits went by role ({@link Limits}); since then null
 * @param restockingPercent retained of what goods are worth that come back
 * @param refundsThroughService whether refunds are paid out by the payment service, or manually
 */
public record UnwindRules(
        List<Reason> reasons, BigDecimal refundLimit, BigDecimal restockingPercent, Boolean refundsThroughService) {

    /** A reason by its code, which never changes, and its words. */
    public record Reason(String code, String words) {}

    /** Of a company without rules of its own. */
    public static final UnwindRules STANDARD = new UnwindRules(
            List.of(
                    new Reason("customer-asked", "Customer request"),
                    new Reason("entered-in-error", "Entered in error"),
                    new Reason("billed-in-error", "Billed in error"),
                    new Reason("not-available", "Not available any more"),
                    new Reason("damaged", "Damaged"),
                    new Reason("wrong-item", "Wrong item or size"),
                    new Reason("unwanted", "Not wanted"),
                    new Reason("never-left", "Goods never departed"),
                    new Reason("leftover", "Remainder no longer wanted"),
                    new Reason("other", "Other")),
            BigDecimal.ZERO,
            false);

    /** Rules of today, which say nothing of one limit for all. */
    public UnwindRules(List<Reason> reasons, BigDecimal restockingPercent, Boolean refundsThroughService) {
        this(reasons, null, restockingPercent, refundsThroughService);
    }

    public UnwindRules {
        reasons = List.copyOf(reasons);
        refundsThroughService = Boolean.TRUE.equals(refundsThroughService);
    }
}
