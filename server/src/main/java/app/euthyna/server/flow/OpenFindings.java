package app.euthyna.server.flow;

/** Whether the checks have found something about an order that nobody has dealt with. */
public interface OpenFindings {

    boolean areOpen(long order);
}
