/**
 * Goods on shelves and on their way out: moving average, reservation, staging, voiding, departure. Start with
 * {@link Shelf}. Uses {@code shared}, {@code order} and {@code flow}.
 */
package app.euthyna.core.goods;
