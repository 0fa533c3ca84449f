/**
 * Customers, items, stores and the simulated licence register: what documents refer to. Start with
 * {@link app.euthyna.server.masterdata.MasterData}. Uses {@code platform}.
 */
package app.euthyna.server.masterdata;
