package app.euthyna.core.ledger;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.core.goods.Shelf;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import java.util.List;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class EntryTests {

    private static Entry entry(String debit, String credit) {
        return new Entry(
                "J-1",
                TODAY,
                "payment",
                new DocumentRef(DocumentKind.PAYMENT, "P-1"),
                "C",
                List.of(
                        new EntryLine(AccountRole.BANK, "1000", eur(debit)),
                        new EntryLine(AccountRole.RECEIVABLES, "1200", eur(credit))));
    }

    @Nested
    class Balance {

        @Test
        void entryWithUnequalSidesCannotBeCreated() {
            assertThatThrownBy(() -> entry("10.00", "-9.99"))
                    .hasMessage("entry J-1 for payment P-1 is out of balance by EUR 0.01");
        }
    }

    @Nested
    class Hash {

        @Test
        void changesWithEveryFigureAndWithWhatWentBefore() {
            var hash = entry("10.00", "-10.00").hash(Entry.GENESIS);
            assertThat(hash).hasSize(64).isEqualTo(entry("10.00", "-10.00").hash(Entry.GENESIS));
            assertThat(entry("10.01", "-10.01").hash(Entry.GENESIS)).isNotEqualTo(hash);
            assertThat(entry("10.00", "-10.00").hash(hash)).isNotEqualTo(hash);
        }
    }

    @Nested
    class Map {

        private static PostingMap.Row row(String customerClass, String itemClass, String account) {
            return new PostingMap.Row(AccountRole.REVENUE, customerClass, itemClass, "", "", account);
        }

        @Test
        void rowsThatFitAlikeAreAmbiguousUnlessOneIsForBoth() {
            var general = row("", "", "4000");
            var abroad = row("abroad", "", "4100");
            var service = row("", "service", "4200");
            assertThat(new PostingMap(java.util.List.of(general, abroad, service)).ambiguities())
                    .extracting(app.euthyna.core.shared.Refusal::code)
                    .containsExactly("ambiguous-posting-rule");
            assertThat(new PostingMap(java.util.List.of(general, abroad, service, row("abroad", "service", "4300")))
                            .ambiguities())
                    .isEmpty();
            assertThat(new PostingMap(java.util.List.of(general, abroad, row("", "service", "4100"))).ambiguities())
                    .as("both give the same account")
                    .isEmpty();
            assertThat(new PostingMap(java.util.List.of(general, abroad, row("club", "", "4200"))).ambiguities())
                    .as("no combination fits both")
                    .isEmpty();
        }

        private final PostingMap map = new PostingMap(List.of(
                new PostingMap.Row(AccountRole.REVENUE, "", "", "", "", "4000"),
                new PostingMap.Row(AccountRole.REVENUE, "", "service", "", "", "4100"),
                new PostingMap.Row(AccountRole.REVENUE, "abroad", "service", "", "", "4110")));

        @Test
        void mostSpecificRowWins() {
            assertThat(map.row(AccountRole.REVENUE, new Posting.Keys("abroad", "service", "", null))
                            .orElseThrow()
                            .account())
                    .isEqualTo("4110");
            assertThat(map.row(AccountRole.REVENUE, new Posting.Keys("home", "service", "", null))
                            .orElseThrow()
                            .account())
                    .isEqualTo("4100");
            assertThat(map.row(AccountRole.REVENUE, new Posting.Keys("home", "rope", "", null))
                            .orElseThrow()
                            .account())
                    .isEqualTo("4000");
        }

        @Test
        void missingRowRefusesAndNamesTheCombination() {
            var posting = new Posting(
                    "departure",
                    List.of(new Posting.Line(
                            AccountRole.INVENTORY, new Posting.Keys("", "rope", "QUAY", null), eur("1.00"))));
            assertThat(map.map(posting).refusals())
                    .extracting(r -> r.sentence())
                    .containsExactly("The posting map has no account for inventory with item class rope, site QUAY.");
        }
    }

    @Nested
    class MovingAverage {

        /** IAS 2.27, weighted average cost formula; figures invented: 10 at 3.00 and 5 at 4.00 are worth 50.00. */
        @Test
        void goodsLeaveAtTheAverageAndTheLastPieceTakesWhatIsLeft() {
            var shelf = new Shelf("S", "A", q(15), q(15), eur("50.00"));
            var cost = shelf.cost(q(7));
            assertThat(cost).isEqualTo(eur("23.33"));
            assertThat(shelf.issue(q(7), cost).cost(q(8))).isEqualTo(eur("26.67"));
        }
    }
}
