/**
 * The rules of order to cash, as pure functions: facts in, decisions out. No framework, no clock, no I/O, no generated
 * ids.
 *
 * <p>Start with {@link app.euthyna.core.flow.Chain}, the immutable picture of one order and everything that grew from
 * it, and {@link app.euthyna.core.flow.Effect}, the closed list of things that can happen to it. A decision looks at
 * chains and answers with refusals or with effects; the server writes effects, and the same effects can be folded over
 * a chain to preview them.
 *
 * <p>Capabilities, each of which may use only those before it:
 *
 * <ol>
 *   <li>{@code shared}: money, quantity, VAT totals, document references, refusals
 *   <li>{@code lists}: what is asked of a list, and how that reads
 *   <li>{@code order}: what was ordered, kinds and states, what is missing to submit it, what may still be changed
 *   <li>{@code flow}: where every unit came from and went
 *   <li>{@code check}: findings, waivers, exposure, duplicate PO
 *   <li>{@code approval}: rules, levels, four eyes
 *   <li>{@code goods}: shelves at moving average, reservation, staging, departure
 *   <li>{@code billing}: invoices, payments, customer credit
 *   <li>{@code returns}: goods that come back, credit notes
 *   <li>{@code ledger}: postings, posting map, entries, hash chain
 *   <li>{@code unwind}: intents and plans
 *   <li>{@code trail}: the statement of a chain
 *   <li>{@code proof}: the statements that must always hold; reads all, nothing uses it
 * </ol>
 */
package app.euthyna.core;
