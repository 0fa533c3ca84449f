package app.euthyna.core.trail;

import app.euthyna.core.shared.DocumentRef;
import java.time.LocalDate;

/** An invoice or a dispatch that was mirrored. */
public record ReversalFact(DocumentRef document, LocalDate on, Stamp stamp, String reason) {
}
