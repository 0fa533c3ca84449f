package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationVersion;
import org.h2.jdbcx.JdbcDataSource;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.jdbc.core.simple.JdbcClient;

/** A database of an earlier version is brought to the words of today, and nothing that people wrote is touched. */
class MigrationTests {

    private JdbcDataSource source;
    private JdbcClient jdbc;

    @BeforeEach
    void anEarlierDatabase() {
        source = new JdbcDataSource();
        source.setUrl("jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1");
        jdbc = JdbcClient.create(source);
        migrate("9");
    }

    private void migrate(String version) {
        Flyway.configure()
                .dataSource(source)
                .locations("classpath:db/migration")
                .target(MigrationVersion.fromVersion(version))
                .load()
                .migrate();
    }

    private void happened(String kind, String number, String sentence) {
        jdbc.sql(
                        "insert into history (document_kind, document_number, event, happened_on, at, by_user, sentence)"
                                + " values (?, ?, 'x', date '2026-03-02', timestamp with time zone '2026-03-02 10:00:00Z', 'clerk', ?)")
                .params(kind, number, sentence)
                .update();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', ignoreLeadingAndTrailingWhitespace = true, textBlock = """
            ORDER   | handed in                                                     | submitted
            ORDER   | let pass: Credit limit: agreed, let pass: once                | waived: Credit limit: agreed, let pass: once
            DEPOSIT | set against invoice 2026-00007                                | applied to invoice 2026-00007
            DEPOSIT | taken off invoice 2026-00007: posted by hand                  | unapplied from invoice 2026-00007: posted by hand
            DEPOSIT | EUR 30.00 turned into customer credit                         | EUR 30.00 moved to customer credit
            REFUND  | EUR 9.00 of deposit DP-1 given back: wrong                    | EUR 9.00 of deposit DP-1 refunded: wrong
            ORDER   | 4 of item RP-112, held for line 1, handed over to order SO-2  | 4 of item RP-112, reserved for line 1, transferred to order SO-2
            ORDER   | 4 of item RP-112 taken over for line 1 from order SO-1        | 4 of item RP-112 transferred to line 1 from order SO-1
            ORDER   | sent back: the count corrected by hand                        | sent back: the count corrected by hand
            """)
    void sentencesOfTheHistoryAreReworded(String kind, String before, String after) {
        happened(kind, "N-1", before);
        migrate("10");
        assertThat(jdbc.sql("select sentence from history").query(String.class).single())
                .isEqualTo(after);
    }

    @Test
    void tablesAndStoredNamesCarryTheWordsOfTheGlossary() {
        happened("STOCK_CORRECTION", "SC-1001", "count corrected: found behind the ropes");
        jdbc.sql("insert into sweep_run (run_on, started_at)"
                        + " values (date '2026-03-02', timestamp with time zone '2026-03-02 04:00:00Z')")
                .update();
        migrate("10");
        assertThat(jdbc.sql("select document_kind || ' ' || document_number || ' ' || sentence from history")
                        .query(String.class)
                        .single())
                .isEqualTo("STOCK_COUNT SC-1001 stock counted: found behind the ropes");
        assertThat(jdbc.sql("select count(*) from daily_recheck")
                        .query(Long.class)
                        .single())
                .isEqualTo(1);
        for (var table :
                new String[] {"sales_agreement", "sales_agreement_line", "import_log", "company_rules", "stock_count"
                }) {
            assertThat(jdbc.sql("select count(*) from " + table)
                            .query(Long.class)
                            .single())
                    .as(table)
                    .isZero();
        }
    }

    /** Where the goods go stood in the details of an order alone, as JSON. */
    @Test
    void ordersSayWhereTheirGoodsGoInAColumnOfItsOwn() {
        migrate("25");
        jdbc.sql(
                        "insert into customer (id, code, name, town, search_key, customer_class, credit_limit, terms_days,"
                                + " vat_treatment, po_required, po_same, po_alike, po_near, own_approval, version)"
                                + " values (1, 'C1', 'A', 'B', 'a', 'X', 0, 30, 'DOMESTIC', false, 'HARD', 'HARD', 'HARD', false, 0)")
                .update();
        jdbc.sql("insert into site (id, code, name) values (1, 'S', 'Store')").update();
        order(
                1,
                "{\"externalReference\":\"\",\"revenueUnit\":\"\",\"shipTo\":{\"name\":\"The \\\"Quay\\\"\",\"street\":"
                        + "\"Mole Road 1\",\"postcode\":\"9000\",\"town\":\"Anport\",\"country\":\"\"},\"fields\":{}}");
        order(2, null);
        migrate("26");
        assertThat(jdbc.sql("select ship_to from sales_order order by id")
                        .query(String.class)
                        .list())
                .containsExactly("The \"Quay\", Mole Road 1, 9000 Anport", "");
    }

    private void order(int id, String details) {
        jdbc.sql("insert into sales_order (id, number, kind, state, customer_id, po, po_normal, po_folded, site_id,"
                        + " ordered_on, requested_on, remark, author, last_editor, net, vat, gross, version, details)"
                        + " values (?, ?, 'STANDARD', 'DRAFT', 1, '', '', '', 1, date '2026-03-02', date '2026-03-02',"
                        + " '', 'clerk', 'clerk', 0, 0, 0, 0, ?)")
                .params(id, "SO-" + id, details)
                .update();
    }
}
