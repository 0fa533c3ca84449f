package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class ShelfTests extends OnServer {

    private JsonNode shelf() {
        return auditor.get("/api/stock/" + item).body().get(0);
    }

    private Rest.Answer count(String counted) {
        return warehouse.post(
                "/api/stock-counts",
                "{\"item\":\"%s\",\"counted\":%s,\"reason\":\"counted twice\"}".formatted(item, counted));
    }

    /** 1000 at 4.00; two orders of 600 and 300, the later one of which gives up what is no longer there. */
    @Test
    void areBroughtToTheCountAndTheLastInTheQueueGivesUpFirst() {
        var first = cleared(600);
        var second = cleared(300);
        var before = balances();
        var note = staged(first);
        assertThat(count("599").code()).isEqualTo("staged-goods");
        assertThat(count("700").status()).isEqualTo(200);
        assertThat(shelf().get("onHand").asString()).isEqualTo("700");
        assertThat(shelf().get("reserved").asString()).isEqualTo("700");
        assertThat(moved(before, balances())).isEqualTo(Map.of("inventory", "-1200.00", "stock_adjustment", "1200.00"));
        var flow = auditor.get("/api/review/" + second).body().get("flows").get(0);
        assertThat(flow.get("reserved").asString()).isEqualTo("100");
        assertThat(flow.get("waiting").asString()).isEqualTo("200");
        assertThat(count("750").status()).isEqualTo(200);
        assertThat(auditor.get("/api/review/" + second)
                        .body()
                        .get("flows")
                        .get(0)
                        .get("reserved")
                        .asString())
                .as("what was found is offered")
                .isEqualTo("150");
        warehouse.post(
                "/api/dispatches/" + note.text("number") + "/voiding",
                "{\"version\":%s}".formatted(note.text("version")));
        booksAgree();
    }

    @Test
    void areFilledFromAFileWholeAndOnce() {
        var file = "item,quantity,unit_cost\n%s,12.5,4.2\n%s,1,4\n".formatted(item, item);
        assertThat(warehouse
                        .uploadTo(
                                "/api/imports/stock",
                                file.replace("4.2", "dear").getBytes(java.nio.charset.StandardCharsets.UTF_8))
                        .text("sentence"))
                .startsWith("Nothing imported");
        assertThat(warehouse
                        .uploadTo("/api/imports/stock", file.getBytes(java.nio.charset.StandardCharsets.UTF_8))
                        .text("sentence"))
                .isEqualTo("2 rows imported.");
        assertThat(warehouse
                        .uploadTo("/api/imports/stock", file.getBytes(java.nio.charset.StandardCharsets.UTF_8))
                        .body()
                        .get("takenBefore")
                        .asBoolean())
                .isTrue();
        assertThat(shelf().get("onHand").asString()).isEqualTo("1013.5");
        assertThat(shelf().get("value").asString()).isEqualTo("4056.50");
    }

    @Test
    void areTransferredFromOneOrderToAnotherByADecider() {
        var first = cleared(1000);
        var second = cleared(5);
        var ask =
                "{\"from\":\"%s\",\"fromLine\":1,\"to\":\"%s\",\"toLine\":1,\"version\":%s,\"quantity\":%d,\"reason\":\"their"
                        + " boat sails tonight\"}";
        assertThat(controller
                        .post(
                                "/api/reservation-transfers",
                                ask.formatted(first, second, versionOf("/api/orders/" + second), 6))
                        .code())
                .isEqualTo("more-than-open");
        assertThat(controller
                        .post(
                                "/api/reservation-transfers",
                                ask.formatted(first, second, versionOf("/api/orders/" + second), 5))
                        .status())
                .isEqualTo(200);
        assertThat(auditor.get("/api/review/" + second)
                        .body()
                        .get("flows")
                        .get(0)
                        .get("reserved")
                        .asString())
                .isEqualTo("5");
        assertThat(auditor.get("/api/review/" + first)
                        .body()
                        .get("flows")
                        .get(0)
                        .get("waiting")
                        .asString())
                .isEqualTo("5");
        assertThat(auditor.get("/api/review/" + first).body().get("history").toString())
                .contains("their boat sails tonight");
        booksAgree();
    }

    @Test
    void tellBeforeANoteLeavesWhatFallsUnderItsMinimumAndACarrierMayBeSilent() {
        jdbc.sql("update item set min_stock = 995 where code = ?").param(item).update();
        var order = cleared(10);
        var note = staged(order);
        assertThat(note.body().get("fallsUnderMinimum").get(0).get("left").asString())
                .isEqualTo("990");
        admin.send(
                "PUT",
                "/api/simulated-carrier",
                "{\"answers\":false}",
                UUID.randomUUID().toString());
        var booking = "{\"version\":%s,\"carrier\":\"Tidewater Freight\"}".formatted(note.text("version"));
        var silent = warehouse.post("/api/dispatches/" + note.text("number") + "/carrier", booking);
        assertThat(silent.text("carrierFailure")).isEqualTo("The carrier Tidewater Freight did not answer in 3 tries.");
        admin.send(
                "PUT",
                "/api/simulated-carrier",
                "{\"answers\":true}",
                UUID.randomUUID().toString());
        var booked = warehouse.post("/api/dispatches/" + note.text("number") + "/carrier", booking);
        assertThat(booked.text("carrierReference")).startsWith("TI-");
        assertThat(booked.body().get("carrierFailure").isNull()).isTrue();
    }
}
