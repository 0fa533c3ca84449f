/**
 * Many commands asked for at once: each carried out in a transaction of its own, with a log that says what became of
 * it. Start with {@link app.euthyna.server.batch.Batches}. Uses {@code platform}.
 */
package app.euthyna.server.batch;
