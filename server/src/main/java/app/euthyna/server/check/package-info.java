/**
 * Runs the checks when orders and the world around them change, keeps the findings, and shows what is held and why.
 * Start with {@link app.euthyna.server.check.CheckSink}. Uses {@code platform} to {@code flow}.
 */
package app.euthyna.server.check;
