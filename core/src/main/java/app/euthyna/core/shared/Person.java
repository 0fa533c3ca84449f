package app.euthyna.core.shared;

import java.util.Collection;
import java.util.List;
import java.util.Set;

/**
 * Who acts: a fact like any other.
 *
 * @param standsInFor roles of those who are away and named this person as their deputy
 */
public record Person(String username, Role role, Set<Role> standsInFor) {

    /** Who decides on orders and undoes what was posted. */
    public static final List<Role> DECIDING = List.of(Role.CONTROLLER, Role.LEAD);

    public Person {
        standsInFor = Set.copyOf(standsInFor);
    }

    public Person(String username, Role role) {
        this(username, role, Set.of());
    }

    public boolean decides() {
        return carries(DECIDING);
    }

    /** One of the roles is the person's own, or that of someone they stand in for. */
    public boolean carries(Collection<Role> roles) {
        return roles.contains(role) || roles.stream().anyMatch(standsInFor::contains);
    }
}
