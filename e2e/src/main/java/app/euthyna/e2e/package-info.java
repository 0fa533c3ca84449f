/**
 * Drives the packaged application from outside, over its own REST interface and in a browser. Knows nothing of its
 * classes.
 */
package app.euthyna.e2e;
