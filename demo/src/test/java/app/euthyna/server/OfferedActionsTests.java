package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a screen offers is what the server does, and what it does not offer is refused for the reason it gives. */
class OfferedActionsTests extends OnServer {

    private static final Map<String, String> ADDRESS = Map.of(
            "WAIVE", "waivers",
            "APPROVE", "approvals",
            "SEND_BACK", "send-backs",
            "DECLINE", "declination",
            "RECALL", "recalls");

    private List<Rest> everybody() {
        return List.of(clerk, warehouse, receivables, controller, lead, auditor, admin);
    }

    private String heldOrder() {
        return clerk.post("/api/orders", order("F-" + UUID.randomUUID(), 20000)).text("number");
    }

    private String awaitingOrder() {
        assertThat(admin.send(
                                "PUT",
                                "/api/customers/" + customer + "/approval-rules",
                                "{\"rules\":[{\"kind\":\"NET_ABOVE\",\"figure\":1,\"level\":\"CONTROLLER\"}]}",
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
        return clerk.post("/api/orders", order("F-" + UUID.randomUUID(), 1)).text("number");
    }

    private String body(String number, String action) {
        return "{\"version\":%s,\"reason\":\"agreed\"%s}"
                .formatted(
                        versionOf("/api/orders/" + number),
                        action.equals("WAIVE") ? ",\"findings\":[\"credit-limit\"]" : "");
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void areDoneAndOthersRefused(boolean held) {
        var tried = new TreeSet<String>();
        for (var somebody : everybody()) {
            var number = held ? heldOrder() : awaitingOrder();
            var sheet = somebody.get("/api/review/" + number);
            if (sheet.status() == 403) {
                continue;
            }
            for (var offered : sheet.body().get("actions")) {
                var action = offered.get("action").asString();
                if (!ADDRESS.containsKey(action)) {
                    continue;
                }
                var fresh = held ? heldOrder() : awaitingOrder();
                var answer = somebody.post("/api/orders/" + fresh + "/" + ADDRESS.get(action), body(fresh, action));
                var refused = offered.get("refused");
                assertThat(answer.status())
                        .as("%s for %s: offered %s, answered %s", action, somebody, refused, answer.body())
                        .isEqualTo(refused.isNull() ? 200 : 403);
                tried.add(action + (refused.isNull() ? " done" : " refused"));
            }
        }
        assertThat(tried)
                .containsAll(
                        held
                                ? List.of("WAIVE done", "WAIVE refused", "DECLINE done", "SEND_BACK refused")
                                : List.of("APPROVE done", "APPROVE refused", "RECALL done", "DECLINE refused"));
    }

    @Test
    void sayWhyTheyAreRefused() {
        var seen = clerk.get("/api/review/" + heldOrder()).body().get("actions");
        assertThat(seen.get(0).get("refused").asString()).contains("controller");
    }
}
