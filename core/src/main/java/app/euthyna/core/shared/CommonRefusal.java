package app.euthyna.core.shared;

import java.util.List;
import java.util.stream.Collectors;

/** Refusals that every capability can give. */
public sealed interface CommonRefusal extends Refusal {

    /** No such thing under that number or code. */
    @Code("not-found")
    record NotFound(String what, String number) implements CommonRefusal {

        @Override
        public Kind kind() {
            return Kind.NOT_FOUND;
        }
    }

    /** The person's role does not carry the authority. */
    @Code("not-authorised")
    record NotAuthorised(String action, Role role, List<Role> allowed) implements CommonRefusal, Refusal.NotAuthorised {

        /** Those who may. */
        String others() {
            return allowed.stream().map(Role::words).collect(Collectors.joining(" or "));
        }
    }

    /** Nobody decides on what they wrote themselves. */
    @Code("four-eyes")
    record FourEyes(String document, String username) implements CommonRefusal, Refusal.NotAuthorised {}

    /** One mandatory entry that is missing or not well formed. */
    record Missing(String field, String expected) {}

    /** Mandatory entries are missing. */
    @Code("incomplete")
    record Incomplete(List<Missing> missing) implements CommonRefusal {
        public Incomplete {
            missing = List.copyOf(missing);
        }

        public static Incomplete of(String field, String expected) {
            return new Incomplete(List.of(new Missing(field, expected)));
        }

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }

        /** Each entry with what is expected. */
        String entries() {
            return missing.stream().map(m -> m.field() + ": " + m.expected()).collect(Collectors.joining("; "));
        }
    }

    /** The documents belong to another customer. */
    @Code("wrong-customer")
    record WrongCustomer(String document, String belongsTo, String expected) implements CommonRefusal {}
}
