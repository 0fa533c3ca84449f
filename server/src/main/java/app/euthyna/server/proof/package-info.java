/**
 * Runs the statements over one chain and over the whole books. Reads all; nothing uses it. Start with
 * {@link app.euthyna.server.proof.BooksProof}.
 */
package app.euthyna.server.proof;
