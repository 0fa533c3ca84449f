package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.DocumentKind;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import tools.jackson.databind.JsonNode;

/** A demo company of 180 orders, of which 60 were lived through by the services and the others are copies. */
@SpringBootTest(properties = {"euthyna.demo=true", "euthyna.demo-orders=180", "euthyna.demo-lived=60"})
@AutoConfigureMockMvc
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class DemoTests {

    private static final int TIMES = 3;
    /** So many documents of a kind are taken back. */
    private static final int MANY = 30;

    /** Where documents of each kind are numbered. */
    private static final Map<DocumentKind, String> TABLES = new EnumMap<>(Map.of(
            DocumentKind.ORDER, "sales_order",
            DocumentKind.CANCELLATION, "cancellation",
            DocumentKind.DISPATCH, "dispatch",
            DocumentKind.INVOICE, "invoice",
            DocumentKind.PAYMENT, "payment",
            DocumentKind.DEPOSIT, "deposit",
            DocumentKind.REFUND, "refund",
            DocumentKind.RETURN, "goods_return",
            DocumentKind.CREDIT_NOTE, "credit_note",
            DocumentKind.UNEXPECTED_GOODS, "unexpected_goods"));

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry properties) {
        Databases.named("demo-tests", properties);
    }

    @Autowired
    MockMvc mvc;

    @Autowired
    JdbcClient jdbc;

    /** What a customer owes by the ledger. */
    private static final String OWED = """
            select coalesce(sum(l.amount), 0) from journal_line l
            join journal_entry e on e.id = l.entry_id
            join customer c on c.id = e.customer_id
            where c.code = ? and l.role in ('receivables', 'customer_credit', 'deposits')""";

    private static BigDecimal amount(JsonNode of, String field) {
        return new BigDecimal(of.get(field).asString());
    }

    private long count(String sql) {
        return jdbc.sql(sql).query(Long.class).single();
    }

    private List<String> texts(String sql) {
        return jdbc.sql(sql).query(String.class).list();
    }

    @Test
    void copiesHaveNumbersOfTheirOwnAndTheBooksAgreeOverAllOfThem() {
        var lead = new Rest(mvc, "lead", "LEAD");
        assertThat(count("select count(*) from sales_order")).isBetween(150L, 300L);
        assertThat(count("select count(*) from sales_order where number like 'SO-%'"))
                .isEqualTo(count("select count(distinct number) from sales_order"));
        assertThat(count("select count(*) - max(cast(substring(number, 6) as bigint)) from invoice"))
                .as("invoice numbers have no gap")
                .isZero();
        var run = lead.post("/api/proofs", "{}").body();
        assertThat(run.get("failing").asInt()).as("%s", run.get("statements")).isZero();
    }

    /**
     * A customer's statement begins at nothing and comes to what the ledger says, row by row and however it is cut into
     * days; what is open comes to the same; and each order, dispatch and return stands in it.
     */
    @Test
    void statementOfEveryCustomerHasAllItsDocumentsAndComesToWhatTheLedgerSays() {
        var lead = new Rest(mvc, "lead", "LEAD");
        var ends = "from=2001-01-01&to=2999-12-31";
        var told = new HashMap<String, Integer>();
        for (var code : texts("select code from customer order by id")) {
            var all = lead.get("/api/customers/%s/documents?%s".formatted(code, ends))
                    .body();
            assertThat(all.get("next").isNull()).isTrue();
            assertThat(amount(all, "opening")).isZero();
            var sum = BigDecimal.ZERO;
            for (var row : all.get("rows")) {
                sum = sum.add(amount(row, "owed"));
                assertThat(amount(row, "balance")).isEqualByComparingTo(sum);
                told.merge(row.get("kind").asString() + " " + row.get("what").asString(), 1, Integer::sum);
            }
            assertThat(amount(all, "closing")).isEqualByComparingTo(sum);
            var ledger = jdbc.sql(OWED).param(code).query(BigDecimal.class).single();
            assertThat(sum).as("%s by the ledger", code).isEqualByComparingTo(ledger);
            var open =
                    lead.get("/api/customers/%s/open-documents".formatted(code)).body();
            assertThat(open.get("isAll").asBoolean()).isTrue();
            assertThat(amount(open, "owed")).as("%s by what is open", code).isEqualByComparingTo(ledger);
            if (all.get("rows").size() > 3) {
                var cut = all.get("rows")
                        .get(all.get("rows").size() / 2)
                        .get("on")
                        .asString();
                var later = lead.get("/api/customers/%s/documents?from=%s&to=2999-12-31".formatted(code, cut))
                        .body();
                assertThat(later.get("closing")).isEqualTo(all.get("closing"));
                var rows = all.get("rows");
                for (int at = 1; at <= later.get("rows").size(); at++) {
                    assertThat(later.get("rows").get(later.get("rows").size() - at))
                            .isEqualTo(rows.get(rows.size() - at));
                }
            }
        }
        assertThat(told)
                .containsEntry("ORDER ordered", (int) count("select count(*) from sales_order where state <> 'DRAFT'"))
                .containsEntry(
                        "DISPATCH left", (int) count("select count(*) from dispatch where departed_on is not null"))
                .containsEntry("DISPATCH taken back", (int)
                        count("select count(*) from dispatch where reversed_on is not null"))
                .containsEntry("RETURN authorised", (int) count("select count(*) from goods_return"));
    }

    /**
     * Every document of every kind is told of in each copy as it is in the company that was lived through, when one
     * reads the other's numbers and customers for its own: trail, order and account.
     */
    @Test
    void everyCopyIsToldOfAsTheApplicationTellsOfWhatItMade() {
        var lead = new Rest(mvc, "lead", "LEAD");
        for (int copy = 1; copy < TIMES; copy++) {
            var names = new HashMap<String, String>();
            TABLES.values().forEach(table -> pair(names, texts("select number from " + table + " order by id"), 0));
            pair(names, texts("select number from journal_entry order by id"), copy);
            for (var table : TABLES.values()) {
                pair(names, texts("select number from " + table + " order by id"), copy);
            }
            pair(names, texts("select number from sales_agreement order by id"), copy);
            pair(
                    names,
                    texts(
                            "select document_number from stock_movement where document_kind = 'STOCK_RECEIPT' order by id"),
                    copy);
            pair(
                    names,
                    texts("select import_reference from sales_order where import_reference is not null order by id"),
                    copy);
            pair(names, texts("select code from customer order by id"), copy);
            pair(names, texts("select name from customer order by id"), copy);
            var compared = 0;
            for (var kind : TABLES.keySet()) {
                var all = texts("select number from " + TABLES.get(kind) + " order by id");
                assertThat(all).as("there is one of each kind: %s", kind).hasSizeGreaterThanOrEqualTo(TIMES);
                for (var number : all.subList(0, all.size() / TIMES)) {
                    if (kind != DocumentKind.UNEXPECTED_GOODS) {
                        same(lead, "/api/trails/" + kind + "/", number, names);
                    }
                    if (kind == DocumentKind.ORDER) {
                        same(lead, "/api/orders/", number, names);
                        same(lead, "/api/review/", number, names);
                    }
                    compared++;
                }
            }
            for (var customer : texts("select code from customer order by id").subList(0, 44)) {
                same(lead, "/api/customers/", customer, names);
                same(lead, "/api/customers/%s/statement".formatted(customer), customer, names);
            }
            assertThat(compared).isGreaterThan(200);
        }
    }

    private static void pair(Map<String, String> names, List<String> all, int copy) {
        assertThat(all.size() % TIMES).as("%s", all).isZero();
        var size = all.size() / TIMES;
        for (int at = 0; at < size; at++) {
            names.put(all.get(at), all.get(at + copy * size));
        }
    }

    private static void same(Rest lead, String path, String number, Map<String, String> names) {
        var of = path.contains(number) ? path : path + number;
        var was = lead.get(of);
        var is = lead.get(read(of, names));
        assertThat(was.status()).as(of).isEqualTo(200);
        assertThat(is.body().toString()).as(of).isEqualTo(read(was.body().toString(), names));
    }

    /** Numbers, codes and names, each in one piece; longer ones first. */
    private static String read(String text, Map<String, String> names) {
        var known = names.keySet().stream()
                .filter(name -> name.contains(" "))
                .sorted(Comparator.comparingInt(String::length).reversed())
                .map(Pattern::quote)
                .collect(Collectors.joining("|"));
        return Pattern.compile("\\bC?20\\d\\d-\\d{5}\\b|\\b[A-Z]{1,2}-\\d+\\b|\\bC\\d+\\b|" + known)
                .matcher(text)
                .replaceAll(at -> names.getOrDefault(at.group(), at.group()));
    }

    /** Every table of documents has its rows in every copy, and nothing points from one copy into another. */
    @Test
    void everyKindOfDocumentIsInEveryCopy() {
        var none = new LinkedHashSet<String>();
        for (var kind : DocumentKind.values()) {
            if (kind != DocumentKind.MANUAL_ENTRY && kind != DocumentKind.ENTRY) {
                var found = count("""
                    select count(*) from (
                        select document_number from history where document_kind = '%1$s'
                        union select number from sales_agreement where kind = '%1$s'
                        union select number from unexpected_goods where '%1$s' = 'UNEXPECTED_GOODS') told\
                    """.formatted(kind));
                if (found < TIMES) {
                    none.add(kind + ": " + found);
                }
            }
        }
        assertThat(none).isEmpty();
        var crossing = new ArrayList<String>();
        jdbc.sql("""
                select i.number from invoice i join invoice_line l on l.invoice_id = i.id
                join sales_order o on o.id = l.root_order_id where o.customer_id <> i.customer_id
                """).query(String.class).list().forEach(crossing::add);
        assertThat(crossing).isEmpty();
    }

    /** In a copy one goes on as in the company: an order entered, one billed, paid and taken back. */
    @Test
    @Order(Integer.MAX_VALUE - 1)
    void oneGoesOnInACopy() {
        var lead = new Rest(mvc, "lead", "LEAD");
        var entered = lead.post(
                "/api/orders",
                "{\"customer\":\"C1109\",\"po\":\"after all\",\"lines\":[{\"item\":\"RP-112\",\"quantity\":2}]}");
        assertThat(entered.status()).as("%s", entered.body()).isEqualTo(200);
        assertThat(lead.get("/api/trails/ORDER/" + entered.text("number")).status())
                .isEqualTo(200);
        var unpaid = jdbc.sql("""
                select i.number, c.code, i.open_amount from invoice i join customer c on c.id = i.customer_id
                where i.open_amount > 0 and i.id > (select max(id) / 2 from invoice) order by i.id fetch first 1 rows only
                """)
                .query((r, n) -> List.of(r.getString(1), r.getString(2), r.getString(3)))
                .single();
        var paid = lead.post(
                "/api/payments",
                "{\"customer\":\"%s\",\"amount\":%s,\"allocate\":[{\"invoice\":\"%s\",\"amount\":%s}]}"
                        .formatted(unpaid.get(1), unpaid.get(2), unpaid.get(0), unpaid.get(2)));
        assertThat(paid.status()).as("%s", paid.body()).isEqualTo(200);
        assertThat(lead.post("/api/proofs", "{}").body().get("failing").asInt()).isZero();
    }

    @Test
    void hasMoneyThatWasLessADiscountAndInvoicesThatAreDisputed() {
        for (var kind : List.of("DISCOUNT", "SMALL_DIFFERENCE", "BAD_DEBT")) {
            assertThat(texts("select reason from reduction where kind = '" + kind + "' and reversed_on is null"))
                    .as(kind)
                    .hasSizeGreaterThanOrEqualTo(TIMES);
        }
        assertThat(texts("select reason from dispute where state = 'OPEN'")).hasSizeGreaterThanOrEqualTo(TIMES);
    }

    /** What takes a document of a kind back; those that stand in the way of others first. */
    private static final Map<DocumentKind, String> TAKES_BACK = new LinkedHashMap<>();

    static {
        TAKES_BACK.put(DocumentKind.REFUND, "take-back-refund");
        TAKES_BACK.put(DocumentKind.CREDIT_NOTE, "take-back-credit");
        TAKES_BACK.put(DocumentKind.RETURN, "take-back-receipt");
        TAKES_BACK.put(DocumentKind.WRITE_OFF, "take-back-write-off");
        TAKES_BACK.put(DocumentKind.PAYMENT, "take-back-payment");
        TAKES_BACK.put(DocumentKind.DEPOSIT, "take-back-deposit");
        TAKES_BACK.put(DocumentKind.INVOICE, "take-back-invoice");
        TAKES_BACK.put(DocumentKind.DISPATCH, "take-back-dispatch");
    }

    /** Whatever was posted is taken back, nothing twice, and the books agree over what is left. */
    @Test
    @Order(Integer.MAX_VALUE)
    void everyPostedDocumentCanBeTakenBack() {
        var lead = new Rest(mvc, "lead", "LEAD");
        var taken = new EnumMap<DocumentKind, Integer>(DocumentKind.class);
        var why = new TreeMap<String, Integer>();
        for (var kind : TAKES_BACK.keySet()) {
            // a write-off stands where payments do
            var table = TABLES.getOrDefault(kind, "payment");
            var all = texts("select number from " + table + " order by id").stream()
                    .filter(number -> !table.equals("payment") || number.startsWith(kind.prefix()))
                    .toList();
            for (var number : all.subList(0, Math.min(MANY, (all.size() + TIMES - 1) / TIMES))) {
                var done = takeBack(lead, kind, number);
                if (done.equals("done")) {
                    taken.merge(kind, 1, Integer::sum);
                    assertThat(takeBack(lead, kind, number))
                            .as("%s %s is taken back once", kind, number)
                            .isEqualTo("already-reversed");
                } else {
                    why.merge(kind + " " + done, 1, Integer::sum);
                }
            }
        }
        assertThat(taken.keySet()).as("%s, not: %s", taken, why).containsAll(TAKES_BACK.keySet());
        assertThat(why.keySet())
                .as("what was not taken back: %s", why)
                .allMatch(one -> one.endsWith(" already-reversed")
                        || one.endsWith(" already-returned")
                        || one.endsWith(" already-billed")
                        || one.endsWith(" already-credited")
                        || one.endsWith(" already-refunded")
                        || one.endsWith(" goods-gone"));
        var run = lead.post("/api/proofs", "{}").body();
        assertThat(run.get("failing").asInt()).as("%s", run.get("statements")).isZero();
    }

    /** "done", or the code with which it was refused. */
    private static String takeBack(Rest lead, DocumentKind kind, String number) {
        var asked =
                "\"kind\":\"%s\",\"number\":\"%s\",\"intent\":\"%s\",\"withdraw\":true,\"reason\":\"undone\",\"reasonCode\":\"other\""
                        .formatted(kind, number, TAKES_BACK.get(kind));
        var plan = lead.post("/api/unwind/plans", "{" + asked + "}");
        if (plan.status() != 200) {
            return plan.code();
        }
        var done = lead.post(
                "/api/unwind/executions", "{%s,\"fingerprint\":\"%s\"}".formatted(asked, plan.text("fingerprint")));
        assertThat(done.status()).as("%s %s: %s", kind, number, done.body()).isEqualTo(200);
        return "done";
    }
}
