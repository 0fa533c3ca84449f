package app.euthyna.core.ledger;

import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import java.util.List;

/**
 * What an event asks to be posted, by role, before accounts are known.
 *
 * @param event in words, as it stands in the journal
 */
public record Posting(String event, List<Line> lines) {

    /** An amount for a role, debit positive, with what the posting map may look at. */
    public record Line(AccountRole role, Keys keys, Money amount) {}

    /**
     * What narrows down the account; empty text and null where it does not apply.
     *
     * @param vat category and rate, for output VAT only
     */
    public record Keys(String customerClass, String itemClass, String site, Vat vat) {

        public static final Keys NONE = new Keys("", "", "", null);

        String words() {
            var words = new StringBuilder();
            append(words, "customer class", customerClass);
            append(words, "item class", itemClass);
            append(words, "site", site);
            append(words, "VAT", vat == null ? "" : vat.category() + " " + Figures.plain(vat.ratePercent()) + " %");
            return words.toString();
        }

        private static void append(StringBuilder words, String name, String value) {
            if (!value.isEmpty()) {
                words.append(words.isEmpty() ? "" : ", ")
                        .append(name)
                        .append(' ')
                        .append(value);
            }
        }
    }

    public Posting {
        lines = List.copyOf(lines);
    }
}
