package app.euthyna.core.shared;

import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Up to which amount a role acts on its own word (section 15). A role that is not named has no limit, nor has the
 * finance lead.
 */
public record RoleLimits(Map<Role, Money> amounts) {

    public static final RoleLimits NONE = new RoleLimits(Map.of());

    public RoleLimits {
        amounts = Map.copyOf(amounts);
    }

    /** What bounds a person: the highest limit of the roles that they carry; empty where nothing does. */
    public Optional<Money> of(Person person) {
        return person.carries(Set.of(Role.LEAD))
                ? Optional.empty()
                : amounts.entrySet().stream()
                        .filter(limit -> person.carries(Set.of(limit.getKey())))
                        .map(Map.Entry::getValue)
                        .reduce(Money::max);
    }

    /** What bounds a role of its own. */
    public Optional<Money> of(Role role) {
        return of(new Person("", role));
    }
}
