package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.flow.FoldedChains;
import app.euthyna.server.platform.CompanyClock;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Consumer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Import;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/** A running server over a database of its own, with a fresh customer and item for each test. */
@SpringBootTest(properties = {"euthyna.demo=true", "euthyna.demo-orders=0"})
@AutoConfigureMockMvc
@Import({FoldedChains.class, LockOrder.class, Statements.class})
abstract class OnServer {

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry properties) {
        Databases.named("server-tests", properties);
    }

    @Autowired
    MockMvc mvc;

    @Autowired
    JdbcClient jdbc;

    @Autowired
    CompanyClock clock;

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
        lead = new Rest(mvc, "lead", "LEAD");
        admin = new Rest(mvc, "admin", "ADMIN");
        assertThat(admin.post(
                                "/api/customers",
                                "{\"code\":\"%s\",\"name\":\"Customer %s\",\"creditLimit\":100000}"
                                        .formatted(customer, suffix))
                        .status())
                .isEqualTo(200);
        freshItem();
    }

    /** An item of its own, of which there are 1000. */
    void freshItem() {
        item = "I-" + UUID.randomUUID().toString().substring(0, 8);
        assertThat(admin.post("/api/items", """
            {"code":"%s","name":"Item","kind":"STOCK","price":10.00,"vatCategory":"S","vatRate":21}\
            """.formatted(item)).status()).isEqualTo(200);
        assertThat(warehouse
                        .post(
                                "/api/stock-receipts",
                                "{\"item\":\"%s\",\"quantity\":1000,\"unitCost\":4}".formatted(item))
                        .status())
                .isEqualTo(200);
    }

    /** Another customer, who knows nothing of the first. */
    String anotherCustomer() {
        var other = "O-" + UUID.randomUUID().toString().substring(0, 8);
        assertThat(admin.post(
                                "/api/customers",
                                "{\"code\":\"%s\",\"name\":\"Another\",\"creditLimit\":100000}".formatted(other))
                        .status())
                .isEqualTo(200);
        return other;
    }

    @AfterEach
    void itIsTodayAgain() {
        clock.reset();
    }

    @AfterEach
    void locksWereTakenInTheirTurn() {
        var outOfTurn = List.copyOf(LockOrder.OUT_OF_TURN);
        LockOrder.OUT_OF_TURN.clear();
        assertThat(outOfTurn).isEmpty();
    }

    static LocalDate realToday() {
        return LocalDate.now(ZoneId.systemDefault());
    }

    /** The company's clock moves on. */
    void itIsInDays(int days) {
        clock.set(realToday().plusDays(days));
    }

    String order(String po, int quantity) {
        return "{\"customer\":\"%s\",\"po\":\"%s\",\"lines\":[{\"item\":\"%s\",\"quantity\":%d}]}"
                .formatted(customer, po, item, quantity);
    }

    String cleared(int quantity) {
        var number = clerk.post("/api/orders", order("M-" + UUID.randomUUID(), quantity))
                .text("number");
        assertThat(clerk.get("/api/orders/" + number).text("state")).isEqualTo("CLEARED");
        return number;
    }

    String versionOf(String path) {
        return auditor.get(path).text("version");
    }

    Rest.Answer staged(String order) {
        return warehouse.post(
                "/api/dispatches",
                "{\"order\":\"%s\",\"version\":%s}".formatted(order, versionOf("/api/orders/" + order)));
    }

    String gone(String order) {
        var note = staged(order);
        assertThat(warehouse
                        .post(
                                "/api/dispatches/" + note.text("number") + "/departure",
                                "{\"version\":%s}".formatted(note.text("version")))
                        .status())
                .isEqualTo(200);
        return note.text("number");
    }

    Rest.Answer billed(String order) {
        return receivables.post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(order));
    }

    Rest.Answer deposited(String order, String amount) {
        return receivables.post("/api/deposits", "{\"order\":\"%s\",\"amount\":%s}".formatted(order, amount));
    }

    /** Money of the customer for one invoice. */
    Rest.Answer paid(String invoice, String amount) {
        return receivables.post(
                "/api/payments",
                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s}]}"
                        .formatted(customer, amount, invoice, amount));
    }

    /** Publishes the rules in force with something of them changed. */
    void rules(Consumer<ObjectNode> change) {
        var rules = (ObjectNode) lead.get("/api/rules").body();
        rules.remove("changes");
        rules.put("reason", "for the test");
        change.accept(rules);
        assertThat(lead.send(
                                "PUT",
                                "/api/rules",
                                rules.toString(),
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
    }

    /** Publishes limits of roles; nothing else of the rules changes. */
    void limits(String refund, String goodsForNothing) {
        rules(rules -> {
            var limits = (ObjectNode) rules.get("limits");
            limits.set("refund", new ObjectMapper().readTree(refund));
            limits.set("goodsForNothing", new ObjectMapper().readTree(goodsForNothing));
        });
    }

    Map<String, BigDecimal> balances() {
        var balances = new TreeMap<String, BigDecimal>();
        auditor.get("/api/ledger/role-balances")
                .body()
                .forEach(row -> balances.put(
                        row.get("role").asString(),
                        new BigDecimal(row.get("balance").asString())));
        return balances;
    }

    /** What moved between two looks, role by role; nothing that did not. */
    static Map<String, String> moved(Map<String, BigDecimal> before, Map<String, BigDecimal> after) {
        var moved = new TreeMap<String, String>();
        after.forEach((role, balance) -> {
            var by = balance.subtract(before.getOrDefault(role, BigDecimal.ZERO));
            if (by.signum() != 0) {
                moved.put(role, by.toPlainString());
            }
        });
        return moved;
    }

    void booksAgree() {
        var statements = controller.post("/api/proofs", "{}").body().get("statements");
        assertThat(statements).hasSize(17);
        statements.forEach(
                s -> assertThat(s.get("failures")).as(s.get("words").asString()).isEmpty());
    }

    void agrees(String kind, String number) {
        auditor.get("/api/proofs/" + kind + "/" + number)
                .body()
                .get("statements")
                .forEach(s -> assertThat(s.get("failures")).as(s.toString()).isEmpty());
    }
}
