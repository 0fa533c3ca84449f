/**
 * Times the frequent questions over REST beside bare JDBC on the same data. Start with
 * {@link app.euthyna.e2e.bench.Bench}.
 */
package app.euthyna.e2e.bench;
