package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is asked of a list, kept under names. */
class ListViewTests extends OnServer {

    private static final String VIEWS = "/api/lists/orders/views";
    private Rest other;

    @BeforeEach
    void another() {
        other = new Rest(mvc, "clerk2", "CLERK");
    }

    private static String view(String name, boolean forAll, String filter, String chart) {
        return "{\"name\":\"%s\",\"forAll\":%s,\"filter\":[%s],\"sort\":\"-gross\",\"columns\":[\"number\",\"site\"],\"chart\":\"%s\"}"
                .formatted(name, forAll, filter.isEmpty() ? "" : "\"" + filter + "\"", chart);
    }

    private String name() {
        return "V " + UUID.randomUUID();
    }

    private List<String> offered(Rest reader) {
        var names = new ArrayList<String>();
        reader.get(VIEWS).body().forEach(one -> names.add(one.get("name").asString()));
        return names;
    }

    private JsonNode offered(Rest reader, String name) {
        for (var one : reader.get(VIEWS).body()) {
            if (one.get("name").asString().equals(name)) {
                return one;
            }
        }
        throw new AssertionError(name + " is not offered");
    }

    @Test
    void areKeptWithAllThatWasAsked() {
        var name = name();
        var kept = clerk.post(VIEWS, view("  " + name + " ", false, "requestedOn:in:last-3-days", "state:count"));
        assertThat(kept.text("name")).isEqualTo(name);
        var read = offered(clerk, name);
        assertThat(read.get("filter").get(0).asString()).isEqualTo("requestedOn:in:last-3-days");
        assertThat(read.get("sort").asString()).isEqualTo("-gross");
        assertThat(read.get("columns")).hasSize(2);
        assertThat(read.get("chart").asString()).isEqualTo("state:count");
        assertThat(read.get("isMine").asBoolean()).isTrue();
        assertThat(read.get("isStandard").asBoolean()).isFalse();
    }

    @Test
    void areOnesOwnUnlessTheyAreForAll() {
        var mine = name();
        var ours = name();
        clerk.post(VIEWS, view(mine, false, "", ""));
        clerk.post(VIEWS, view(ours, true, "", ""));
        assertThat(offered(other)).contains(ours).doesNotContain(mine);
        assertThat(offered(other, ours).get("isMine").asBoolean()).isFalse();
        assertThat(other.post(VIEWS, view(mine, false, "", "")).status())
                .as("another's own names are not in the way")
                .isEqualTo(200);
        assertThat(other.post(VIEWS, view(ours.toUpperCase(Locale.ROOT), false, "", ""))
                        .code())
                .isEqualTo("incomplete");
    }

    @Test
    void areChangedByThoseWhoKeepThemAgainstTheVersionThatTheySaw() {
        var name = name();
        var key = clerk.post(VIEWS, view(name, true, "", "")).text("key");
        var change = "{\"version\":%s,\"view\":%s}";
        var first = clerk.send("PUT", VIEWS + "/" + key, change.formatted(0, view(name, true, "state:any:HELD", "")));
        assertThat(first.text("version")).isEqualTo("1");
        assertThat(clerk.send("PUT", VIEWS + "/" + key, change.formatted(0, view(name, true, "", "")))
                        .code())
                .isEqualTo("stale-version");
        assertThat(other.send("PUT", VIEWS + "/" + key, change.formatted(1, view(name, true, "", "")))
                        .code())
                .isEqualTo("not-authorised");
        assertThat(other.send("DELETE", VIEWS + "/" + key, "{}").code()).isEqualTo("not-authorised");
        assertThat(offered(other, name).get("filter").get(0).asString())
                .as("what was refused changed nothing")
                .isEqualTo("state:any:HELD");
        assertThat(lead.send("DELETE", VIEWS + "/" + key, "{}").status())
                .as("the lead clears up what is kept for all")
                .isEqualTo(200);
        assertThat(offered(clerk)).doesNotContain(name);
        assertThat(clerk.send("DELETE", VIEWS + "/" + key, "{}").code()).isEqualTo("not-found");
    }

    @Test
    void oneOfThemIsSeenFirst() {
        var name = name();
        var key = clerk.post(VIEWS, view(name, true, "", "")).text("key");
        other.send("PUT", "/api/lists/orders/standard", "{\"key\":\"%s\"}".formatted(key));
        assertThat(offered(other, name).get("isStandard").asBoolean()).isTrue();
        assertThat(offered(clerk, name).get("isStandard").asBoolean()).isFalse();
        other.send("PUT", "/api/lists/orders/standard", "{\"key\":\"\"}");
        assertThat(offered(other, name).get("isStandard").asBoolean()).isFalse();
        var own = clerk.post(VIEWS, view(name(), false, "", "")).text("key");
        assertThat(other.send("PUT", "/api/lists/orders/standard", "{\"key\":\"%s\"}".formatted(own))
                        .code())
                .isEqualTo("not-found");
    }

    @Test
    void areReadBeforeTheyAreKept() {
        assertThat(clerk.post(VIEWS, view(name(), false, "gross:any:5", "")).code())
                .isEqualTo("unreadable-filter");
        assertThat(clerk.post(VIEWS, view(name(), false, "salary:any:5", "")).code())
                .isEqualTo("unknown-field");
        assertThat(clerk.post(VIEWS, view(name(), false, "po:starts:a\\nb", "")).code())
                .isEqualTo("unreadable-filter");
        assertThat(clerk.post(VIEWS, view(name(), false, "", "state")).code()).isEqualTo("not-charted");
        assertThat(clerk.post(VIEWS, view(" ", false, "", "")).code()).isEqualTo("incomplete");
        assertThat(warehouse.post(VIEWS, view(name(), false, "", "")).code()).isEqualTo("not-authorised");
    }

    /** As with a field that is hidden from somebody: the list has it no more, or not for them. */
    @Test
    void thatTellByAFieldThatIsNotThereAreNotOffered() {
        var name = name();
        var key = clerk.post(VIEWS, view(name, true, "", "")).text("key");
        jdbc.sql("update list_view set filters = 'salary:between:1..' where id = ?")
                .param(Long.valueOf(key))
                .update();
        assertThat(offered(clerk)).doesNotContain(name);
        assertThat(offered(other)).doesNotContain(name);
    }

    /** Each can be asked, and has a name of its own. */
    @Test
    void shipWithTheApplication() {
        var shipped = 0;
        for (var list : auditor.get("/api/lists").body()) {
            var name = list.get("name").asString();
            for (var view : auditor.get("/api/lists/" + name + "/views").body()) {
                if (!view.get("owner").asString().isEmpty()) {
                    continue;
                }
                shipped++;
                var asked = new StringBuilder();
                view.get("filter").forEach(one -> asked.append("&filter=").append(one.asString()));
                assertThat(auditor.get("/api/lists/%s/rows?%s".formatted(name, asked))
                                .status())
                        .as(view.toString())
                        .isEqualTo(200);
                if (!view.get("chart").asString().isEmpty()) {
                    assertThat(auditor.get("/api/lists/%s/groups?chart=%s%s"
                                            .formatted(name, view.get("chart").asString(), asked))
                                    .status())
                            .as(view.toString())
                            .isEqualTo(200);
                }
                assertThat(auditor.send(
                                        "DELETE",
                                        "/api/lists/%s/views/%s"
                                                .formatted(name, view.get("key").asString()),
                                        "{}")
                                .code())
                        .as("nobody takes them away")
                        .isEqualTo("not-found");
            }
        }
        assertThat(shipped).isPositive();
        assertThat(offered(clerk)).doesNotHaveDuplicates();
        assertThat(clerk.post(VIEWS, view("late orders", false, "", "")).code()).isEqualTo("incomplete");
        clerk.send("PUT", "/api/lists/orders/standard", "{\"key\":\"late\"}");
        assertThat(offered(clerk, "Late orders").get("isStandard").asBoolean()).isTrue();
        clerk.send("PUT", "/api/lists/orders/standard", "{\"key\":\"\"}");
    }
}
