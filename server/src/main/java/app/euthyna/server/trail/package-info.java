/**
 * Finds a chain from any of its numbers and shows it as a statement. Start with
 * {@link app.euthyna.server.trail.TrailReader}. Uses {@code platform} to {@code unwind}.
 */
package app.euthyna.server.trail;
