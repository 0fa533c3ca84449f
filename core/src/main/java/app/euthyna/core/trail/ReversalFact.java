package app.euthyna.core.trail;

import app.euthyna.core.shared.DocumentRef;
import java.time.LocalDate;

/** An invoice, a dispatch or a refund that was mirrored. */
public record ReversalFact(DocumentRef document, LocalDate on, Stamp stamp, String reason) {}
