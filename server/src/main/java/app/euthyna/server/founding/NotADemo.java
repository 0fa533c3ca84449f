package app.euthyna.server.founding;

import app.euthyna.server.platform.Company;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** A demo database, whose users all know one another's passwords, is opened as a demo alone. */
@Component
class NotADemo {

    NotADemo(Company company, @Value("${euthyna.demo}") boolean demo) {
        if (!demo && company.isFounded() && company.facts().demo()) {
            throw new IllegalStateException("This is the database of the demo company, whose passwords are known."
                    + " Open it with ./euthyna demo, or serve another one.");
        }
    }
}
