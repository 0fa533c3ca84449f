package app.euthyna.core.ledger;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class ManualPostingTests {

    private static final Person LEAD = new Person("lead", Role.LEAD);
    private static final Map<String, Set<AccountRole>> ACCOUNTS = Map.of(
            "1200", Set.of(AccountRole.RECEIVABLES),
            "6000", Set.of(),
            "6100", Set.of());

    private static Decision<Effect.ManualEntryPosted> posted(Person person, String reason, Effect.ManualLine... lines) {
        return ManualPosting.post("ME-1", List.of(lines), ACCOUNTS, person, reason, EUR);
    }

    private static Effect.ManualLine line(String account, String amount) {
        return new Effect.ManualLine(account, eur(amount));
    }

    private static List<String> sentences(Decision<?> decision) {
        return decision.refusals().stream().map(Refusal::sentence).toList();
    }

    @Test
    void goesThroughWhereDebitsEqualCredits() {
        var entry = posted(LEAD, "rent", line("6000", "10.00"), line("6100", "-10.00"))
                .get();
        assertThat(entry.number()).isEqualTo("ME-1");
        assertThat(entry.lines()).hasSize(2);
    }

    @ParameterizedTest
    @EnumSource(value = Role.class, mode = EnumSource.Mode.EXCLUDE, names = "LEAD")
    void isForTheFinanceLeadAlone(Role role) {
        assertThat(posted(new Person("x", role), "rent", line("6000", "10.00"), line("6100", "-10.00"))
                        .refusals())
                .extracting(Refusal::code)
                .containsExactly("not-authorised");
    }

    /** All that speaks against it is told at once. */
    @Test
    void needsAReasonTwoLinesAndABalance() {
        assertThat(sentences(posted(LEAD, " ", line("6000", "10.00"))))
                .containsExactly(
                        "reason: a reason for the entry.",
                        "lines: at least two lines, each with an amount.",
                        "lines: debits that equal credits; they differ by " + eur("10.00") + ".");
        assertThat(sentences(posted(LEAD, "rent", line("6000", "10.00"), line("9999", "-10.00"))))
                .containsExactly("There is no account 9999.");
    }

    @Test
    void aLineOfNothingIsNoLine() {
        assertThat(sentences(posted(LEAD, "rent", line("6000", "10.00"), line("6100", "-10.00"), line("6100", "0.00"))))
                .containsExactly("lines: at least two lines, each with an amount.");
    }

    /** What documents account for to the cent takes no manual entry (common practice). */
    @Test
    void keepsOffAccountsThatDocumentsAccountFor() {
        assertThat(sentences(posted(LEAD, "rent", line("1200", "10.00"), line("6000", "-10.00"))))
                .containsExactly("Account 1200 is a control account (receivables); it takes no manual entries.");
    }

    @Test
    void countsUnderTheAccountsOnlyRole() {
        assertThat(ManualPosting.role(Set.of(AccountRole.COGS))).isEqualTo(AccountRole.COGS);
        assertThat(ManualPosting.role(Set.of())).isEqualTo(AccountRole.OTHER);
        assertThat(ManualPosting.role(EnumSet.of(AccountRole.COGS, AccountRole.REVENUE)))
                .isEqualTo(AccountRole.OTHER);
    }
}
