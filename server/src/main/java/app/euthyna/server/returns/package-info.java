/**
 * Goods that come back and credit notes. Start with {@link app.euthyna.server.returns.ReturnsService}. Uses
 * {@code platform} to {@code billing}.
 */
package app.euthyna.server.returns;
