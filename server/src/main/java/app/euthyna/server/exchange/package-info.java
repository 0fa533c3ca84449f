/**
 * Files in: orders as CSV. Start with {@link app.euthyna.server.exchange.OrderImport}. Uses {@code platform},
 * {@code masterdata} and {@code order}.
 */
package app.euthyna.server.exchange;
