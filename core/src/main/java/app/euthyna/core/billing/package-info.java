/**
 * Invoices from what was dispatched, payments and customer credit. Start with {@link Billing}. Uses {@code shared},
 * {@code order}, {@code flow} and {@code goods}.
 */
package app.euthyna.core.billing;
