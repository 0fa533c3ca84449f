package app.euthyna.core.shared;

import java.util.List;
import java.util.stream.Collectors;

/** Refusals that every capability can give. */
public sealed interface CommonRefusal extends Refusal {

    /** No such thing under that number or code. */
    record NotFound(String what, String number) implements CommonRefusal {
        @Override
        public String code() {
            return "not-found";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_FOUND;
        }

        @Override
        public String sentence() {
            return "There is no %s %s.".formatted(what, number);
        }
    }

    /** The person's role does not carry the authority. */
    record NotAuthorised(String action, Role role, List<Role> allowed) implements CommonRefusal {
        @Override
        public String code() {
            return "not-authorised";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_AUTHORISED;
        }

        @Override
        public String sentence() {
            return "To %s is for %s; you are signed in as %s."
                    .formatted(
                            action,
                            allowed.stream().map(Role::words).collect(Collectors.joining(" or ")),
                            role.words());
        }

        @Override
        public String instead() {
            return "Ask " + allowed.stream().map(Role::words).collect(Collectors.joining(" or ")) + ".";
        }
    }

    /** Nobody decides on what they wrote themselves. */
    record FourEyes(String document, String username) implements CommonRefusal {
        @Override
        public String code() {
            return "four-eyes";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_AUTHORISED;
        }

        @Override
        public String sentence() {
            return "You (%s) entered or last changed %s; another person must decide on it."
                    .formatted(username, document);
        }

        @Override
        public String instead() {
            return "Ask another controller or the finance lead.";
        }
    }

    /** One mandatory entry that is missing or not well formed. */
    record Missing(String field, String expected) {}

    /** Mandatory entries are missing. */
    record Incomplete(List<Missing> missing) implements CommonRefusal {
        public Incomplete {
            missing = List.copyOf(missing);
        }

        public static Incomplete of(String field, String expected) {
            return new Incomplete(List.of(new Missing(field, expected)));
        }

        @Override
        public String code() {
            return "incomplete";
        }

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }

        @Override
        public String sentence() {
            return missing.stream().map(m -> m.field() + ": " + m.expected()).collect(Collectors.joining("; ")) + ".";
        }
    }

    /** The documents belong to another customer. */
    record WrongCustomer(String document, String belongsTo, String expected) implements CommonRefusal {
        @Override
        public String code() {
            return "wrong-customer";
        }

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }

        @Override
        public String sentence() {
            return "%s belongs to customer %s, not to %s.".formatted(document, belongsTo, expected);
        }
    }
}
