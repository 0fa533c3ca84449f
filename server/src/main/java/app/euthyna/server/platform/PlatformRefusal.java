package app.euthyna.server.platform;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;

/** Refusals about the command itself. */
public sealed interface PlatformRefusal extends Refusal {

    /** Somebody changed the document since it was read. */
    @Code("stale-version")
    record StaleVersion(String document, long seen, long now) implements PlatformRefusal, Refusal.WrongState {}

    /** What would happen now is not what was shown. */
    @Code("preview-changed")
    record PreviewChanged() implements PlatformRefusal, Refusal.WrongState {}

    /** Others kept the documents busy through several tries. */
    @Code("stale-version")
    record Busy() implements PlatformRefusal, Refusal.WrongState {}

    /** A command without a key can't be sent twice safely. */
    @Code("idempotency-key-missing")
    record KeyMissing() implements PlatformRefusal {

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }
    }

    /** The key was used for something else. */
    @Code("idempotency-key-reused")
    record KeyReused(String key) implements PlatformRefusal {}

    /** A figure that can't be booked. */
    @Code("incomplete")
    record TooLarge() implements PlatformRefusal {

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }
    }

    /** The request can't be read. */
    @Code("malformed")
    record Malformed(String what) implements PlatformRefusal {
        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }
    }
}
