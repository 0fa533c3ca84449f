package app.euthyna.server.lists;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.RefusedException;
import java.util.Comparator;
import java.util.List;
import org.springframework.stereotype.Component;

/** The lists that are declared, by title. */
@Component
class Lists {

    private final List<DeclaredList> all;

    Lists(List<DeclaredList> all) {
        this.all =
                all.stream().sorted(Comparator.comparing(DeclaredList::title)).toList();
    }

    List<DeclaredList> read() {
        return all.stream().filter(DeclaredList::isRead).toList();
    }

    /** Refused where there is none, or where it is not for whoever is signed in. */
    DeclaredList readable(String name) {
        var list = all.stream()
                .filter(one -> one.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("list", name)));
        list.checkRead();
        return list;
    }
}
