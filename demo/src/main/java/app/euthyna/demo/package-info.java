/**
 * The demo company with its story, and the loader of large ones. Start with {@link app.euthyna.demo.DemoFounder}. May
 * use every capability.
 */
package app.euthyna.demo;
