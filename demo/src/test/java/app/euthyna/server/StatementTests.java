package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What is asked often asks the database a number of questions that does not grow with the document. */
class StatementTests extends OnServer {

    @Autowired
    private Numbers numbers;

    @Autowired
    private Locks locks;

    @Autowired
    private TransactionTemplate transactions;

    private static final EnumSet<DocumentKind> WITHOUT_A_GAP =
            EnumSet.of(DocumentKind.INVOICE, DocumentKind.CREDIT_NOTE, DocumentKind.ENTRY);

    private String order(int lines) {
        return "{\"customer\":\"%s\",\"po\":\"%s\",\"lines\":[%s]}"
                .formatted(
                        customer,
                        UUID.randomUUID(),
                        String.join(
                                ",", Collections.nCopies(lines, "{\"item\":\"%s\",\"quantity\":1}".formatted(item))));
    }

    private record Documents(String order, String dispatch, String invoice) {}

    private Documents documents(int lines) {
        var number = clerk.post("/api/orders", order(lines)).text("number");
        var dispatch = warehouse.post(
                "/api/dispatches",
                "{\"order\":\"%s\",\"version\":%s}"
                        .formatted(number, clerk.get("/api/orders/" + number).text("version")));
        warehouse.post(
                "/api/dispatches/" + dispatch.text("number") + "/departure",
                "{\"version\":%s}".formatted(dispatch.text("version")));
        var invoice = receivables.post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(number));
        assertThat(invoice.status()).as("%s", invoice.body()).isEqualTo(200);
        return new Documents(
                number,
                dispatch.text("number"),
                jdbc.sql("select i.number from invoice i join invoice_line l on l.invoice_id = i.id"
                                + " join sales_order o on o.id = l.root_order_id where o.number = ?"
                                + " fetch first 1 rows only")
                        .param(number)
                        .query(String.class)
                        .single());
    }

    private List<String> asked(String path) {
        return Statements.of(() -> {
            var answer = controller.get(path);
            assertThat(answer.status()).as("%s: %s", path, answer.body()).isEqualTo(200);
        });
    }

    @Test
    void areTheSameForAShortAndALongDocument() {
        var few = documents(1);
        var many = documents(30);
        for (var path : List.of(
                "/api/orders/ORDER",
                "/api/review/ORDER",
                "/api/trails/ORDER/ORDER_",
                "/api/dispatches/DISPATCH",
                "/api/invoices/INVOICE")) {
            var ofFew = asked(of(path, few));
            var ofMany = asked(of(path, many));
            assertThat(ofFew).as(path).isNotEmpty().hasSizeLessThan(45);
            assertThat(ofMany).as(path).hasSameSizeAs(ofFew);
        }
    }

    private static String of(String path, Documents documents) {
        return path.replace("ORDER_", documents.order())
                .replaceFirst("(orders|review)/ORDER", "$1/" + documents.order())
                .replace("DISPATCH", documents.dispatch())
                .replace("INVOICE", documents.invoice());
    }

    /**
     * H2 looks an array up in the first column of an index only; otherwise it reads all that the columns before it
     * leave.
     */
    @Test
    void lookArraysUpByAnIndex() {
        assumeThat(Databases.onH2()).as("the plans are H2's").isTrue();
        var some = documents(2);
        var asked = List.of(
                        "/api/orders/ORDER", "/api/review/ORDER", "/api/trails/ORDER/ORDER_", "/api/invoices/INVOICE")
                .stream()
                .flatMap(path -> asked(of(path, some)).stream())
                .filter(sql -> sql.contains(" = any(?)"))
                .distinct()
                .toList();
        assertThat(asked).hasSizeGreaterThan(10);
        for (var sql : asked) {
            var plan = jdbc.sql("explain " + sql).query(String.class).single();
            var arrays = Pattern.compile("\"(\\w+)\" = ANY\\(").matcher(plan);
            while (arrays.find()) {
                assertThat(plan).as(sql).containsPattern("/\\* PUBLIC\\.\\w+: [^/]*\\b" + arrays.group(1) + " IN\\(");
            }
        }
    }

    @Test
    void ofAListAreTheSameHoweverLongItIs() {
        documents(1);
        var before = asked("/api/orders?customer=" + customer);
        documents(1);
        documents(2);
        assertThat(asked("/api/orders?customer=" + customer)).isEqualTo(before);
    }

    private static List<String> updates(String table, List<String> statements) {
        return statements.stream()
                .filter(sql -> sql.startsWith("update " + table + " "))
                .toList();
    }

    @Test
    void writeAnOrderThatIsStartedFromAnotherOnce() {
        var first = documents(3).order();
        var written = Statements.of(() -> assertThat(
                        clerk.post("/api/orders/started", "{\"kind\":\"ORDER\",\"number\":\"%s\"}".formatted(first))
                                .status())
                .isEqualTo(200));
        assertThat(written)
                .filteredOn(sql -> sql.startsWith("insert into sales_order_line "))
                .hasSize(3);
        assertThat(updates("sales_order", written)).isEmpty();
        assertThat(updates("sales_order_line", written)).isEmpty();
    }

    /** With the eight by which {@code FoldedChains} reads the chain again; there were 83 of them once. */
    @Test
    void ofAnOrderWithItsChecksAreFew() {
        documents(1);
        var written = Statements.of(
                () -> assertThat(clerk.post("/api/orders", order(1)).status()).isEqualTo(200));
        assertThat(written).hasSizeLessThan(70);
        assertThat(updates("sales_order", written))
                .as("its PO is taken, it is let go, its version moves")
                .hasSize(3);
    }

    @Test
    void writeNoFindingThatStaysAsItWas() {
        var order = clerk.post("/api/orders", order("F-" + UUID.randomUUID(), 20000))
                .text("number");
        var found = jdbc.sql("select count(*) from finding f join sales_order o on o.id = f.order_id"
                        + " where o.number = ?")
                .param(order)
                .query(Long.class)
                .single();
        assertThat(found)
                .as("findings of an order over the limit and over the stock")
                .isGreaterThan(1);
        var written = Statements.of(() -> assertThat(controller
                        .post(
                                "/api/orders/" + order + "/waivers",
                                "{\"version\":%s,\"findings\":[\"credit-limit\"],\"reason\":\"agreed\"}"
                                        .formatted(versionOf("/api/orders/" + order)))
                        .status())
                .isEqualTo(200));
        assertThat(updates("finding", written)).hasSize(1);
    }

    /** SQL of our own is for row locks, number series and the proof of the books, and there is little of it. */
    @Test
    void inSqlOfOurOwnAreFew() {
        var sent = Statements.nativeOf(() -> {
            documents(2);
            transactions.executeWithoutResult(status -> {
                EnumSet.complementOf(WITHOUT_A_GAP).forEach(numbers::next);
                locks.quotas(List.of(item));
                locks.shelves(List.of(item));
            });
            assertThat(controller.post("/api/proofs", "{}").status()).isEqualTo(200);
        });
        assertThat(sent)
                .as("locks of rows, and the proof of the books")
                .anyMatch(sql -> sql.matches("(?s).* for (no key )?update"))
                .anyMatch(sql -> sql.contains("journal_line"))
                .hasSizeBetween(20, 40);
    }

    @Test
    void makeNoTableThatNoMigrationMade() {
        assertThat(jdbc.sql("select table_name from information_schema.tables where table_type like '%TEMPORARY%'"
                                + " or table_name like 'HTE%'")
                        .query(String.class)
                        .list())
                .isEmpty();
    }
}
