package app.euthyna.server.platform;

import java.util.Collection;

/**
 * Something changed that checks look at, beside any document: told within the command's transaction, so that the orders
 * of these customers that wait show what is true now.
 *
 * @param customers by id
 */
public record WorldChanged(CommandContext context, Collection<Long> customers) {}
