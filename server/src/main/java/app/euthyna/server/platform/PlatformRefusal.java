package app.euthyna.server.platform;

import app.euthyna.core.shared.Refusal;

/** Refusals about the command itself. */
public sealed interface PlatformRefusal extends Refusal {

    /** Somebody changed the document since it was read. */
    record StaleVersion(String document, long seen, long now) implements PlatformRefusal {
        @Override
        public String code() {
            return "stale-version";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "%s has changed (you saw version %d, it is now version %d).".formatted(document, seen, now);
        }

        @Override
        public String instead() {
            return "Reload it and try again.";
        }
    }

    /** What would happen now is not what was shown. */
    record PreviewChanged() implements PlatformRefusal {
        @Override
        public String code() {
            return "preview-changed";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Something changed after the preview; nothing was done.";
        }

        @Override
        public String instead() {
            return "Check the new preview and decide again.";
        }
    }

    /** Others kept the documents busy through several tries. */
    record Busy() implements PlatformRefusal {
        @Override
        public String code() {
            return "stale-version";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Other users are changing the same documents; nothing was changed.";
        }

        @Override
        public String instead() {
            return "Try again in a moment.";
        }
    }

    /** A command without a key can't be sent twice safely. */
    record KeyMissing() implements PlatformRefusal {
        @Override
        public String code() {
            return "idempotency-key-missing";
        }

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }

        @Override
        public String sentence() {
            return "The header Idempotency-Key is missing; every command needs one of 1 to 120 characters.";
        }
    }

    /** The key was used for something else. */
    record KeyReused(String key) implements PlatformRefusal {
        @Override
        public String code() {
            return "idempotency-key-reused";
        }

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }

        @Override
        public String sentence() {
            return "The Idempotency-Key %s was used for another command.".formatted(key);
        }
    }

    /** A figure that can't be booked. */
    record TooLarge() implements PlatformRefusal {
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
            return "A figure or its total is too large to post.";
        }
    }

    /** The request can't be read. */
    record Malformed(String what) implements PlatformRefusal {
        @Override
        public String code() {
            return "malformed";
        }

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }

        @Override
        public String sentence() {
            return what;
        }
    }
}
