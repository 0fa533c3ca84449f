/**
 * Shelves, reservations and dispatch notes. Start with {@link app.euthyna.server.goods.GoodsService}. Uses
 * {@code platform} to {@code check}.
 */
package app.euthyna.server.goods;
