package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.web.servlet.MockMvc;

/** A demo company of 120 orders, of which 60 were lived through and the others are copies. */
@SpringBootTest(
        properties = {
            "euthyna.demo=true",
            "euthyna.demo-orders=120",
            "euthyna.demo-lived=60",
            "spring.datasource.url=jdbc:h2:mem:demo-tests;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024"
        })
@AutoConfigureMockMvc
class DemoTests {

    @Autowired
    MockMvc mvc;

    @Autowired
    JdbcClient jdbc;

    private long count(String sql) {
        return jdbc.sql(sql).query(Long.class).single();
    }

    @Test
    void copiesHaveNumbersOfTheirOwnAndTheBooksAgreeOverAllOfThem() {
        var lead = new Rest(mvc, "lead", "LEAD");
        assertThat(count("select count(*) from sales_order")).isBetween(110L, 130L);
        assertThat(count("select count(*) from sales_order where number like 'SO-%'"))
                .isEqualTo(count("select count(distinct number) from sales_order"));
        assertThat(count("select count(*) - max(cast(substring(number, 6) as bigint)) from invoice"))
                .as("invoice numbers have no gap")
                .isZero();
        var run = lead.post("/api/proofs", "{}").body();
        assertThat(run.get("failing").asInt()).as("%s", run.get("statements")).isZero();

        var entered = lead.post(
                "/api/orders",
                "{\"customer\":\"C109\",\"po\":\"after all\",\"lines\":[{\"item\":\"RP-112\",\"quantity\":2}]}");
        assertThat(entered.status()).as("%s", entered.body()).isEqualTo(200);
        assertThat(lead.get("/api/trails/ORDER/" + entered.text("number")).status())
                .isEqualTo(200);
        assertThat(lead.post("/api/proofs", "{}").body().get("failing").asInt()).isZero();
    }
}
