/**
 * Messages that would have been sent, kept instead. Start with {@link app.euthyna.server.outbox.Outbox}. Uses
 * {@code platform} and {@code people}.
 */
package app.euthyna.server.outbox;
