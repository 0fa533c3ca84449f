package app.euthyna.e2e.bench;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Application;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** The benchmark comes to its end: its questions are answered, in a small company. No figure is asserted. */
class BenchTests {

    private static final int ORDERS = 40;
    /** Of the questions about lists, which others ask whole, one of so many. */
    private static final int EVERY = 13;

    @Test
    void everyQuestionIsAnswered() throws Exception {
        try (var company = new Company(
                Application.start("jdbc:h2:mem:bench;DB_CLOSE_DELAY=-1", ORDERS), Path.of("in memory alone"))) {
            Question.stock(company);
            for (int draw = 0; draw < 2; draw++) {
                for (var question : Question.all()) {
                    question.asking().ask(company, draw);
                }
            }
            var lists = new ListTimes(company.lead, 1, 1, EVERY).measure();
            assertThat(lists).hasSizeGreaterThan(150);
            assertThat(lists.keySet())
                    .anyMatch(asked -> asked.contains("/totals?"))
                    .anyMatch(asked -> asked.contains("/groups?"));
        }
    }
}
