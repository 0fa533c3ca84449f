/**
 * Invoices, payments and customer credit. Start with {@link app.euthyna.server.billing.BillingService}. Uses
 * {@code platform} to {@code goods}.
 */
package app.euthyna.server.billing;
