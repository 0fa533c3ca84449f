/**
 * What events post, to which accounts, as entries that balance and are chained by hash. Start with {@link Postings}.
 * Uses {@code shared}, {@code order}, {@code flow}, {@code goods} and {@code billing}.
 */
package app.euthyna.core.ledger;
