package app.euthyna.server.founding;

/** Sets up a new company. The first in order does: the one of a new company comes last. */
public interface Founder {

    /** Founds the company in an empty database; whoever finds a user there finds all of it. */
    void found();
}
