package app.euthyna.core.ledger;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;

/**
 * Which account a role is posted to. The most specific row that fits wins; where none fits, nothing is posted (section
 * 8).
 */
public record PostingMap(List<Row> rows) {

    /**
     * One row; an empty key fits everything.
     *
     * @param vat like {@code S 21}, or empty
     */
    public record Row(
            AccountRole role, String customerClass, String itemClass, String site, String vat, String account) {

        boolean fits(AccountRole asked, Posting.Keys keys) {
            return role == asked
                    && fits(customerClass, keys.customerClass())
                    && fits(itemClass, keys.itemClass())
                    && fits(site, keys.site())
                    && fits(vat, vatKey(keys));
        }

        private static boolean fits(String key, String value) {
            return key.isEmpty() || key.equals(value);
        }

        private static String vatKey(Posting.Keys keys) {
            return keys.vat() == null
                    ? ""
                    : keys.vat().category() + " " + Figures.plain(keys.vat().ratePercent());
        }

        /** As it is told: {@code revenue with item class service}. */
        public String words() {
            var parts = new ArrayList<String>();
            if (!customerClass.isEmpty()) {
                parts.add("customer class " + customerClass);
            }
            if (!itemClass.isEmpty()) {
                parts.add("item class " + itemClass);
            }
            if (!site.isEmpty()) {
                parts.add("site " + site);
            }
            if (!vat.isEmpty()) {
                parts.add("VAT " + vat + " %");
            }
            return role.words() + (parts.isEmpty() ? ", any" : " with " + String.join(", ", parts));
        }

        private List<String> keys() {
            return List.of(customerClass, itemClass, site, vat);
        }

        /** Some combination fits both. */
        private boolean meets(Row other) {
            for (int at = 0; at < keys().size(); at++) {
                var own = keys().get(at);
                var its = other.keys().get(at);
                if (!own.isEmpty() && !its.isEmpty() && !own.equals(its)) {
                    return false;
                }
            }
            return true;
        }

        /** It is for just what two rows fit both, so neither of them decides there. */
        private boolean decides(Row one, Row two) {
            for (int at = 0; at < keys().size(); at++) {
                var both = one.keys().get(at).isEmpty()
                        ? two.keys().get(at)
                        : one.keys().get(at);
                if (!keys().get(at).equals(both)) {
                    return false;
                }
            }
            return role == one.role() && specificity() > one.specificity();
        }

        private long specificity() {
            return keys().stream().filter(key -> !key.isEmpty()).count();
        }
    }

    /** No row fits. */
    @Code("no-posting-rule")
    public record NoPostingRule(String role, String combination) implements Refusal {
        @Override
        public String variant() {
            return combination.isEmpty() ? "any" : "";
        }
    }

    public PostingMap {
        rows = List.copyOf(rows);
    }

    /** Two rows fit the same combination, none more closely than the other, and give it different accounts. */
    @Code("ambiguous-posting-rule")
    public record AmbiguousRows(String one, String other) implements Refusal {}

    /** What would be decided by the order of rows: refused when a row is written. */
    public List<Refusal> ambiguities() {
        var found = new ArrayList<Refusal>();
        for (int at = 0; at < rows.size(); at++) {
            for (int other = at + 1; other < rows.size(); other++) {
                var one = rows.get(at);
                var two = rows.get(other);
                if (one.role() == two.role()
                        && one.specificity() == two.specificity()
                        && !one.account().equals(two.account())
                        && one.meets(two)
                        && rows.stream().noneMatch(row -> row.decides(one, two))) {
                    found.add(new AmbiguousRows(one.words(), two.words()));
                }
            }
        }
        return found;
    }

    public Optional<Row> row(AccountRole role, Posting.Keys keys) {
        return rows.stream().filter(row -> row.fits(role, keys)).max(Comparator.comparingLong(Row::specificity));
    }

    /**
     * Which row gave an amount its account.
     *
     * @param asked what the map could look at, in words; empty where nothing narrowed it down
     * @param row as it stood then
     */
    public record Use(AccountRole role, String account, String asked, String row, Money amount) {}

    /** Lines with accounts, and how each came by its own. */
    public record Mapped(List<EntryLine> lines, List<Use> uses) {}

    /** The posting with accounts: amounts of the same role and account together, nothing at zero. */
    public Decision<Mapped> map(Posting posting) {
        var missing = new ArrayList<Refusal>();
        var sums = new LinkedHashMap<List<Object>, EntryLine>();
        var uses = new LinkedHashMap<List<Object>, Use>();
        for (var line : posting.lines()) {
            var row = row(line.role(), line.keys());
            if (row.isEmpty()) {
                missing.add(new NoPostingRule(line.role().words(), line.keys().words()));
                continue;
            }
            sums.merge(
                    List.of(line.role(), row.get().account()),
                    new EntryLine(line.role(), row.get().account(), line.amount()),
                    (a, b) -> new EntryLine(a.role(), a.account(), a.amount().plus(b.amount())));
            uses.merge(
                    List.of(line.role(), line.keys().words(), row.get()),
                    new Use(
                            line.role(),
                            row.get().account(),
                            line.keys().words(),
                            row.get().words(),
                            line.amount()),
                    (a, b) -> new Use(
                            a.role(),
                            a.account(),
                            a.asked(),
                            a.row(),
                            a.amount().plus(b.amount())));
        }
        return missing.isEmpty()
                ? Decision.of(new Mapped(
                        sums.values().stream()
                                .filter(line -> !line.amount().isZero())
                                .toList(),
                        uses.values().stream()
                                .filter(use -> !use.amount().isZero())
                                .toList()))
                : Decision.refused(missing);
    }
}
