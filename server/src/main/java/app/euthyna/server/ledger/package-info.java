/**
 * Posts what effects ask for, and shows the journal and balances. Start with
 * {@link app.euthyna.server.ledger.LedgerSink}. Uses {@code platform} to {@code billing}.
 */
package app.euthyna.server.ledger;
