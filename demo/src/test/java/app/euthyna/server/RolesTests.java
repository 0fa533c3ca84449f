package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/** Who may do what, and read what. */
class RolesTests extends OnServer {

    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping commands;

    /** Orders and plans show prices: whoever does not read them writes nothing on them. */
    private static boolean isForReaders(String path) {
        return path.startsWith("/api/orders/") || path.startsWith("/api/unwind/");
    }

    /**
     * Every command against every role: who is let to it. A refusal of the role is told apart from a refusal of the
     * content.
     */
    @Test
    void areCheckedOnTheServerForEveryCommand() throws IOException {
        var table = table();
        var covered = table.stream()
                .map(command -> command.method() + " " + command.path())
                .toList();
        var missing = commands.getHandlerMethods().keySet().stream()
                .flatMap(info -> info.getMethodsCondition().getMethods().stream()
                        .filter(method -> method != RequestMethod.GET)
                        .flatMap(method -> info.getPatternValues().stream().map(path -> method + " " + path)))
                .filter(command -> !WITHOUT_A_ROLE.contains(command) && !AS_A_FILE.contains(command))
                .filter(command ->
                        covered.stream().noneMatch(one -> one.matches(command.replaceAll("\\{[^}]+}", "[^/]+"))))
                .toList();
        assertThat(missing).as("every command has its row").isEmpty();
        table.forEach(this::isCheckedForEveryRole);
    }

    /** Method, path, roles and body of every command, from the resource beside this class. */
    private List<Command> table() throws IOException {
        try (var lines = RolesTests.class.getResourceAsStream("commands-by-role.txt")) {
            return new String(lines.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.startsWith("#"))
                    .map(line -> line.split(" ", 4))
                    .map(part -> new Command(
                            part[0],
                            part[1],
                            part[3].replace("@ORDER", order("R", 1))
                                    .replace("@AGREEMENT", AGREEMENT)
                                    .replace("@RULES", RULES),
                            Set.of(part[2].split(","))))
                    .toList();
        }
    }

    private void isCheckedForEveryRole(Command command) {
        for (var role : List.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")) {
            var answer = new Rest(mvc, "somebody", role)
                    .send(
                            command.method(),
                            command.path(),
                            command.body().replace("%s", UUID.randomUUID().toString()),
                            UUID.randomUUID().toString());
            var barred = answer.status() == 403
                    && answer.body().path("detail").asString("").startsWith("Your role");
            assertThat(!barred)
                    .as("%s %s as %s: %s", command.method(), command.path(), role, answer.body())
                    .isEqualTo(command.allowed().contains(role)
                            && (!isForReaders(command.path()) || !role.equals("WAREHOUSE")));
        }
    }

    /** Signing in and out is for everybody. */
    private static final Set<String> WITHOUT_A_ROLE = Set.of("POST /api/session", "DELETE /api/session");

    private static final Set<String> AS_A_FILE = Set.of(
            "POST /api/imports",
            "POST /api/imports/past-invoices",
            "POST /api/imports/stock",
            "POST /api/{owner:orders|returns|unexpected-goods|write-offs}/{number}/attachments",
            "POST /api/bank-statements");

    @Test
    void areCheckedForFilesToo() {
        for (var command : AS_A_FILE) {
            var enter = command.contains("attachments")
                    ? Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES")
                    : Set.of(
                            command.contains("bank")
                                    ? "RECEIVABLES"
                                    : command.contains("stock") ? "WAREHOUSE" : "CLERK",
                            "CONTROLLER",
                            "LEAD");
            for (var role : List.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")) {
                var answer = new Rest(mvc, "somebody", role)
                        .uploadTo(
                                command.substring(5)
                                        .replaceFirst("\\{owner[^}]*}", "returns")
                                        .replace("{number}", "X"),
                                "x".getBytes(StandardCharsets.UTF_8));
                var barred = answer.status() == 403
                        && answer.body().path("detail").asString("").startsWith("Your role");
                assertThat(!barred)
                        .as("%s as %s: %s", command, role, answer.body())
                        .isEqualTo(enter.contains(role));
            }
        }
    }

    private static final String AGREEMENT =
            "{\"customer\":\"X\",\"from\":\"2026-01-01\",\"until\":\"2026-12-31\",\"lines\":[{\"item\":\"X\",\"quantity\":1}]}";
    private static final String RULES = """
        {"version":99999,"checks":[],"figures":{"unusualScore":3.5},"po":{"required":false,"same":"STOP","alike":"STOP","near":"CAUTION","barred":"HOLD"},
         "places":{"openOrders":true,"closedOrders":true,"closedMonths":24,"unpostedInvoices":true,"postedInvoices":true,"importedHistory":true},"reason":"r"}\
        """;

    private record Command(String method, String path, String body, Set<String> allowed) {}

    @Test
    void waivingIsForControllersAndNotForTheAuthor() {
        clerk.post("/api/orders", order("W", 1));
        var held = clerk.post("/api/orders", order("W", 1));
        var path = "/api/orders/" + held.text("number") + "/waivers";
        var body = "{\"version\":%s,\"findings\":[\"duplicate-po\"],\"reason\":\"asked\"}"
                .formatted(clerk.get("/api/orders/" + held.text("number")).text("version"));
        assertThat(clerk.post(path, body).code()).isEqualTo("not-authorised");
        assertThat(new Rest(mvc, "clerk", "CONTROLLER").post(path, body).code()).isEqualTo("four-eyes");
        assertThat(controller.post(path, body).body().get("order").get("state").asString())
                .isEqualTo("CLEARED");
    }
}
