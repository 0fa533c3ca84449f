/**
 * Reads chains: one order with all that grew from it, in a few queries whatever its length. Start with
 * {@link app.euthyna.server.flow.ChainReader}. Uses {@code platform}, {@code masterdata} and {@code order}.
 */
package app.euthyna.server.flow;
