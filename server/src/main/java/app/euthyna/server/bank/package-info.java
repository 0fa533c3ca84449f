/**
 * Bank statements read in and set against invoices. Start with {@link app.euthyna.server.bank.BankStatements}. Uses
 * {@code billing} and what comes before it.
 */
package app.euthyna.server.bank;
