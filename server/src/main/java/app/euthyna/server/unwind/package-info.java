/**
 * Plans what should be undone, shows it, and carries it out. Start with
 * {@link app.euthyna.server.unwind.UnwindService}. Uses {@code platform} to {@code ledger}.
 */
package app.euthyna.server.unwind;
