package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Of dispatches, invoices and returns too a screen offers what the server does: everybody tries everything that is
 * offered, on a document of its own, and what is refused is refused for the reason that was given before.
 */
class OfferedOfDocumentsTests extends OnReturns {

    private List<Rest> everybody() {
        return List.of(clerk, warehouse, receivables, controller, lead, auditor, admin);
    }

    private interface Deed {
        Rest.Answer by(Rest somebody, String number);
    }

    /**
     * Tries every action that somebody is offered.
     *
     * @return the actions, each with "done" or "refused"
     */
    private SortedSet<String> tried(Supplier<String> document, UnaryOperator<String> sheet, Map<String, Deed> deeds) {
        var tried = new TreeSet<String>();
        for (var somebody : everybody()) {
            var seen = somebody.get(sheet.apply(document.get()));
            if (seen.status() == 403) {
                continue;
            }
            for (JsonNode offered : seen.body().get("actions")) {
                var action = offered.get("action").asString();
                var refused = offered.get("refused");
                var answer = deeds.get(action).by(somebody, document.get());
                assertThat(answer.status())
                        .as("%s for %s: offered %s, answered %s", action, somebody, refused, answer.body())
                        .isEqualTo(refused.isNull() ? 200 : 403);
                tried.add(action + (refused.isNull() ? " done" : " refused"));
            }
        }
        return tried;
    }

    private static String seen(String version) {
        return "{\"version\":%s}".formatted(version);
    }

    private String version(String of, String number) {
        return versionOf("/api/" + of + "/" + number);
    }

    @Test
    void ofADispatch() {
        Supplier<String> staged = () -> staged(cleared(5)).text("number");
        assertThat(tried(
                        staged,
                        number -> "/api/dispatches/" + number,
                        Map.of(
                                "DEPART",
                                (somebody, number) -> somebody.post(
                                        "/api/dispatches/" + number + "/departure",
                                        seen(version("dispatches", number))),
                                "VOID",
                                (somebody, number) -> somebody.post(
                                        "/api/dispatches/" + number + "/voiding", seen(version("dispatches", number))),
                                "BOOK_CARRIER",
                                (somebody, number) -> somebody.post(
                                        "/api/dispatches/" + number + "/carrier",
                                        "{\"version\":%s,\"carrier\":\"north\"}"
                                                .formatted(version("dispatches", number))))))
                .containsExactly(
                        "BOOK_CARRIER done",
                        "BOOK_CARRIER refused",
                        "DEPART done",
                        "DEPART refused",
                        "VOID done",
                        "VOID refused");
    }

    /** A customer is blocked while goods are staged: they stay, and the list says why. */
    @Test
    void ofADispatchWhoseOrderIsHeldMeanwhile() {
        var order = cleared(5);
        var note = staged(order);
        assertThat(lead.send(
                                "PUT",
                                "/api/customers/" + customer + "/terms",
                                "{\"version\":%s,\"creditLimit\":100000,\"blocked\":\"in dispute\"}"
                                        .formatted(versionOf("/api/customers/" + customer)),
                                "block " + customer)
                        .status())
                .isEqualTo(200);
        assertThat(auditor.get("/api/orders/" + order).text("state")).isEqualTo("HELD");
        var row = warehouse
                .get("/api/lists/dispatches/rows?columns=orderState&filter=number:is:" + note.text("number"))
                .body()
                .get("rows")
                .get(0);
        assertThat(row.get("version").asString()).isEqualTo(note.text("version"));
        assertThat(row.get("cells").get("orderState").asString()).isEqualTo("HELD");
        var listed = warehouse
                .get("/api/goods/offered?keys=" + row.get("key").asString())
                .body()
                .get(0)
                .get("actions");
        assertThat(listed.get(0).get("action").asString()).isEqualTo("DEPART");
        var refused = listed.get(0).get("refused").asString();
        var answer =
                warehouse.post("/api/dispatches/" + note.text("number") + "/departure", seen(note.text("version")));
        assertThat(answer.status()).isEqualTo(409);
        assertThat(answer.text("detail")).isEqualTo(refused);
        assertThat(listed.get(1).get("refused").isNull()).as("they may go back").isTrue();
    }

    @Test
    void ofAnInvoice() {
        assertThat(tried(
                        () -> sold(5).invoice(),
                        number -> "/api/invoices/" + number + "/actions",
                        Map.of(
                                "CREDIT",
                                (somebody, number) -> somebody.post(
                                        "/api/credit-notes",
                                        "{\"ofInvoice\":\"%s\",\"reason\":\"agreed\",\"lines\":[{\"line\":1,\"amount\":1}]}"
                                                .formatted(number)),
                                "CREDIT_AND_REBILL",
                                (somebody, number) -> somebody.post(
                                        "/api/invoices/" + number + "/corrections",
                                        "{\"reason\":\"wrong price\",\"lines\":[{\"line\":1,\"price\":9}]}"),
                                "PAY",
                                (somebody, number) -> somebody.post(
                                        "/api/payments",
                                        "{\"customer\":\"%s\",\"amount\":1,\"allocate\":[{\"invoice\":\"%s\",\"amount\":1}]}"
                                                .formatted(customer, number)),
                                "DISPUTE",
                                (somebody, number) -> somebody.post(
                                        "/api/invoices/" + number + "/disputes",
                                        "{\"version\":%s,\"lookOn\":\"2099-01-01\",\"reason\":\"too much\"}"
                                                .formatted(versionOf("/api/invoices/" + number))),
                                "WRITE_OFF",
                                (somebody, number) -> somebody.post(
                                        "/api/invoices/" + number + "/write-offs",
                                        "{\"version\":%s,\"kind\":\"SMALL_DIFFERENCE\",\"amount\":0.5,\"reason\":\"rounding\"}"
                                                .formatted(versionOf("/api/invoices/" + number))))))
                .containsExactly(
                        "CREDIT done",
                        "CREDIT refused",
                        "CREDIT_AND_REBILL done",
                        "CREDIT_AND_REBILL refused",
                        "DISPUTE done",
                        "DISPUTE refused",
                        "PAY done",
                        "PAY refused",
                        "WRITE_OFF done",
                        "WRITE_OFF refused");
    }

    @Test
    void ofAnInvoiceThatIsCreditedWhollyNothingIsLeft() {
        var sold = sold(5);
        credited("{\"ofInvoice\":\"%s\",\"reason\":\"agreed\"}".formatted(sold.invoice()));
        var actions = receivables
                .get("/api/invoices/" + sold.invoice() + "/actions")
                .body()
                .get("actions");
        assertThat(actions).hasSize(2);
        var again = receivables.post(
                "/api/credit-notes", "{\"ofInvoice\":\"%s\",\"reason\":\"again\"}".formatted(sold.invoice()));
        assertThat(actions.get(0).get("refused").asString())
                .as("the deed says the same")
                .isEqualTo(again.text("detail"));
    }

    @Test
    void ofAReturn() {
        Supplier<String> partlyHere = () -> {
            var sold = sold(5);
            var goods = allowed("damaged", line("dispatch", sold.dispatch(), 1, "4"));
            assertThat(warehouse
                            .post("/api/returns/" + goods + "/receipts", "{\"lines\":[{\"line\":1,\"quantity\":2}]}")
                            .status())
                    .isEqualTo(200);
            return goods;
        };
        assertThat(tried(
                        partlyHere,
                        number -> "/api/returns/" + number,
                        Map.of(
                                "RECEIVE",
                                (somebody, number) -> somebody.post("/api/returns/" + number + "/receipts", "{}"),
                                "INSPECT",
                                (somebody, number) -> somebody.post(
                                        "/api/returns/" + number + "/inspections",
                                        "{\"lines\":[{\"line\":1,\"restock\":2}]}"),
                                "CREDIT",
                                (somebody, number) ->
                                        somebody.post("/api/credit-notes", "{\"ofReturn\":\"%s\"}".formatted(number)),
                                "CREDIT_AHEAD",
                                (somebody, number) -> somebody.post(
                                        "/api/credit-notes", "{\"ofReturn\":\"%s\",\"ahead\":true}".formatted(number)),
                                "WITHDRAW",
                                (somebody, number) -> somebody.post(
                                        "/api/returns/" + number + "/withdrawals", "{\"reason\":\"kept them\"}"))))
                .contains(
                        "CREDIT done",
                        "CREDIT refused",
                        "INSPECT done",
                        "INSPECT refused",
                        "RECEIVE done",
                        "RECEIVE refused",
                        "WITHDRAW done",
                        "WITHDRAW refused");
    }
}
