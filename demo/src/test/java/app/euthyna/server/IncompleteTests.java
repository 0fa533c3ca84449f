package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** What is missing is told field by field, whoever finds it: the form of the request, or a rule. */
class IncompleteTests extends OnServer {

    @Test
    void whatTheFormOfARequestMissesIsToldByField() {
        var answer = admin.post(
                "/api/users", "{\"username\":\" \",\"displayName\":\"Somebody\",\"role\":\"CLERK\",\"password\":\"\"}");
        assertThat(answer.status()).isEqualTo(400);
        assertThat(answer.code()).isEqualTo("incomplete");
        assertThat(answer.body().get("fields").propertyNames()).containsExactly("password", "username");
        assertThat(answer.body().get("fields").get("password").asString()).isEqualTo("must not be blank");
    }

    @Test
    void whatARuleMissesIsToldByField() {
        var order = clerk.post("/api/orders", order("F-1", 20000)).text("number");
        var answer = controller.post(
                "/api/orders/" + order + "/waivers",
                "{\"version\":%s,\"reason\":\" \",\"findings\":[\"credit-limit\"]}"
                        .formatted(versionOf("/api/orders/" + order)));
        assertThat(answer.status()).isEqualTo(400);
        assertThat(answer.body().get("fields").get("reason").asString()).startsWith("needs a reason");
    }

    @Test
    void otherRefusalsNameNoFields() {
        assertThat(clerk.get("/api/orders/SO-none").body().has("fields")).isFalse();
    }
}
