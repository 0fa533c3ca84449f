package app.euthyna.server.platform;

/** Work that a command leaves behind for others: done after its commit and before its answer. */
public interface AfterCommand {

    /**
     * Works off what this thread's commands have left; does nothing within a transaction.
     *
     * @return whether there was anything to do
     */
    boolean workOff();
}
