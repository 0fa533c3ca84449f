/**
 * Orders as they are written, changed and stored. Start with {@link app.euthyna.server.order.OrderService}. Uses
 * {@code platform} and {@code masterdata}.
 */
package app.euthyna.server.order;
