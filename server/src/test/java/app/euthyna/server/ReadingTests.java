package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Reading;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** Reading follows roles (section 15 of the domain reference): role × address × kind of figure. */
class ReadingTests extends OnServer {

    private Map<Role, Rest> everybody() {
        var all = new EnumMap<Role, Rest>(Role.class);
        for (var role : Role.values()) {
            all.put(role, new Rest(mvc, role.name().toLowerCase(java.util.Locale.ROOT), role.name()));
        }
        return all;
    }

    /** Every address that is published stands in the table, and none of the table reads nothing. */
    @Test
    void everyAddressHasItsReaders() throws Exception {
        var api = new JsonMapper().readTree(Files.readString(Path.of("../web/openapi.json")));
        var without = new ArrayList<String>();
        api.get("paths").properties().forEach(path -> {
            if (path.getValue().has("get")
                    && Reading.may(path.getKey().replaceAll("[{}]", "")).isEmpty()) {
                without.add(path.getKey());
            }
        });
        assertThat(without).isEmpty();
        assertThat(Reading.may("/api/nowhere")).isEmpty();
    }

    /** On documents that there are: whoever may read gets them, whoever may not is told so. */
    @Test
    void documentsAreReadByThoseWhoMay() {
        var order = cleared(2);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        var payment = receivables
                .post("/api/payments", "{\"customer\":\"%s\",\"amount\":5}".formatted(customer))
                .text("number");
        for (var path : List.of(
                "/api/orders/" + order,
                "/api/orders/" + order + "/versions",
                "/api/review",
                "/api/review/" + order,
                "/api/dispatches/" + dispatch,
                "/api/invoices/" + invoice,
                "/api/payments/" + payment,
                "/api/customers/" + customer,
                "/api/customers/" + customer + "/sheet",
                "/api/customers/" + customer + "/position",
                "/api/customers/" + customer + "/statement",
                "/api/customers/" + customer + "/credit",
                "/api/items/" + item + "/sheet",
                "/api/stock/" + item,
                "/api/trails/ORDER/" + order,
                "/api/proofs/ORDER/" + order,
                "/api/ledger/entries",
                "/api/ledger/posting-map",
                "/api/ledger/periods",
                "/api/ledger/role-balances",
                "/api/bank-statements",
                "/api/rules",
                "/api/approval-rules",
                "/api/payouts",
                "/api/refunds",
                "/api/receivables/overdue",
                "/api/unwind/ways?kind=ORDER&number=" + order,
                "/api/users")) {
            everybody()
                    .forEach((role, rest) -> assertThat(rest.get(path).status())
                            .as(role + " reads " + path)
                            .isEqualTo(
                                    Reading.may(path.replaceFirst("\\?.*", "")).contains(role) ? 200 : 403));
        }
    }

    /** A cost of 4.1357 and a limit of 91823.45 are in no answer of those who may not read them. */
    @Test
    void secretFiguresLeakNowhere() {
        warehouse.post(
                "/api/stock-counts", "{\"item\":\"%s\",\"counted\":0,\"reason\":\"a planted cost\"}".formatted(item));
        warehouse.post(
                "/api/stock-receipts", "{\"item\":\"%s\",\"quantity\":1000,\"unitCost\":4.1357}".formatted(item));
        jdbc.sql("update customer set credit_limit = 91823.45 where code = ?")
                .param(customer)
                .update();
        jdbc.sql("update item set floor_price = 7.3391 where code = ?")
                .param(item)
                .update();
        var order = cleared(3);
        var dispatch = gone(order);
        var paths = List.of(
                "/api/stock/" + item,
                "/api/stock/" + item + "/queue",
                "/api/items/" + item + "/sheet",
                "/api/items/" + item + "/claims",
                "/api/items?q=" + item,
                "/api/item-list?q=" + item,
                "/api/dispatches/" + dispatch,
                "/api/goods/dispatches?departed=true",
                "/api/find?q=" + order,
                "/api/customers?q=" + customer,
                "/api/customers/" + customer,
                "/api/customers/" + customer + "/sheet",
                "/api/trails/ORDER/" + order,
                "/api/orders/" + order,
                "/api/today");
        everybody().forEach((role, rest) -> {
            for (var path : paths) {
                var answer = rest.get(path).body().toString();
                if (role != Role.CONTROLLER && role != Role.LEAD && role != Role.AUDITOR) {
                    assertThat(answer).as(role + " reads " + path).doesNotContain("4.1357", "7.3391");
                    // whoever reads the ledger reads what it says of the goods that left
                    if (role != Role.RECEIVABLES) {
                        assertThat(answer).as(role + " reads " + path).doesNotContain("12.41");
                    }
                }
                if (role == Role.WAREHOUSE) {
                    assertThat(answer).as(role + " reads " + path).doesNotContain("91823");
                }
            }
        });
        assertThat(auditor.get("/api/items/" + item + "/sheet").body().toString())
                .contains("4.1357", "7.3391");
    }

    /** Messages to somebody else are not the warehouse's to read. */
    @Test
    void theWarehouseReadsItsOwnMessages() {
        jdbc.sql("insert into outbox_message (recipient, subject, body, about_kind, about_number, by_user, at)"
                        + " values ('lead', 'S', 'B', 'ORDER', 'SO-1', 'clerk', current_timestamp)")
                .update();
        var id =
                jdbc.sql("select max(id) from outbox_message").query(Long.class).single();
        assertThat(warehouse.get("/api/outbox/" + id + "/eml").code()).isEqualTo("not-found");
        assertThat(warehouse.get("/api/outbox?recipient=lead").body().get("rows"))
                .isEmpty();
        assertThat(clerk.get("/api/outbox?recipient=lead").body().get("rows")).isNotEmpty();
    }
}
