/**
 * Goods that come back and what the customer gets for them (section 10). {@link Returning} takes them in and decides
 * what becomes of them, {@link Crediting} credits them. Uses {@code shared} to {@code billing}.
 */
package app.euthyna.core.returns;
