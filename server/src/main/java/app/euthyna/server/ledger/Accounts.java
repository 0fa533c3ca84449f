package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.server.platform.ClosedPeriods;
import app.euthyna.server.platform.TransactionCache;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Accounts, the rows that lead to them, and through which day the books are closed. */
@Component
public class Accounts {

    private final LedgerQueries queries;
    private final ClosedPeriods closed;
    private final TransactionCache<String, PostingMap> map = TransactionCache.readThrough();

    Accounts(LedgerQueries queries, ClosedPeriods closed) {
        this.closed = closed;
        this.queries = queries;
    }

    /** The posting map as it stands. */
    public PostingMap map() {
        return map.get(
                "",
                key -> new PostingMap(queries.rules().stream()
                        .map(row -> new PostingMap.Row(
                                role(row.role()),
                                row.customerClass(),
                                row.itemClass(),
                                row.site(),
                                row.vat(),
                                row.account()))
                        .toList()));
    }

    /** The posting map has been changed. */
    void changed() {
        map.forget("");
    }

    /** Every account with the roles that the posting map gives it, and those under which it was ever posted to. */
    public Map<String, Set<AccountRole>> roles() {
        var roles = new HashMap<String, Set<AccountRole>>();
        queries.roles().forEach(row -> {
            var of = roles.computeIfAbsent(row.code(), code -> EnumSet.noneOf(AccountRole.class));
            if (row.role() != null) {
                of.add(role(row.role()));
            }
        });
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
