package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.util.List;

/** What speaks against an order because of its PO number. */
public sealed interface PoEvidence extends Evidence {

    /** The PO number was met before. */
    record PoMet(String po, List<Match> matches) implements PoEvidence {

        /** One earlier use. */
        public record Match(PoNumber.Likeness kind, PoUse use) {}

        public PoMet {
            matches = List.copyOf(matches);
        }

        @Override
        public Check check() {
            return Check.DUPLICATE_PO;
        }

        @Override
        public String brief() {
            var closest = matches.get(0);
            return switch (closest.kind()) {
                case SAME -> "PO used before";
                case ALIKE -> "PO alike " + closest.use().po();
                case NEAR -> "PO near " + closest.use().po();
            };
        }

        @Override
        public String sentence() {
            var first = matches.get(0);
            var reads = switch (first.kind()) {
                case SAME -> "is also on %s";
                case ALIKE -> "matches %2$s on %1$s";
                case NEAR -> "is a near match of %2$s on %1$s";
            };
            var more = matches.size() == 1 ? "" : " and %d more".formatted(matches.size() - 1);
            return "the PO number "
                    + reads.formatted(first.use().document(), first.use().po()) + more;
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoMet before)
                    || matches.stream()
                            .anyMatch(match -> before.matches.stream()
                                    .noneMatch(m ->
                                            m.use().order().equals(match.use().order())
                                                    && m.kind().compareTo(match.kind()) <= 0));
        }
    }

    /** The orders under one PO together pass the value the customer set for it. */
    record PoCeilingPassed(String po, Money together, Money ceiling, List<PoUse> uses) implements PoEvidence {
        public PoCeilingPassed {
            uses = List.copyOf(uses);
        }

        @Override
        public Check check() {
            return Check.DUPLICATE_PO;
        }

        @Override
        public String brief() {
            return "PO ceiling exceeded";
        }

        @Override
        public String sentence() {
            return "orders under this PO total %s; its ceiling is %s".formatted(together, ceiling);
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoCeilingPassed before) || together.compareTo(before.together) > 0;
        }
    }

    /** The customer requires a PO number and the order has none. */
    record PoMissing(String customer) implements PoEvidence {
        @Override
        public Check check() {
            return Check.MISSING_PO;
        }

        @Override
        public String brief() {
            return "no PO";
        }

        @Override
        public String sentence() {
            return "customer " + customer + " requires a PO number and the order has none";
        }

        @Override
        public boolean isWorseThan(Evidence waived) {
            return !(waived instanceof PoMissing);
        }
    }
}
