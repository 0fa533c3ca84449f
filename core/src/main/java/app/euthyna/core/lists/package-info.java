/**
 * What is asked of a list: which rows, by which of its fields, and how that reads in words. Start with {@link Filter}.
 * Uses {@code shared}.
 */
package app.euthyna.core.lists;
