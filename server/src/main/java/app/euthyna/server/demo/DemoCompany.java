package app.euthyna.server.demo;

import app.euthyna.core.shared.Role;
import java.util.List;
import org.springframework.stereotype.Component;

/** Skerrywick Chandlery, invented: a wholesaler to boatyards, harbour trusts, sailing schools and ferry lines. */
@Component
class DemoCompany {

    record DemoUser(String username, String displayName, Role role) {
    }

    List<DemoUser> users() {
        return List.of(new DemoUser("clerk", "Una Clerk", Role.CLERK), new DemoUser("clerk2", "Rory Clerk", Role.CLERK),
                new DemoUser("controller", "Isla Controller", Role.CONTROLLER), new DemoUser("controller2", "Ewan Controller", Role.CONTROLLER),
                new DemoUser("lead", "Morag Lead", Role.LEAD), new DemoUser("warehouse", "Finn Warehouse", Role.WAREHOUSE),
                new DemoUser("receivables", "Kirsty Receivables", Role.RECEIVABLES), new DemoUser("auditor", "Neil Auditor", Role.AUDITOR),
                new DemoUser("admin", "Ada Admin", Role.ADMIN));
    }

    void open(int orders) {
    }
}
