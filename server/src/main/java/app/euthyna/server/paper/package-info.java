/**
 * Documents on paper: PDFs that are printed or sent. Start with {@link app.euthyna.server.paper.Papers}. Uses
 * {@code billing} and what comes before it.
 */
package app.euthyna.server.paper;
