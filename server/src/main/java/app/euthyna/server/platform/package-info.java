/**
 * What every capability stands on: commands (one transaction, safe to send twice), the effect writer, problem
 * documents, security, numbers and ids. Start with {@link app.euthyna.server.platform.Commands}. Uses no capability.
 * Documents and events have their ids from one sequence, one at a time: they tell what came first. The rows beneath
 * them take theirs by the block.
 */
@SequenceGenerator(name = "row_id", sequenceName = "row_id", allocationSize = 50)
@SequenceGenerator(name = "document_id", sequenceName = "document_id", allocationSize = 1)
package app.euthyna.server.platform;

import jakarta.persistence.SequenceGenerator;
