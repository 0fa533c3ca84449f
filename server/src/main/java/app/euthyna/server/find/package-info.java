/**
 * Find: any number, PO or name, as one types. Start with {@link app.euthyna.server.find.FindController}. Uses
 * {@code platform} and {@code masterdata}.
 */
package app.euthyna.server.find;
