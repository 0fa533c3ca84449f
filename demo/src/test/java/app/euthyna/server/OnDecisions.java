package app.euthyna.server;

import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** What tests of decisions do again and again. */
abstract class OnDecisions extends OnServer {

    String state(String number) {
        return clerk.get("/api/orders/" + number).text("state");
    }

    String version(String number) {
        return clerk.get("/api/orders/" + number).text("version");
    }

    String submit(String po, int quantity) {
        return clerk.post("/api/orders", order(po, quantity)).text("number");
    }

    Rest.Answer terms(String terms) {
        return lead.send(
                "PUT",
                "/api/customers/" + customer + "/terms",
                "{\"version\":%s%s}"
                        .formatted(clerk.get("/api/customers/" + customer).text("version"), terms),
                UUID.randomUUID().toString());
    }

    Rest.Answer put(Rest as, String path, String body) {
        return as.send("PUT", path, body, UUID.randomUUID().toString());
    }

    List<String> open(String number) {
        var open = new ArrayList<String>();
        clerk.get("/api/review/" + number).body().get("findings").forEach(f -> {
            if (f.get("state").asString().equals("OPEN")) {
                open.add(f.get("check").asString());
            }
        });
        return open;
    }
}
