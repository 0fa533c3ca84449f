/**
 * The trail: a chain told as a statement, rows in the order of time with running balances. Start with {@link Trail}.
 * Uses {@code shared} to {@code unwind}.
 */
package app.euthyna.core.trail;
