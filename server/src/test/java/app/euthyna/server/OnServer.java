package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.flow.FoldedChains;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Import;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.web.servlet.MockMvc;

/** A running server over a database of its own, with a fresh customer and item for each test. */
@SpringBootTest(properties = {"euthyna.demo=true", "euthyna.demo-orders=0",
    "spring.datasource.url=jdbc:h2:mem:server-tests;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024"})
@AutoConfigureMockMvc
@Import(FoldedChains.class)
abstract class OnServer {

    @Autowired
    MockMvc mvc;
    @Autowired
    JdbcClient jdbc;

    Rest clerk;
    Rest controller;
    Rest warehouse;
    Rest receivables;
    Rest auditor;
    Rest lead;
    Rest admin;
    String customer;
    String item;

    @BeforeEach
    void freshCustomerAndItem() {
        clerk = new Rest(mvc, "clerk", "CLERK");
        controller = new Rest(mvc, "controller", "CONTROLLER");
        warehouse = new Rest(mvc, "warehouse", "WAREHOUSE");
        receivables = new Rest(mvc, "receivables", "RECEIVABLES");
        auditor = new Rest(mvc, "auditor", "AUDITOR");
        var suffix = UUID.randomUUID().toString().substring(0, 8);
        customer = "C-" + suffix;
        item = "I-" + suffix;
        lead = new Rest(mvc, "lead", "LEAD");
        admin = new Rest(mvc, "admin", "ADMIN");
        assertThat(admin.post("/api/customers", "{\"code\":\"%s\",\"name\":\"Customer %s\",\"creditLimit\":100000}".formatted(customer, suffix)).status()).isEqualTo(200);
        assertThat(admin.post("/api/items", """
                {"code":"%s","name":"Item","kind":"STOCK","price":10.00,"vatCategory":"S","vatRate":21}""".formatted(item)).status()).isEqualTo(200);
        assertThat(warehouse.post("/api/stock-receipts", "{\"item\":\"%s\",\"quantity\":1000,\"unitCost\":4}".formatted(item)).status()).isEqualTo(200);
    }

    String order(String po, int quantity) {
        return "{\"customer\":\"%s\",\"po\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":%d}]}".formatted(customer, po, item, quantity);
    }
}
