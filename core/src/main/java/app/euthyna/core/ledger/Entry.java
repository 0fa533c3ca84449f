package app.euthyna.core.ledger;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.LocalDate;
import java.util.HexFormat;
import java.util.List;

/**
 * A journal entry. It balances, or it can't exist.
 *
 * @param customer whose balance it moves, or empty
 */
public record Entry(
        String number, LocalDate date, String event, DocumentRef document, String customer, List<EntryLine> lines) {

    /** What stands before the first entry of the chain. */
    public static final String GENESIS = "0".repeat(64);

    /** What the event of an entry begins with that undoes another. */
    static final String REVERSAL = "reversal: ";

    public Entry {
        lines = List.copyOf(lines);
        if (lines.isEmpty()) {
            throw new IllegalArgumentException("entry " + number + " has no lines");
        }
        var sum = lines.stream()
                .map(EntryLine::amount)
                .reduce(Money.zero(lines.get(0).amount().currency()), Money::plus);
        if (!sum.isZero()) {
            throw new IllegalArgumentException("entry " + number + " for " + document + " is out of balance by " + sum);
        }
    }

    /** The entry that undoes this one, line by line; it belongs to the same document and customer. */
    public Entry mirror(String mirrorNumber, LocalDate on) {
        return new Entry(
                mirrorNumber,
                on,
                REVERSAL + event,
                document,
                customer,
                lines.stream()
                        .map(line -> new EntryLine(
                                line.role(), line.account(), line.amount().negated()))
                        .toList());
    }

    /** SHA-256 over the canonical entry and the previous entry's hash, in hexadecimal. */
    public String hash(String previous) {
        try {
            var digest = MessageDigest.getInstance("SHA-256");
            return HexFormat.of()
                    .formatHex(digest.digest((previous + "\n" + canonical()).getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException missing) {
            throw new IllegalStateException("every Java platform has SHA-256", missing);
        }
    }

    private String canonical() {
        var text = new StringBuilder(String.join(
                "|", number, date.toString(), event, document.kind().sealedName(), document.number(), customer));
        for (var line : lines) {
            text.append('\n')
                    .append(String.join(
                            "|",
                            line.role().code(),
                            line.account(),
                            line.amount().amount().toPlainString(),
                            line.amount().currency().getCurrencyCode()));
        }
        return text.toString();
    }
}
