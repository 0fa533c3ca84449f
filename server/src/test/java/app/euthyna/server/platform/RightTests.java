package app.euthyna.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.util.Arrays;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.springframework.security.access.prepost.PreAuthorize;

class RightTests {

    private static Set<Right> of(Role role, Role... standsInFor) {
        return Set.copyOf(Right.of(new Person("somebody", role, Set.of(standsInFor))));
    }

    @Test
    void areReadFromThePermissionsOfTheCommands() {
        assertThat(of(Role.CLERK)).containsExactlyInAnyOrder(Right.ENTER, Right.PROPOSE);
        assertThat(of(Role.WAREHOUSE)).containsExactlyInAnyOrder(Right.MOVE_GOODS, Right.PROPOSE);
        assertThat(of(Role.AUDITOR)).containsExactly(Right.PROVE);
        assertThat(of(Role.ADMIN)).containsExactlyInAnyOrder(Right.KEEP_MASTER_DATA, Right.KEEP_USERS);
        assertThat(of(Role.LEAD)).contains(Right.KEEP_BOOKS, Right.DECIDE, Right.DATE_FAR_BACK);
    }

    @Test
    void toDecideAreLentToWhoeverStandsIn() {
        assertThat(of(Role.RECEIVABLES, Role.CONTROLLER))
                .contains(Right.DECIDE)
                .doesNotContain(Right.ENTER, Right.DATE_FAR_BACK);
    }

    @Test
    void ofEveryPermissionNameTheirRoles() {
        assertThat(Arrays.stream(Permissions.class.getDeclaredClasses())
                        .filter(permission -> permission
                                .getAnnotation(PreAuthorize.class)
                                .value()
                                .startsWith("has"))
                        .map(permission -> Right.roles(permission.asSubclass(java.lang.annotation.Annotation.class))))
                .hasSizeGreaterThan(8)
                .allSatisfy(roles -> assertThat(roles).isNotEmpty());
    }
}
