/**
 * Who must agree to an order before it goes on: rules, levels, requests bound to the order's content, four eyes. Start
 * with {@link Approving}. Uses {@code shared}, {@code order}, {@code flow} and {@code check}.
 */
package app.euthyna.core.approval;
