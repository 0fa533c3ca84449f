package app.euthyna.core.returns;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;

/**
 * What the company grants on goods that come back.
 *
 * @param days for so long after they left goods may come back; always where it is empty
 * @param reasons from which one is chosen; the last one is for whatever has no reason of its own
 */
public record ReturnPolicy(Optional<Integer> days, List<Reason> reasons) {

    /** Who lets goods come back although it is too late. */
    public static final List<Role> MAKES_EXCEPTIONS = List.of(Role.CONTROLLER, Role.LEAD);

    /** Of a company without rules of its own: nothing beyond the goods is granted, and nothing before they are here. */
    public static final ReturnPolicy STANDARD = new ReturnPolicy(
            Optional.empty(),
            List.of(
                    Reason.of("damaged", "Damaged in transit"),
                    Reason.of("faulty", "Defective"),
                    Reason.of("wrong-item", "Wrong item"),
                    Reason.of("too-many", "Surplus delivery"),
                    Reason.of("unwanted", "Not wanted"),
                    Reason.of("other", "Other reason")));

    /**
     * Why goods come back, and what follows from it.
     *
     * @param code never changes
     * @param noFee nothing is retained for restocking
     * @param freight what the freight of the goods was billed at is credited with them
     * @param ahead the goods may be credited before they are here
     */
    public record Reason(String code, String words, boolean noFee, boolean freight, boolean ahead) {

        static Reason of(String code, String words) {
            return new Reason(code, words, false, false, false);
        }

        /** What is retained for restocking, per cent, where the company usually keeps {@code usual}. */
        public BigDecimal feePercent(BigDecimal usual) {
            return noFee ? BigDecimal.ZERO : usual;
        }
    }

    public ReturnPolicy {
        reasons = List.copyOf(reasons);
    }

    /** What follows from a reason; nothing is granted for one that the company does not have any more. */
    public Reason reason(String code) {
        return reasons.stream()
                .filter(reason -> reason.code().equals(code))
                .findFirst()
                .orElse(Reason.of(code, code.replace('-', ' ')));
    }

    public boolean knows(String code) {
        return reasons.stream().anyMatch(reason -> reason.code().equals(code));
    }

    /** So many days too late are goods that left on a day; zero where they are not. */
    public long daysLate(LocalDate left, LocalDate on) {
        return days.map(most -> Math.max(0, ChronoUnit.DAYS.between(left, on) - most))
                .orElse(0L);
    }

    /**
     * An exemption from the policy, by a person who may grant it.
     *
     * @param reason empty where none is granted
     */
    public record Exemption(Person by, String reason) {

        /** Why goods that are too late may not come back all the same; empty where they may. */
        Optional<Refusal> refusal(Refusal late) {
            if (reason.isBlank()) {
                return Optional.of(late);
            }
            return by.carries(MAKES_EXCEPTIONS)
                    ? Optional.empty()
                    : Optional.of(new CommonRefusal.NotAuthorised("allow a late return", by.role(), MAKES_EXCEPTIONS));
        }
    }
}
