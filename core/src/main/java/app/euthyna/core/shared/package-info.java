/**
 * Values that several capabilities share and that a controller would recognise by name. Start with {@link Money}. Uses
 * nothing.
 */
package app.euthyna.core.shared;
