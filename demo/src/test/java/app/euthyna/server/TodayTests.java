package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class TodayTests extends OnServer {

    private JsonNode lane(String code) {
        for (var lane : controller.get("/api/today").body().get("lanes")) {
            if (lane.get("lane").asString().equals(code)) {
                return lane;
            }
        }
        throw new AssertionError("no lane " + code);
    }

    /** A lane counts what the list that it opens shows. */
    @Test
    void lanesAgreeWithTheListsThatTheyOpen() {
        clerk.post("/api/orders", order("T-1", 1));
        clerk.post("/api/orders", order("T-1", 1));
        var lists = java.util.Map.of(
                "held",
                "/api/review?only=HELD",
                "flagged",
                "/api/review?only=FLAGGED",
                "awaiting",
                "/api/review?only=MINE",
                "sent-back",
                "/api/lists/orders/rows?filter=sentBack:any:YES",
                "late",
                "/api/lists/orders/rows?filter=toShip:any:YES&filter=requestedOn:in:before-today",
                "part-shipped",
                "/api/lists/orders/rows?filter=partShipped:any:YES",
                "to-stage",
                "/api/lists/to-stage/rows",
                "staged",
                "/api/lists/dispatches/rows?filter=state:any:STAGED",
                "to-bill",
                "/api/lists/to-bill/rows",
                "past-due",
                "/api/invoices?pastDue=true");
        lists.forEach((code, path) -> {
            long rows = 0;
            var after = "";
            do {
                var page = controller
                        .get(path + (after.isEmpty() ? "" : (path.contains("?") ? "&" : "?") + "after=" + after))
                        .body();
                rows += page.get("rows").size();
                after = page.get("next").isNull() ? "" : page.get("next").asString();
            } while (!after.isEmpty());
            assertThat(lane(code).get("count").asLong()).as(code).isEqualTo(rows);
        });
        assertThat(lane("held").get("count").asLong()).isPositive();
    }

    @Test
    void limitsAreEachUsersOwn() {
        assertThat(controller
                        .send(
                                "PUT",
                                "/api/today/limits/held",
                                "{\"days\":1}",
                                UUID.randomUUID().toString())
                        .status())
                .isEqualTo(200);
        assertThat(lane("held").get("limitDays").asInt()).isEqualTo(1);
        assertThat(clerk.get("/api/today")
                        .body()
                        .get("lanes")
                        .get(0)
                        .get("limitDays")
                        .asInt())
                .isEqualTo(5);
        assertThat(controller
                        .send(
                                "PUT",
                                "/api/today/limits/nothing",
                                "{\"days\":1}",
                                UUID.randomUUID().toString())
                        .code())
                .isEqualTo("not-found");
    }
}
