package app.euthyna.core.shared;

/** Who acts: a fact like any other. */
public record Person(String username, Role role) {

    public boolean decides() {
        return role == Role.CONTROLLER || role == Role.LEAD;
    }
}
