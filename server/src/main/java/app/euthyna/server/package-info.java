/**
 * HTTP, persistence and security around the rules of {@link app.euthyna.core}. A command flows controller → service → core decision →
 * {@link app.euthyna.server.platform.EffectWriter}, which hands each effect to every capability that keeps something of it.
 *
 * <p>Packages carry the words of the core and may use one another in the same order; {@code platform}, {@code people} and
 * {@code masterdata} come before them; {@code find}, {@code exchange} and {@code demo} after.
 */
package app.euthyna.server;
