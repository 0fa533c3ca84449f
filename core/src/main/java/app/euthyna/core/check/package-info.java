/**
 * Checks look at an order with its facts and give findings with evidence; findings hold or flag it until they are
 * settled or waived. Start with {@link Checks}. Uses {@code shared}, {@code order} and {@code flow}.
 */
package app.euthyna.core.check;
