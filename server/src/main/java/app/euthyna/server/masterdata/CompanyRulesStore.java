package app.euthyna.server.masterdata;

import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.DecimalMark;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.time.LocalDate;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The rules of the company and all that they were before. */
@Component
public class CompanyRulesStore implements CommandContext.DatingRule, DecimalMark.Rule {

    private static final String THE_ONE = "";

    private final JdbcClient jdbc;
    private final TransactionCache<String, Versioned> read = TransactionCache.readThrough();

    CompanyRulesStore(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Rules with the version that they are. */
    public record Versioned(long version, CompanyRules rules) {}

    /** A change of the rules. */
    public record Change(long version, LocalDate on, String by, String reason) {}

    public CompanyRules inForce() {
        return current().rules();
    }

    @Override
    public int daysBack() {
        return inForce().daysBack();
    }

    @Override
    public DecimalMark decimalMark() {
        return inForce().decimalMark();
    }

    public Versioned current() {
        return read.get(
                THE_ONE,
                key -> jdbc.sql(
                                "select version_no, rules from company_rules order by version_no desc fetch first 1 rows"
                                        + " only")
                        .query((r, n) -> new Versioned(r.getLong(1), Records.read(r.getString(2), CompanyRules.class)))
                        .optional()
                        .orElse(new Versioned(0, CompanyRules.STANDARD)));
    }

    /** Lays down new rules over those of the version that the user saw. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void publish(CommandContext context, long seen, CompanyRules rules) {
        var current = current();
        if (current.version() != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("The rules", seen, current.version()));
        }
        jdbc.sql("insert into company_rules (version_no, changed_on, changed_by, reason, rules) values (?, ?, ?, ?, ?)")
                .params(seen + 1, context.date(), context.person().username(), context.reason(), Records.write(rules))
                .update();
        read.put(THE_ONE, new Versioned(seen + 1, rules));
    }

    /** The newest changes first. */
    public List<Change> changes() {
        return jdbc.sql("select version_no, changed_on, changed_by, reason from company_rules order by version_no desc"
                        + " fetch first 50 rows only")
                .query((r, n) ->
                        new Change(r.getLong(1), r.getObject(2, LocalDate.class), r.getString(3), r.getString(4)))
                .list();
    }
}
