/**
 * Sets up a new database: the first administrator, or whatever company another
 * {@link app.euthyna.server.founding.Founder} on the path brings. May use every capability.
 */
package app.euthyna.server.founding;
