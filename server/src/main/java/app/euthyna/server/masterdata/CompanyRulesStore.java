package app.euthyna.server.masterdata;

import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.DecimalMark;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.time.LocalDate;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The rules of the company and all that they were before. */
@Component
public class CompanyRulesStore implements CommandContext.DatingRule, DecimalMark.Rule {

    private static final String THE_ONE = "";

    private final MasterDataQueries queries;
    private final TransactionCache<String, Versioned> read = TransactionCache.readThrough();

    /** What a text says never changes: the last one is not taken apart again. */
    private volatile Read last = new Read("", CompanyRules.STANDARD);

    CompanyRulesStore(MasterDataQueries queries) {
        this.queries = queries;
    }

    /** Rules with the version that they are. */
    public record Versioned(long version, CompanyRules rules) {}

    private record Read(String text, CompanyRules rules) {}

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
                key -> queries.current()
                        .map(row -> new Versioned(row.versionNo(), said(row.rules())))
                        .orElse(new Versioned(0, CompanyRules.STANDARD)));
    }

    private CompanyRules said(String text) {
        var known = last;
        if (!known.text().equals(text)) {
            known = new Read(text, Records.read(text, CompanyRules.class));
            last = known;
        }
        return known.rules();
    }

    /** Lays down new rules over those of the version that the user saw. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void publish(CommandContext context, long seen, CompanyRules rules) {
        var current = current();
        if (current.version() != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("The rules", seen, current.version()));
        }
        var row = new CompanyRulesEntity();
        row.versionNo = seen + 1;
        row.changedOn = context.date();
        row.changedBy = context.person().username();
        row.reason = context.reason();
        row.rules = Records.write(rules);
        queries.session().insert(row);
        read.put(THE_ONE, new Versioned(seen + 1, rules));
    }

    /** The newest changes first. */
    public List<Change> changes() {
        return queries.changes().stream()
                .map(row -> new Change(row.versionNo(), row.changedOn(), row.changedBy(), row.reason()))
                .toList();
    }
}
