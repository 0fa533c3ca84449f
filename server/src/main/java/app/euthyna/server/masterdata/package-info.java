/**
 * Customers, items, stores and what the licence register says: what documents refer to. Start with
 * {@link app.euthyna.server.masterdata.MasterData}. Uses {@code platform}.
 */
package app.euthyna.server.masterdata;
