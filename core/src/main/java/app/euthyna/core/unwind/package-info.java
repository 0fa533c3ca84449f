/**
 * What unwinding something means: an intent over a chain becomes an ordered plan. Start with {@link Planner}. Uses
 * {@code shared} to {@code ledger}.
 */
package app.euthyna.core.unwind;
