package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import jakarta.annotation.Nullable;
import java.lang.annotation.Annotation;
import java.util.Arrays;
import java.util.List;
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
    DECIDE(Person.DECIDING),
    DATE_FAR_BACK(Dating.FAR_BACK);

    @SuppressWarnings("ImmutableEnumChecker") // a copy
    private final List<Role> roles;

    private final boolean deputies;

    /** What a permission gives. */
    Right(Class<? extends Annotation> permission) {
        this.roles = roles(permission);
        this.deputies = false;
    }

    /** What a rule of the core gives, also in place of somebody who is away: it asks whom one stands in for. */
    Right(List<Role> roles) {
        this.roles = List.copyOf(roles);
        this.deputies = true;
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
        return deputies ? person.carries(roles) : roles.contains(person.role());
    }

    /**
     * Refused where somebody does not have it.
     *
     * @param deed in words: "send off what was staged"
     */
    public void check(Person person, String deed) {
        if (!isOf(person)) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(deed, person.role(), roles));
        }
    }

    /**
     * Why somebody can't do what a document is there for; null where they can. That it is not for them is told before
     * what else speaks against it.
     *
     * @param deed in words: "receive goods"
     */
    @Nullable
    public String refused(Person person, String deed, Offered<?> offered) {
        return isOf(person)
                ? offered.refusal().map(Refusal::sentence).orElse(null)
                : new CommonRefusal.NotAuthorised(deed, person.role(), roles).sentence();
    }

    /** All that somebody may. */
    public static List<Right> of(Person person) {
        return Arrays.stream(values()).filter(right -> right.isOf(person)).toList();
    }
}
