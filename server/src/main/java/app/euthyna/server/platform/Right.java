package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.lang.annotation.Annotation;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.springframework.security.access.prepost.PreAuthorize;

/**
 * What somebody may do, for a screen that offers nothing that would be refused. It is read from where the refusal would
 * come from: the permission of the command, or the rule of the core.
 */
public enum Right {
    ENTER(Permissions.Enter.class),
    PROPOSE(Permissions.Propose.class),
    MOVE_GOODS(Permissions.MoveGoods.class),
    BILL(Permissions.Bill.class),
    KEEP_MASTER_DATA(Permissions.KeepMasterData.class),
    KEEP_BOOKS(Permissions.KeepBooks.class),
    PROVE(Permissions.Prove.class),
    KEEP_USERS(Permissions.KeepUsers.class),
    /** Also in place of somebody who is away: the core asks whom one stands in for. */
    DECIDE(List.of(Role.CONTROLLER, Role.LEAD), Person::decides),
    DATE_FAR_BACK(Dating.FAR_BACK, person -> person.carries(Dating.FAR_BACK));

    @SuppressWarnings("ImmutableEnumChecker") // a question, without state
    private final Predicate<Person> given;

    @SuppressWarnings("ImmutableEnumChecker") // a copy
    private final List<Role> roles;

    Right(Class<? extends Annotation> permission) {
        this(roles(permission));
    }

    Right(List<Role> roles) {
        this(roles, person -> roles.contains(person.role()));
    }

    Right(Collection<Role> roles, Predicate<Person> given) {
        this.roles = List.copyOf(roles);
        this.given = given;
    }

    /** The roles that a permission names. */
    static List<Role> roles(Class<? extends Annotation> permission) {
        return Named.ROLE
                .matcher(permission.getAnnotation(PreAuthorize.class).value())
                .results()
                .map(found -> Role.valueOf(found.group(1)))
                .toList();
    }

    /** Beside the enumeration: its values are made before its constants are. */
    private static final class Named {
        private static final Pattern ROLE = Pattern.compile("'(\\w+)'");
    }

    /** Whether somebody has it. */
    public boolean isOf(Person person) {
        return given.test(person);
    }

    /**
     * Why somebody may not do something for which it is needed; empty where they may.
     *
     * @param deed in words, as in "to receive goods"
     */
    public Optional<Refusal> refusal(Person person, String deed) {
        return isOf(person)
                ? Optional.empty()
                : Optional.of(new CommonRefusal.NotAuthorised(deed, person.role(), roles));
    }

    /** All that somebody may. */
    public static List<Right> of(Person person) {
        return Arrays.stream(values()).filter(right -> right.isOf(person)).toList();
    }
}
