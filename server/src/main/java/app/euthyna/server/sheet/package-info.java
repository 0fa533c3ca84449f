/**
 * Pages about one customer or item, read across the capabilities. Start with
 * {@link app.euthyna.server.sheet.CustomerSheets}.
 */
package app.euthyna.server.sheet;
