package app.euthyna.core.approval;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.util.Arrays;
import java.util.List;

/** Whose word is asked for, in the order in which they are asked (section 6). */
public enum Level {
    CONTROLLER(Role.CONTROLLER),
    LEAD(Role.LEAD);

    private final Role role;

    Level(Role role) {
        this.role = role;
    }

    /** The roles that carry the authority, its own first; a higher one stands in for a lower. */
    public List<Role> roles() {
        return role == Role.LEAD ? List.of(Role.LEAD) : List.of(role, Role.LEAD);
    }

    /**
     * Names of the levels that a person can decide on, by their own role or as a deputy; never empty, so that it can
     * stand in a query.
     */
    public static List<String> carriedBy(Person person) {
        var carried = Arrays.stream(values())
                .filter(level -> person.carries(level.roles()))
                .map(Enum::name)
                .toList();
        return carried.isEmpty() ? List.of("") : carried;
    }

    public String words() {
        return role.words();
    }
}
