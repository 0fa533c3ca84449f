package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import tools.jackson.databind.JsonNode;

/** What tests of unwinding do again and again. */
abstract class OnUnwinding extends OnServer {

    static String unwindRequest(String kind, String number, String intent, String more) {
        return "{\"kind\":\"%s\",\"number\":\"%s\",\"intent\":\"%s\",\"reason\":\"in error\",\"reasonCode\":\"entered-in-error\"%s}"
                .formatted(kind, number, intent, more);
    }

    Rest.Answer plan(String unwindRequest) {
        return controller.post("/api/unwind/plans", unwindRequest);
    }

    static String bound(String unwindRequest, Rest.Answer plan) {
        return unwindRequest.substring(0, unwindRequest.length() - 1) + ",\"fingerprint\":\"" + plan.text("fingerprint")
                + "\"}";
    }

    Rest.Answer carriedOut(String unwindRequest) {
        var plan = plan(unwindRequest);
        assertThat(plan.status())
                .as("plan of %s: %s", unwindRequest, plan.body())
                .isEqualTo(200);
        var done = controller.post("/api/unwind/executions", bound(unwindRequest, plan));
        assertThat(done.status()).as("%s", done.body()).isEqualTo(200);
        return done;
    }

    String pay(String invoice, String amount) {
        return paid(invoice, amount).text("number");
    }

    JsonNode undone(String order) {
        return auditor.get("/api/unwind/done?order=" + order).body().get("rows").get(0);
    }

    void received(String goods, String more) {
        assertThat(warehouse
                        .post("/api/returns/" + goods + "/receipts", "{" + more + "}")
                        .status())
                .isEqualTo(200);
    }

    void inspected(String goods, String line) {
        assertThat(warehouse
                        .post("/api/returns/" + goods + "/inspections", "{\"lines\":[" + line + "]}")
                        .status())
                .isEqualTo(200);
    }

    /** Ten shipped, billed and paid: gross 121.00, cost 40.00. */
    record Sold(String order, String dispatch, String invoice) {}

    Sold sold() {
        var order = cleared(10);
        var dispatch = gone(order);
        var invoice = billed(order).text("number");
        pay(invoice, "121");
        return new Sold(order, dispatch, invoice);
    }
}
