package app.euthyna.core.approval;

import app.euthyna.core.shared.Role;
import java.util.List;

/** Whose word is asked for, in the order in which they are asked (section 6). */
public enum Level {
    CONTROLLER(List.of(Role.CONTROLLER, Role.LEAD)), LEAD(List.of(Role.LEAD));

    private final List<Role> roles;

    Level(List<Role> roles) {
        this.roles = roles;
    }

    /** The roles that carry the authority; a higher one stands in for a lower. */
    public List<Role> roles() {
        return roles;
    }

    public String words() {
        return roles.get(0).words();
    }
}
