package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.server.platform.ClosedPeriods;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Accounts, the rows that lead to them, and through which day the books are closed. */
@Component
public class Accounts {

    private final JdbcClient jdbc;
    private final ClosedPeriods closed;

    Accounts(JdbcClient jdbc, ClosedPeriods closed) {
        this.closed = closed;
        this.jdbc = jdbc;
    }

    /** The posting map as it stands. */
    public PostingMap map() {
        return new PostingMap(
                jdbc.sql("select role, customer_class, item_class, site, vat, account from posting_rule order by id")
                        .query((r, n) -> new PostingMap.Row(
                                role(r.getString(1)),
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6)))
                        .list());
    }

    /** Every account with the roles that the posting map gives it, and those under which it was ever posted to. */
    public Map<String, Set<AccountRole>> roles() {
        var roles = new HashMap<String, Set<AccountRole>>();
        jdbc.sql("select a.code, p.role from account a left join posting_rule p on p.account = a.code")
                .query((r, n) -> {
                    var of = roles.computeIfAbsent(r.getString(1), code -> EnumSet.noneOf(AccountRole.class));
                    return r.getString(2) != null && of.add(role(r.getString(2)));
                })
                .list();
        return roles;
    }

    /** The last day of the closed period. */
    public Optional<LocalDate> closedThrough() {
        return closed.through();
    }

    static AccountRole role(String code) {
        return AccountRole.valueOf(code.toUpperCase(Locale.ROOT));
    }
}
