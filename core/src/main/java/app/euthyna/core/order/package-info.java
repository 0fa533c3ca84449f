/**
 * What a customer ordered: kinds, states, lines, what is missing before it can be submitted, and what may still be
 * changed. Start with {@link Order}. Uses {@code shared}.
 */
package app.euthyna.core.order;
