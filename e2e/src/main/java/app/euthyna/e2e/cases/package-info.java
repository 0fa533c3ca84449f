/**
 * Runs worked cases, written in YAML, against a running application. Start with
 * {@link app.euthyna.e2e.cases.CaseRunner}.
 */
package app.euthyna.e2e.cases;
