/**
 * What a customer ordered: kinds, states, lines, what is missing before it can be handed in, and what may still be
 * changed. Start with {@link Order}. Uses {@code shared}.
 */
package app.euthyna.core.order;
