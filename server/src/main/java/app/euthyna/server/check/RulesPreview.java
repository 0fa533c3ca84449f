package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.Finding;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tries other rules on the open orders of the books, as if each came in today. */
@Service
class RulesPreview {

    /** So many open orders are looked at, the newest first. */
    private static final int LOOKED_AT = 300;

    private static final int NAMED = 40;

    private final RecheckQueries queries;
    private final ChainReader chains;
    private final FindingStore findings;
    private final CheckContextReader checkContexts;
    private final CompanyRulesStore rules;

    RulesPreview(
            RecheckQueries queries,
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            CompanyRulesStore rules) {
        this.queries = queries;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.rules = rules;
    }

    /** On how many orders a check is open, by weight, with the rules in force and with the others. */
    record CheckCount(String check, String title, int stopsNow, int stopsThen, int cautionsNow, int cautionsThen) {}

    /** An order that the other rules treat otherwise. */
    record Told(String number, String customerName, String reasons) {}

    /**
     * What other rules would do.
     *
     * @param open orders in all; {@code lookedAt} of them were tried
     * @param holds orders that they would hold, were they to come in today; cleared ones stay cleared
     * @param releases held orders that they would let go
     */
    record Preview(
            String sentence,
            long open,
            int lookedAt,
            List<CheckCount> checks,
            int holdCount,
            int releaseCount,
            List<Told> holds,
            List<Told> releases) {}

    private static final class Counts {
        private int stopsNow;
        private int stopsThen;
        private int cautionsNow;
        private int cautionsThen;
    }

    @Transactional(readOnly = true)
    public Preview of(CommandContext context, CompanyRules other) {
        var inForce = rules.inForce();
        var rows = queries.latestOpen(LOOKED_AT);
        var counts = new EnumMap<Check, Counts>(Check.class);
        Arrays.stream(Check.values()).forEach(check -> counts.put(check, new Counts()));
        var holds = new ArrayList<Told>();
        var releases = new ArrayList<Told>();
        for (var row : rows) {
            var now = tried(context, row.number(), inForce);
            var then = tried(context, row.number(), other);
            now.forEach(f -> {
                if (f.holds()) {
                    counts.get(f.check()).stopsNow++;
                } else {
                    counts.get(f.check()).cautionsNow++;
                }
            });
            then.forEach(f -> {
                if (f.holds()) {
                    counts.get(f.check()).stopsThen++;
                } else {
                    counts.get(f.check()).cautionsThen++;
                }
            });
            var held = now.stream().anyMatch(Finding::holds);
            var wouldBe = then.stream().anyMatch(Finding::holds);
            if (held != wouldBe) {
                (held ? releases : holds)
                        .add(new Told(
                                row.number(),
                                row.customerName(),
                                String.join(
                                        ", ",
                                        (held ? now : then)
                                                .stream()
                                                        .filter(Finding::holds)
                                                        .map(f -> f.evidence().brief())
                                                        .toList())));
            }
        }
        var open = queries.openOrders();
        return new Preview(
                sentence(holds.size(), releases.size(), rows.size(), open),
                open,
                rows.size(),
                counts.entrySet().stream()
                        .map(e -> new CheckCount(
                                e.getKey().code(),
                                e.getKey().title(),
                                e.getValue().stopsNow,
                                e.getValue().stopsThen,
                                e.getValue().cautionsNow,
                                e.getValue().cautionsThen))
                        .toList(),
                holds.size(),
                releases.size(),
                first(holds),
                first(releases));
    }

    private static List<Told> first(List<Told> told) {
        return told.subList(0, Math.min(NAMED, told.size()));
    }

    private List<Finding> tried(CommandContext context, String number, CompanyRules under) {
        var chain = chains.chain(number);
        return Checks.run(
                        chain,
                        checkContexts.of(chain.order(), context.today(), under),
                        findings.of(number),
                        Occasion.SUBMITTED,
                        Optional.empty())
                .stream()
                .filter(Finding::isOpen)
                .toList();
    }

    private static String sentence(int holds, int releases, int lookedAt, long open) {
        var of = lookedAt < open
                ? "Of the latest %d of %d open orders".formatted(lookedAt, open)
                : "Of %d open orders".formatted(lookedAt);
        return "%s, these rules would hold %d that are cleared today and release %d that are held."
                .formatted(of, holds, releases);
    }
}
