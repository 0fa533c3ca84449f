package app.euthyna.core.check;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;

/** What one document contributes to a figure. */
public record DocumentAmount(DocumentRef document, Money amount) {}
