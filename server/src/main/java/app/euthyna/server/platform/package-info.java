/**
 * What every capability stands on: commands (one transaction, safe to send twice), the effect writer, problem
 * documents, security, numbers and ids. Start with {@link app.euthyna.server.platform.Commands}. Uses no capability.
 */
package app.euthyna.server.platform;
