/**
 * The morning: what waits, how much it is worth, since when. Start with
 * {@link app.euthyna.server.today.TodayController}. Reads the queues of the capabilities.
 */
package app.euthyna.server.today;
