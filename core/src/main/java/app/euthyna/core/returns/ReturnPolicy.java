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
 * What the house grants on goods that come back.
 *
 * @param days for so long after they left goods may come back; always where it is empty
 * @param reasons from which one is chosen; the last one is for whatever has no reason of its own
 */
public record ReturnPolicy(Optional<Integer> days, List<Reason> reasons) {

    /** Who lets goods come back although it is too late. */
    public static final List<Role> MAKES_EXCEPTIONS = List.of(Role.CONTROLLER, Role.LEAD);

    /** Of a house that has laid down nothing: nothing beyond the goods is granted, and nothing before they are here. */
    public static final ReturnPolicy STANDARD = new ReturnPolicy(
            Optional.empty(),
            List.of(
                    Reason.of("damaged", "Damaged on the way"),
                    Reason.of("faulty", "Does not work"),
                    Reason.of("wrong-item", "Not what was ordered"),
                    Reason.of("too-many", "More than was ordered"),
                    Reason.of("unwanted", "Not wanted"),
                    Reason.of("other", "Another reason")));

    /**
     * Why goods come back, and what follows from it.
     *
     * @param code never changes
     * @param noFee nothing is kept back for restocking
     * @param freight what the freight of the goods was billed at is credited with them
     * @param ahead the goods may be credited before they are here
     */
    public record Reason(String code, String words, boolean noFee, boolean freight, boolean ahead) {

        static Reason of(String code, String words) {
            return new Reason(code, words, false, false, false);
        }

        /** What is kept back for restocking, per cent, where the house usually keeps {@code usual}. */
        public BigDecimal feePercent(BigDecimal usual) {
            return noFee ? BigDecimal.ZERO : usual;
        }
    }

    public ReturnPolicy {
        reasons = List.copyOf(reasons);
    }

    /** What follows from a reason; nothing is granted for one that the house does not have any more. */
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
                    : Optional.of(new CommonRefusal.NotAuthorised(
                            "let goods come back although it is too late", by.role(), MAKES_EXCEPTIONS));
        }
    }
}
