package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Register;
import app.euthyna.core.ledger.Register.Moved;
import app.euthyna.server.lists.Books;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What entries moved, for registers that are held against it. */
@Component
class RegisterBooks implements Books {

    private final LedgerQueries queries;
    private final Company company;

    RegisterBooks(LedgerQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    @Override
    public List<LocalDate> days(Register register, LocalDate from, LocalDate to, boolean down, int most) {
        var roles = roles(register);
        var documents = documents(register);
        var days = down ? queries.lastDays(roles, documents, from, to) : queries.days(roles, documents, from, to);
        return days.setMaxResults(most).getResultList();
    }

    @Override
    public List<Moved> moved(Register register, Optional<LocalDate> from, Optional<LocalDate> to) {
        var last = to.orElse(LocalDate.of(9999, 12, 31));
        var moved = register.isBalance()
                ? queries.stood(roles(register), last)
                : queries.moved(
                        roles(register),
                        documents(register),
                        Many.names(register.besides()),
                        from.orElse(LocalDate.of(1, 1, 1)),
                        last);
        return moved.stream()
                .map(row -> new Moved(
                        AccountRole.valueOf(row.role().toUpperCase(Locale.ROOT)),
                        row.account(),
                        row.name(),
                        company.money(row.amount()).amount()))
                .toList();
    }

    private static String[] roles(Register register) {
        return Many.names(register.ties().stream()
                .flatMap(tie -> tie.roles().stream())
                .map(AccountRole::code)
                .distinct()
                .toList());
    }

    private static String[] documents(Register register) {
        return Many.names(register.documents().stream().map(Enum::name).toList());
    }
}
