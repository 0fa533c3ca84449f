/**
 * What every capability stands on: commands (one transaction, safe to send twice), the effect writer, problem
 * documents, security, numbers and ids. Start with {@link app.euthyna.server.platform.Commands}. Uses no capability.
 * Rows of all tables have their ids from one sequence.
 */
@SequenceGenerator(name = "row_id", sequenceName = "row_id", allocationSize = 50)
package app.euthyna.server.platform;

import jakarta.persistence.SequenceGenerator;
