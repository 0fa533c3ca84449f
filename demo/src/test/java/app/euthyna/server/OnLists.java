package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import app.euthyna.core.check.PoNumber;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.http.MediaType;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import tools.jackson.databind.JsonNode;

/**
 * Asks lists of a company that has documents of every kind. Few rows are looked at for a page, so that pages end early.
 */
@SpringBootTest({"euthyna.demo=true", "euthyna.demo-orders=60", "euthyna.lists.most-looked=700", OnLists.QUIET})
@AutoConfigureMockMvc
abstract class OnLists {

    /** No job changes rows between two questions. */
    static final String QUIET = "db-scheduler.polling-interval=1h";

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry properties) {
        Databases.named("every-list", properties);
    }

    @Autowired
    MockMvc mvc;

    /** All rows of a list; nobody changes them. */
    static final Map<String, List<JsonNode>> ALL = new HashMap<>();

    /** Whether the company has done what it does not do by itself. */
    static boolean isLivedIn;

    /** So many pages ended where no more rows were looked at. */
    int ended;

    Rest lead;
    JsonNode lists;

    @BeforeEach
    void theLeadReadsAll() throws Exception {
        lead = new Rest(mvc, "lead", "LEAD");
        lists = lead.get("/api/lists").body();
        if (!isLivedIn) {
            isLivedIn = true;
            whatTheDemoCompanyDidNotDo();
        }
    }

    /** A user, a sign-in, a mail, an import and something done in bulk: it has none of them to begin with. */
    private void whatTheDemoCompanyDidNotDo() throws Exception {
        var signIn = post("/api/session").with(csrf()).contentType(MediaType.APPLICATION_JSON);
        for (var password : List.of("lead", "wrong")) {
            mvc.perform(signIn.content("{\"username\":\"lead\",\"password\":\"%s\"}".formatted(password)));
        }
        var admin = new Rest(mvc, "admin", "ADMIN");
        var user = """
                {"username":"newcomer","displayName":"Newcomer","role":"CLERK","password":"nine-brown-otters-swim"}""";
        assertThat(admin.post("/api/users", user).status()).isEqualTo(200);
        var clerk = new Rest(mvc, "clerk", "CLERK");
        var file = "reference,customer,po,item,quantity\nA,C101,PO-LISTS,RP-106,2\n";
        assertThat(clerk.upload(file, "?whole=true").body().get("taken").asInt())
                .isEqualTo(1);
        assertThat(lead.get("/api/lists/invoices/rows")
                        .body()
                        .get("rows")
                        .valueStream()
                        .map(row -> "{\"paper\":\"INVOICE\",\"number\":\"%s\"}"
                                .formatted(row.get("opens").asString()))
                        .anyMatch(asked -> lead.post("/api/mails", asked).status() == 200))
                .isTrue();
        var order = lead.get("/api/lists/orders/rows")
                .body()
                .get("rows")
                .get(0)
                .get("opens")
                .asString();
        assertThat(new Rest(mvc, "warehouse", "WAREHOUSE")
                        .post(
                                "/api/batches/stagings",
                                "{\"orders\":[{\"order\":\"%s\",\"version\":99}]}".formatted(order))
                        .status())
                .isEqualTo(200);
    }

    static String name(JsonNode of) {
        return of.get("name").asString();
    }

    static List<String> columns(JsonNode list) {
        return list.get("columns").valueStream().map(OnLists::name).toList();
    }

    JsonNode ok(String path) {
        var answer = lead.get(path);
        assertThat(answer.status()).as("%s: %s", path, answer.body()).isEqualTo(200);
        return answer.body();
    }

    /** How many rows are told to be all. */
    int count(JsonNode list, String filter) {
        return ok("/api/lists/%s/totals?%s".formatted(name(list), filter))
                .get("count")
                .asInt();
    }

    List<JsonNode> all(JsonNode list) {
        return ALL.computeIfAbsent(name(list), name -> rows(list, ""));
    }

    List<JsonNode> rows(JsonNode list, String asked) {
        var rows = new ArrayList<JsonNode>();
        var path = "/api/lists/%s/rows?columns=%s%s".formatted(name(list), String.join(",", columns(list)), asked);
        for (String after = ""; after != null; ) {
            var page = ok(path + after);
            page.get("rows").forEach(rows::add);
            ended += page.get("looked").isNull() ? 0 : 1;
            var next = page.get("next").isNull()
                    ? null
                    : "&after=" + page.get("next").asString();
            assertThat(next).as(path).isNotEqualTo(after);
            after = next;
        }
        return rows;
    }

    /** As a filter would name it; empty where there is nothing. */
    static String cell(JsonNode row, String column) {
        var value = row.get("cells").get(column);
        return value == null ? "" : value.isObject() ? value.get("code").asString() : value.asString();
    }

    static List<String> keys(List<JsonNode> rows) {
        return rows.stream().map(row -> row.get("key").asString()).toList();
    }

    JsonNode list(String name) {
        return lists.valueStream()
                .filter(list -> name(list).equals(name))
                .findFirst()
                .orElseThrow();
    }

    /** Today, and where it can be told as of another day, that. */
    static List<String> days(JsonNode list) {
        return columns(list).contains("asOf") ? List.of("", "&filter=asOf:at:last-month") : List.of("");
    }

    /** A day as it is written: so many characters. */
    static final int DAY = 10;

    /** How a column is compared; PO numbers of orders as the check for duplicates does. */
    static String kind(JsonNode list, JsonNode column) {
        return name(column).equals("po") && !name(list).equals("agreements")
                ? "PO"
                : column.get("kind").asString();
    }

    static String filter(String kind, String value) {
        return switch (kind) {
            case "TEXT", "PO" -> "starts:" + value.substring(0, Math.min(value.length(), 80));
            case "MOMENT" -> "between:%1$s..%1$s".formatted(value.substring(0, Math.min(value.length(), DAY)));
            case "DAY", "AMOUNT", "QUANTITY", "COUNT" -> "between:%s..%s".formatted(value, value);
            default -> "any:" + value;
        };
    }

    static boolean holds(String kind, String has, String asked) {
        return switch (kind) {
            case "TEXT" -> has.regionMatches(true, 0, asked, 0, Math.min(asked.length(), 80));
            case "PO" -> PoNumber.of(has).normal().startsWith(PoNumber.of(asked).normal());
            case "MOMENT" -> has.regionMatches(0, asked, 0, DAY);
            case "AMOUNT", "QUANTITY", "COUNT" ->
                !has.isEmpty() && new BigDecimal(has).compareTo(new BigDecimal(asked)) == 0;
            default -> has.equals(asked);
        };
    }
}
