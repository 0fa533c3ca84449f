/**
 * Where every unit came from and went. {@link Chain} is one order with all that grew from it; {@link Effect} is what
 * can happen. Uses {@code shared} and {@code order}.
 */
package app.euthyna.core.flow;
