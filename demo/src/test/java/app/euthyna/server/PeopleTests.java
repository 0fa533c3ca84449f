package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import jakarta.servlet.http.Cookie;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpServletResponse;

/** Users, their passwords, and how often a wrong one may be tried. */
class PeopleTests extends OnServer {

    private static final String GOOD = "nine-brown-otters-swim";

    private String user() {
        var name = "u" + UUID.randomUUID().toString().substring(0, 8);
        assertThat(admin.post("/api/users", newUser(name, "Somebody", GOOD)).status())
                .isEqualTo(200);
        return name;
    }

    private static String newUser(String username, String displayName, String password) {
        return "{\"username\":\"%s\",\"displayName\":\"%s\",\"role\":\"CLERK\",\"password\":\"%s\"}"
                .formatted(username, displayName, password);
    }

    private int signIn(String username, String password, String address) throws Exception {
        return signedIn(username, password, address).getStatus();
    }

    private MockHttpServletResponse signedIn(String username, String password, String address) throws Exception {
        return mvc.perform(post("/api/session")
                        .with(csrf())
                        .with(request -> {
                            request.setRemoteAddr(address);
                            return request;
                        })
                        .contentType(MediaType.APPLICATION_JSON)
                        .content("{\"username\":\"%s\",\"password\":\"%s\"}".formatted(username, password)))
                .andReturn()
                .getResponse();
    }

    /** A question writes nothing; that somebody is still there is noted once a minute. */
    @Test
    void questionsDoNotWriteThatSomebodyIsThere() throws Exception {
        var name = user();
        // the name that it has where no server is set up
        var cookie = signedIn(name, GOOD, "127.0.0.1").getCookie("SESSION");
        assertThat(lastUsed(name, System.currentTimeMillis() - 50_000, cookie)).isZero();
        assertThat(lastUsed(name, System.currentTimeMillis() - 60_000, cookie)).isGreaterThanOrEqualTo(60_000);
    }

    /** By how many milliseconds a question moves when somebody was there last. */
    private long lastUsed(String name, long before, Cookie cookie) throws Exception {
        assertThat(jdbc.sql("update SPRING_SESSION set LAST_ACCESS_TIME = ? where PRINCIPAL_NAME = ?")
                        .params(before, name)
                        .update())
                .isEqualTo(1);
        assertThat(mvc.perform(get("/api/session").cookie(cookie))
                        .andReturn()
                        .getResponse()
                        .getContentAsString())
                .contains(name);
        return jdbc.sql("select LAST_ACCESS_TIME from SPRING_SESSION where PRINCIPAL_NAME = ?")
                        .param(name)
                        .query(Long.class)
                        .single()
                - before;
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "payment-service",
                "clock",
                "me",
                "Clerk",
                "clerk ",
                "cl\\u0435rk",
                "a\\u0000b",
                "a\\nb",
                "",
                "-a",
                "a b"
            })
    void namesAreOnesThatNobodyMistakes(String name) {
        assertThat(admin.post("/api/users", newUser(name, "Somebody", GOOD)).status())
                .isEqualTo(400);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "12345678",
                "123456789012",
                "password1234",
                "qwertyuiop12",
                "mynameissomebody1",
                "short-one",
                "aaaaaaaaaaaaaaaa",
                "äääääääääääääääääääääääääääääääääääää"
            })
    void passwordsAreNotAmongTheFirstToBeTried(String password) {
        assertThat(admin.post("/api/users", newUser("mynameis", "Somebody", password))
                        .code())
                .isEqualTo("incomplete");
    }

    @Test
    void wrongPasswordsAreCountedAndTheRightOneDoesNotHelpThen() throws Exception {
        var name = user();
        assertThat(signIn(name, GOOD, "10.0.0.1")).isEqualTo(200);
        for (int tries = 0; tries < 5; tries++) {
            assertThat(signIn(name, "wrong", "10.0.0.1")).isEqualTo(403);
        }
        assertThat(signIn(name, GOOD, "10.0.0.1")).as("throttled here").isEqualTo(403);
        assertThat(signIn(name, GOOD, "10.0.0.2")).as("not from elsewhere").isEqualTo(200);
        assertThat(auditor.get("/api/lists/sign-ins/groups?chart=outcome:count&filter=user:is:" + name)
                        .body()
                        .valueStream()
                        .map(one -> one.get("count") + " " + one.get("words").asString()))
                .containsExactly("5 Wrong password", "2 Signed in", "1 Too many tries");
    }

    @Test
    void areSwitchedOffGivenNewPasswordsAndSeenInTheAccessList() throws Exception {
        var name = user();
        assertThat(signIn(name, GOOD, "10.0.1.1")).isEqualTo(200);
        assertThat(put("/api/users/" + name + "/enabled", "{\"enabled\":false}"))
                .isEqualTo(200);
        assertThat(signIn(name, GOOD, "10.0.1.1")).isEqualTo(403);
        assertThat(put("/api/users/" + name + "/enabled", "{\"enabled\":true}")).isEqualTo(200);
        assertThat(put("/api/users/" + name + "/password", "{\"password\":\"seven-green-herons-dive\"}"))
                .isEqualTo(200);
        assertThat(signIn(name, GOOD, "10.0.1.2")).isEqualTo(403);
        assertThat(signIn(name, "seven-green-herons-dive", "10.0.1.3")).isEqualTo(200);
        assertThat(put("/api/users/" + name + "/role", "{\"role\":\"RECEIVABLES\"}"))
                .isEqualTo(200);
        var access = auditor.get("/api/users/access").body().toString();
        assertThat(access).contains(name, "RECEIVABLES");
        assertThat(auditor.get("/api/lists/access-changes/rows?filter=user:is:" + name)
                        .body()
                        .toString())
                .contains("switched off", "given a new password", "is now");
        assertThat(auditor.get("/api/lists/sign-ins/rows?filter=outcome:any:SWITCHED_OFF&filter=user:is:" + name)
                        .body()
                        .get("rows"))
                .hasSize(1);
        assertThat(put("/api/users/admin/enabled", "{\"enabled\":false}"))
                .as("nobody switches themselves off")
                .isEqualTo(400);
        assertThat(jdbc.sql("select count(*) from command_log where request_hash = ?")
                        .param(app.euthyna.server.platform.Hashes.sha256(
                                ("PUT /api/users/" + name + "/password\n{\"password\":\"seven-green-herons-dive\"}")
                                        .getBytes(java.nio.charset.StandardCharsets.UTF_8)))
                        .query(Long.class)
                        .single())
                .as("no hash of the password is kept with the command")
                .isZero();
    }

    @Test
    void theAccessListNamesEverybodyThatSomebodyStandsInFor() {
        var deputy = user();
        var away = List.of(user(), user(), user());
        for (int at = 0; at < away.size(); at++) {
            // the third is away from tomorrow
            jdbc.sql("insert into deputy (of_user, deputy, away_from, away_until) values (?, ?, ?, ?)")
                    .params(
                            away.get(at),
                            deputy,
                            realToday().plusDays(at / 2),
                            realToday().plusDays(1))
                    .update();
        }
        var access = auditor.get("/api/users/access").body();
        var standsInFor = new ArrayList<String>();
        for (var one : access) {
            if (one.get("username").asString().equals(deputy)) {
                one.get("standsInFor").forEach(of -> standsInFor.add(of.asString()));
            }
        }
        assertThat(standsInFor).containsExactlyInAnyOrder(away.get(0), away.get(1));
    }

    /** Decide and write, record and refund: told of whoever holds both, by role or for somebody who is away. */
    @Test
    void combinationsThatOnePersonShouldNotHoldAreTold() {
        var clerk = user();
        var money = user();
        put("/api/users/" + money + "/role", "{\"role\":\"RECEIVABLES\"}");
        var controller = user();
        put("/api/users/" + controller + "/role", "{\"role\":\"CONTROLLER\"}");
        assertThat(together(clerk)).isEmpty();
        assertThat(together(money)).containsExactly("records money and refunds money");
        assertThat(together(controller))
                .containsExactly("writes orders and decides on orders", "records money and refunds money");
        jdbc.sql("insert into deputy (of_user, deputy, away_from, away_until) values (?, ?, ?, ?)")
                .params(controller, clerk, realToday(), realToday().plusDays(1))
                .update();
        assertThat(together(clerk)).hasSize(2);
        assertThat(put("/api/users/" + clerk + "/role", "{\"role\":\"ADMIN\"}")).isEqualTo(200);
        assertThat(together(clerk)).contains("keeps users and works with documents");
    }

    private List<String> together(String username) {
        for (var one : auditor.get("/api/users/access").body()) {
            if (one.get("username").asString().equals(username)) {
                assertThat(one.get("since").isNull()).isFalse();
                return one.get("together")
                        .valueStream()
                        .map(combination -> combination.asString())
                        .toList();
            }
        }
        throw new AssertionError(username + " is not in the access list");
    }

    /** Page by page, each line once, the newest first. */
    private int put(String path, String body) {
        return admin.send("PUT", path, body, UUID.randomUUID().toString()).status();
    }

    /** A controller's deputy decides already, and for 60 days at most. */
    @Test
    void deputiesDecideAlready() {
        var deputy = "{\"deputy\":\"%s\",\"from\":\"%s\",\"until\":\"%s\"}";
        assertThat(controller
                        .send(
                                "PUT",
                                "/api/users/me/absence",
                                deputy.formatted(
                                        "clerk", realToday(), realToday().plusDays(3)),
                                UUID.randomUUID().toString())
                        .code())
                .isEqualTo("incomplete");
        assertThat(controller
                        .send(
                                "PUT",
                                "/api/users/me/absence",
                                deputy.formatted(
                                        "controller2", realToday(), realToday().plusDays(61)),
                                UUID.randomUUID().toString())
                        .code())
                .isEqualTo("incomplete");
    }
}
