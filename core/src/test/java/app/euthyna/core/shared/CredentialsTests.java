package app.euthyna.core.shared;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Names and passwords, and duties that one person should not hold together. Lengths are counted in code points, long
 * phrases are taken and common ones are not, as NIST SP 800-63B, 3.1.1.2, has it (from memory).
 */
class CredentialsTests {

    @ParameterizedTest
    @ValueSource(strings = {"a", "anna", "a.b-c_d", "x9", "0rla"})
    void ofSmallLettersAndDigitsAreNames(String name) {
        assertThat(Credentials.refusals(name, "Anna Berg")).isEmpty();
    }

    /** Among them letters that look like others, and signs that nobody sees. */
    @ParameterizedTest
    @ValueSource(strings = {"", "Anna", "an na", ".anna", "anna-", "\u0430nna", "anna\u200b", "system", "clock", "me"})
    void thatLookLikeOthersOrStandForTheApplicationAreNone(String name) {
        assertThat(Credentials.refusals(name, "Anna Berg"))
                .hasSize(1)
                .allSatisfy(refusal -> assertThat(refusal.sentence()).startsWith("username: "));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " Anna", "Anna\u202e", "Anna\n"})
    void hideNothingInTheNameThatIsShown(String shown) {
        assertThat(Credentials.refusals("anna", shown))
                .hasSize(1)
                .allSatisfy(refusal -> assertThat(refusal.sentence()).startsWith("displayName: "));
    }

    private static List<String> password(String password, boolean isCommon) {
        return Credentials.refusals("anna", password, isCommon).stream()
                .map(Refusal::sentence)
                .toList();
    }

    @Test
    void areLongAndNotTheName() {
        assertThat(password("eleven char", false)).containsExactly("password: at least 12 characters.");
        assertThat(password("twelve chars", false)).isEmpty();
        assertThat(password("xxANNAxxxxxxx", false))
                .containsExactly("password: a password without the user's name in it.");
        assertThat(password("twelve chars", true))
                .containsExactly("password: one that is not among the first to be tried.");
    }

    /** A sign outside the basic plane is one character, and four bytes. */
    @Test
    void areCountedInCharactersAndHeldInBytes() {
        assertThat(password("\uD83D\uDE00".repeat(11), false)).containsExactly("password: at least 12 characters.");
        assertThat(password("\uD83D\uDE00".repeat(18), false)).isEmpty();
        assertThat(password("\uD83D\uDE00".repeat(19), false))
                .containsExactly("password: at most 72 bytes; a letter with an accent counts as two.");
    }

    @Test
    void ofDutiesTellWhatOnePersonShouldNotHold() {
        assertThat(Duties.together(Set.of(Role.CLERK))).isEmpty();
        assertThat(Duties.together(Set.of(Role.WAREHOUSE, Role.AUDITOR))).isEmpty();
        assertThat(Duties.together(Set.of(Role.RECEIVABLES))).containsExactly("records money and refunds money");
        assertThat(Duties.together(Set.of(Role.CONTROLLER)))
                .containsExactly("writes orders and decides on orders", "records money and refunds money");
        assertThat(Duties.together(Set.of(Role.ADMIN))).isEmpty();
        assertThat(Duties.together(Set.of(Role.ADMIN, Role.CLERK)))
                .containsExactly("keeps users and works with documents");
        // who stands in for another holds the duties of both
        assertThat(Duties.together(Set.of(Role.CLERK, Role.RECEIVABLES, Role.ADMIN)))
                .containsExactly("records money and refunds money", "keeps users and works with documents");
    }
}
