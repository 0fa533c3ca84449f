package app.euthyna.core.trail;

import app.euthyna.core.shared.DocumentRef;
import java.time.LocalDate;

/**
 * What was decided or said of a document: an order held, waived, declined; an invoice disputed.
 *
 * @param link it ties the order to another: started from it, replaced or rebilled by it
 */
public record Remark(DocumentRef document, LocalDate on, Stamp stamp, String sentence, boolean link) {}
