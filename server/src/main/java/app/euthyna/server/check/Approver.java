package app.euthyna.server.check;

import app.euthyna.server.platform.CommandContext;

/** Takes someone's approval of an order that waits for it. */
public interface Approver {

    /** Approves the level that is pending; the order is cleared with the last of them. */
    void approve(CommandContext context, String order, long version);
}
