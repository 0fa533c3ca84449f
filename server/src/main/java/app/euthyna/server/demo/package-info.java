/**
 * Sets up a new database: the first administrator, or the demo company with its story. Start with
 * {@link app.euthyna.server.demo.Founding}. May use every capability.
 */
package app.euthyna.server.demo;
