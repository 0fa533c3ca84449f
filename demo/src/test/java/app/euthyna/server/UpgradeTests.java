package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.condition.DisabledIfSystemProperty;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;

/**
 * A database that an earlier version wrote, with rows in every table, is opened by this one: figures and hashes are
 * what they were, the books agree, and work goes on in it. The script was written by H2's {@code script} from the demo
 * company of 60 orders, in which that version's own tests had worked after it; it can be read by H2 alone, so this is
 * no test of PostgreSQL.
 */
@SpringBootTest(properties = {"euthyna.demo=true", "euthyna.demo-orders=0"})
@AutoConfigureMockMvc
@DisabledIfSystemProperty(named = "euthyna.database", matches = "postgres")
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class UpgradeTests {

    private static final String DATABASE = "jdbc:h2:mem:upgrade;DB_CLOSE_DELAY=-1";

    /** What is worked off at once, and ends when nobody is signed in. */
    private static final Set<String> PASSING =
            Set.of("OFFER_QUEUE", "RECHECK_QUEUE", "SPRING_SESSION", "SPRING_SESSION_ATTRIBUTES");

    /** Rows that migrations have added: accounts for what later versions post. */
    private static final Map<String, Long> ADDED = Map.of("ACCOUNT", 3L, "POSTING_RULE", 3L);

    private static final List<String> FIGURES = List.of(
            "select account, sum(amount), count(*) from journal_line group by account order by account",
            "select entry_date, sum(abs(amount)) from journal_line group by entry_date order by entry_date",
            "select customer_id, sum(gross), sum(open_amount) from invoice group by customer_id order by customer_id",
            "select customer_id, kind, sum(amount), sum(left_amount) from payment group by customer_id, kind"
                    + " order by customer_id, kind",
            "select customer_id, sum(amount), sum(left_amount) from deposit group by customer_id order by customer_id",
            "select site_id, item_id, on_hand, reserved, stock_value from shelf order by site_id, item_id",
            "select state, count(*), sum(gross) from sales_order group by state order by state",
            "select series, next_value from number_series order by series");

    private static Map<String, Long> rowsBefore;
    private static List<List<List<Object>>> figuresBefore;
    private static List<List<Object>> hashesBefore;

    @Autowired
    private MockMvc mvc;

    @Autowired
    private JdbcClient jdbc;

    @DynamicPropertySource
    static void anEarlierDatabase(DynamicPropertyRegistry properties) throws SQLException {
        try (var connection = DriverManager.getConnection(DATABASE, "sa", "");
                var statement = connection.createStatement()) {
            statement.execute("runscript from 'classpath:/upgrade/v14.sql.gz' compression gzip");
        }
        var before = JdbcClient.create(new DriverManagerDataSource(DATABASE, "sa", ""));
        rowsBefore = rows(before);
        figuresBefore = figures(before);
        hashesBefore = hashes(before);
        properties.add("spring.datasource.url", () -> DATABASE);
    }

    private static Map<String, Long> rows(JdbcClient jdbc) {
        var rows = new TreeMap<String, Long>();
        jdbc.sql("select table_name from information_schema.tables where table_schema = 'PUBLIC'"
                        + " and table_name <> 'flyway_schema_history'")
                .query(String.class)
                .list()
                .forEach(table -> rows.put(
                        table,
                        jdbc.sql("select count(*) from " + table)
                                .query(Long.class)
                                .single()));
        return rows;
    }

    private static List<List<Object>> answers(JdbcClient jdbc, String question) {
        return jdbc.sql(question)
                .query((row, number) -> {
                    var values = new ArrayList<Object>();
                    for (int at = 1; at <= row.getMetaData().getColumnCount(); at++) {
                        values.add(row.getObject(at));
                    }
                    return (List<Object>) values;
                })
                .list();
    }

    private static List<List<List<Object>>> figures(JdbcClient jdbc) {
        return FIGURES.stream().map(question -> answers(jdbc, question)).toList();
    }

    private static List<List<Object>> hashes(JdbcClient jdbc) {
        return answers(jdbc, "select number, previous_hash, hash from journal_entry order by id");
    }

    private void booksAgree() {
        new Rest(mvc, "controller", "CONTROLLER")
                .post("/api/proofs", "{}")
                .body()
                .get("statements")
                .forEach(s -> assertThat(s.get("failures"))
                        .as(s.get("words").asString())
                        .isEmpty());
    }

    /** While the schema changes, commits may wait; a command that is answered never does. */
    @Test
    @Order(1)
    void commitsAreWrittenAtOnceAgain() {
        assertThat(jdbc.sql("select setting_value from information_schema.settings where setting_name = 'WRITE_DELAY'")
                        .query(String.class)
                        .list())
                .isNotEmpty()
                .containsOnly("0");
    }

    @Test
    @Order(1)
    void hasRowsOfEveryKind() {
        assertThat(rowsBefore).hasSizeGreaterThan(90);
        rowsBefore.forEach((table, count) -> {
            if (!PASSING.contains(table)) {
                assertThat(count).as(table).isPositive();
            }
        });
    }

    @Test
    @Order(2)
    void keepsItsRowsFiguresAndHashes() {
        var after = rows(jdbc);
        rowsBefore.forEach((table, count) -> {
            if (!PASSING.contains(table)) {
                assertThat(after).as(table).containsEntry(table, count + ADDED.getOrDefault(table, 0L));
            }
        });
        var figuresAfter = figures(jdbc);
        for (int at = 0; at < FIGURES.size(); at++) {
            assertThat(figuresBefore.get(at)).isNotEmpty();
            assertThat(figuresAfter.get(at)).as(FIGURES.get(at)).isEqualTo(figuresBefore.get(at));
        }
        assertThat(hashesBefore).hasSizeGreaterThan(500);
        assertThat(hashes(jdbc)).isEqualTo(hashesBefore);
    }

    @Test
    @Order(3)
    void isProvedAsItIs() {
        booksAgree();
    }

    /** Whatever gives ids and numbers now begins behind all that are there. */
    @Test
    @Order(4)
    void isGoneOnWith() {
        var admin = new Rest(mvc, "admin", "ADMIN");
        var lead = new Rest(mvc, "lead", "LEAD");
        assertThat(admin.post("/api/customers", "{\"code\":\"UP-1\",\"name\":\"Upgraded\",\"creditLimit\":100000}")
                        .status())
                .isEqualTo(200);
        assertThat(admin.post("/api/items", """
            {"code":"UP-1","name":"Item","kind":"STOCK","price":10.00,"vatCategory":"S","vatRate":21}\
            """).status()).isEqualTo(200);
        assertThat(lead.post("/api/stock-receipts", "{\"item\":\"UP-1\",\"quantity\":10,\"unitCost\":4}")
                        .status())
                .isEqualTo(200);
        var highest =
                jdbc.sql("select max(id) from sales_order").query(Long.class).single();
        var order = lead.post(
                "/api/orders",
                "{\"customer\":\"UP-1\",\"po\":\"%s\",\"lines\":[{\"item\":\"UP-1\",\"quantity\":3}]}"
                        .formatted(UUID.randomUUID()));
        assertThat(order.text("state")).isEqualTo("CLEARED");
        var number = order.text("number");
        assertThat(jdbc.sql("select id from sales_order where number = ?")
                        .param(number)
                        .query(Long.class)
                        .single())
                .isGreaterThan(highest);
        var note = lead.post(
                "/api/dispatches", "{\"order\":\"%s\",\"version\":%s}".formatted(number, order.text("version")));
        assertThat(lead.post(
                                "/api/dispatches/" + note.text("number") + "/departure",
                                "{\"version\":%s}".formatted(note.text("version")))
                        .status())
                .isEqualTo(200);
        var invoice = lead.post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(number));
        assertThat(new BigDecimal(invoice.text("gross"))).isEqualByComparingTo("36.30");
        booksAgree();
    }
}
