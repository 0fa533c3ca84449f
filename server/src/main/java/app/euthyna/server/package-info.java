/**
 * HTTP, persistence and security around the rules of {@link app.euthyna.core}. A command flows controller → service →
 * core decision → {@link app.euthyna.server.platform.EffectWriter}, which hands each effect to every capability that
 * keeps something of it.
 *
 * <p>Packages carry the words of the core and may use one another in the same order; {@code platform}, {@code lists},
 * {@code batch}, {@code people}, {@code outbox} and {@code masterdata} come before them; {@code returns}, {@code bank}
 * and {@code paper} stand behind {@code billing}; {@code find}, {@code sheet}, {@code exchange} and {@code founding}
 * come last. The demo company and the stand-ins are a module of their own, {@code demo}.
 */
package app.euthyna.server;
