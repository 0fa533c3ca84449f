package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

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
    void areCheckedOnTheServerForEveryCommand() {
        var day = Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES");
        var enter = Set.of("CLERK", "CONTROLLER", "LEAD");
        var goods = Set.of("WAREHOUSE", "CONTROLLER", "LEAD");
        var bill = Set.of("RECEIVABLES", "CONTROLLER", "LEAD");
        var decide = Set.of("CONTROLLER", "LEAD");
        var keep = Set.of("LEAD", "ADMIN");
        var table = List.of(
                new Command("POST", "/api/orders", order("R", 1), enter),
                new Command("PUT", "/api/orders/X", "{\"version\":0,\"lines\":[]}", enter),
                new Command("POST", "/api/orders/X/submission", "{\"version\":0}", enter),
                new Command("POST", "/api/dry-runs", order("R", 1), enter),
                new Command("POST", "/api/orders/X/waivers", "{\"version\":0,\"findings\":[],\"reason\":\"r\"}", day),
                new Command("POST", "/api/orders/X/declination", "{\"version\":0,\"reason\":\"r\"}", day),
                new Command("POST", "/api/orders/X/approvals", "{\"version\":0}", day),
                new Command("POST", "/api/orders/X/recalls", "{\"version\":0}", day),
                new Command("POST", "/api/orders/X/send-backs", "{\"version\":0}", day),
                new Command(
                        "PUT",
                        "/api/today/limits/held",
                        "{\"days\":5}",
                        Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")),
                new Command(
                        "POST",
                        "/api/today/looks",
                        "{}",
                        Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")),
                new Command("PUT", "/api/customers/X/terms", "{\"version\":0}", keep),
                new Command("PUT", "/api/approval-rules", "{\"rules\":[]}", keep),
                new Command("PUT", "/api/customers/X/approval-rules", "{\"rules\":[]}", keep),
                new Command("DELETE", "/api/customers/X/approval-rules", "{}", keep),
                new Command("POST", "/api/stock-receipts", "{\"item\":\"X\",\"quantity\":1,\"unitCost\":1}", goods),
                new Command("POST", "/api/dispatches", "{\"order\":\"X\",\"version\":0}", goods),
                new Command("POST", "/api/dispatches/X/departure", "{\"version\":0}", goods),
                new Command("POST", "/api/dispatches/X/voiding", "{\"version\":0}", goods),
                new Command("POST", "/api/invoices", "{\"orders\":[\"X\"]}", bill),
                new Command("POST", "/api/payments", "{\"customer\":\"X\",\"amount\":1}", bill),
                new Command(
                        "POST",
                        "/api/credit-allocations",
                        "{\"customer\":\"X\",\"allocate\":[{\"invoice\":\"X\",\"amount\":1}]}",
                        bill),
                new Command(
                        "POST",
                        "/api/payments/X/unallocations",
                        "{\"version\":0,\"allocate\":[{\"invoice\":\"X\",\"amount\":1}]}",
                        bill),
                new Command("POST", "/api/payments/X/reversal", "{\"version\":0,\"reason\":\"r\"}", bill),
                new Command(
                        "POST",
                        "/api/direct-invoices",
                        "{\"customer\":\"X\",\"lines\":[{\"item\":\"X\",\"quantity\":1}]}",
                        bill),
                new Command("POST", "/api/batches/billings", "{\"invoices\":[{\"orders\":[\"X\"]}]}", bill),
                new Command("PUT", "/api/orders/X/deposit-request", "{\"amount\":1}", day),
                new Command("POST", "/api/deposits", "{\"order\":\"X\",\"amount\":1}", bill),
                new Command(
                        "POST", "/api/deposits/X/applications", "{\"version\":0,\"invoice\":\"X\",\"amount\":1}", bill),
                new Command("POST", "/api/deposits/X/moves", "{\"version\":0,\"order\":\"X\"}", bill),
                new Command("POST", "/api/deposits/X/credits", "{\"version\":0}", bill),
                new Command("POST", "/api/refunds", "{\"of\":\"X\",\"version\":0,\"reason\":\"r\"}", bill),
                new Command("POST", "/api/stock-counts", "{\"item\":\"X\",\"counted\":1,\"reason\":\"r\"}", goods),
                new Command(
                        "POST",
                        "/api/reservation-transfers",
                        "{\"from\":\"X\",\"fromLine\":1,\"to\":\"Y\",\"toLine\":1,\"version\":0,\"quantity\":1,\"reason\":\"r\"}",
                        Set.of("CONTROLLER", "LEAD")),
                new Command("POST", "/api/dispatches/X/carrier", "{\"version\":0,\"carrier\":\"c\"}", goods),
                new Command("PUT", "/api/simulated-carrier", "{\"answers\":true}", keep),
                new Command("POST", "/api/batches/stagings", "{\"orders\":[{\"order\":\"X\",\"version\":0}]}", goods),
                new Command(
                        "POST",
                        "/api/batches/departures",
                        "{\"dispatches\":[{\"dispatch\":\"X\",\"version\":0}]}",
                        goods),
                new Command("PUT", "/api/customers/X/address", "{\"version\":0,\"address\":{}}", keep),
                new Command("POST", "/api/ledger/periods/closings", "{\"through\":\"1999-12-31\"}", Set.of("LEAD")),
                new Command("POST", "/api/ledger/periods/reopenings", "{\"reason\":\"r\"}", Set.of("LEAD")),
                new Command(
                        "POST",
                        "/api/ledger/manual-entries",
                        "{\"lines\":[{\"account\":\"X\",\"debit\":1}],\"reason\":\"r\"}",
                        Set.of("LEAD")),
                new Command("POST", "/api/ledger/accounts", "{\"code\":\"R9\",\"name\":\"n\"}", Set.of("LEAD")),
                new Command(
                        "PUT",
                        "/api/ledger/posting-map",
                        "{\"role\":\"revenue\",\"account\":\"nowhere\",\"reason\":\"r\"}",
                        Set.of("LEAD")),
                new Command("POST", "/api/prints", "{\"paper\":\"INVOICE\",\"numbers\":[\"X\"]}", day),
                new Command("POST", "/api/mails", "{\"paper\":\"INVOICE\",\"number\":\"X\"}", day),
                new Command("POST", "/api/batches/reminders", "{\"customers\":[\"X\"]}", bill),
                new Command("POST", "/api/bank-entries/999999/payments", "{\"customer\":\"X\"}", bill),
                new Command("POST", "/api/bank-entries/999999/settings-aside", "{\"reason\":\"r\"}", bill),
                new Command("POST", "/api/bank-statements/999999/payments", "{}", bill),
                new Command(
                        "POST",
                        "/api/unwind/plans",
                        "{\"kind\":\"ORDER\",\"number\":\"X\",\"intent\":\"cancel-rest\",\"reason\":\"r\"}",
                        day),
                new Command(
                        "POST",
                        "/api/unwind/executions",
                        "{\"kind\":\"ORDER\",\"number\":\"X\",\"intent\":\"cancel-rest\",\"reason\":\"r\",\"fingerprint\":\"f\"}",
                        day),
                new Command("POST", "/api/unwind/waiting/0/decisions", "{\"version\":0}", day),
                new Command("POST", "/api/unwind/waiting/0/abandonments", "{\"version\":0,\"reason\":\"r\"}", day),
                new Command("POST", "/api/unwind/leftovers/previews", "{\"orders\":[\"X\"]}", decide),
                new Command(
                        "POST",
                        "/api/unwind/leftovers/cancellations",
                        "{\"orders\":[{\"order\":\"X\",\"fingerprint\":\"f\"}],\"reasonCode\":\"leftover\",\"reason\":\"r\"}",
                        decide),
                new Command(
                        "POST",
                        "/api/returns",
                        "{\"lines\":[{\"dispatch\":\"X\",\"line\":1,\"quantity\":1}],\"reason\":\"damaged\"}",
                        day),
                new Command("POST", "/api/returns/X/receipts", "{}", goods),
                new Command("POST", "/api/returns/X/inspections", "{\"lines\":[{\"line\":1,\"scrap\":1}]}", goods),
                new Command("POST", "/api/returns/X/withdrawals", "{\"reason\":\"r\"}", day),
                new Command("POST", "/api/credit-notes", "{\"ofInvoice\":\"X\",\"reason\":\"r\"}", bill),
                new Command("POST", "/api/returns/X/notes", "{\"text\":\"t\"}", day),
                new Command("PUT", "/api/credit-notes/X/wish", "{\"wish\":\"KEEP\"}", bill),
                new Command("POST", "/api/invoices/X/corrections", "{\"reason\":\"r\"}", bill),
                new Command("POST", "/api/invoices/X/corrections/previews", "{}", bill),
                new Command("POST", "/api/unexpected-goods", "{\"item\":\"X\",\"quantity\":1,\"sender\":\"s\"}", goods),
                new Command(
                        "POST",
                        "/api/unexpected-goods/X/admissions",
                        "{\"version\":0,\"lines\":[{\"dispatch\":\"X\",\"line\":1,\"quantity\":1}],\"returnReason\":\"damaged\",\"reason\":\"r\"}",
                        day),
                new Command(
                        "POST",
                        "/api/unexpected-goods/X/turnings-away",
                        "{\"version\":0,\"away\":\"SENT_BACK\",\"quantity\":1,\"reason\":\"r\"}",
                        day),
                new Command("POST", "/api/batches/return-reminders", "{\"returns\":[\"X\"]}", day),
                new Command("POST", "/api/payouts/X/askings", "{\"version\":0}", bill),
                new Command("POST", "/api/payouts/X/closings", "{\"version\":0}", bill),
                new Command("PUT", "/api/simulated-payment-service", "{\"behaviour\":\"PAYS\"}", keep),
                new Command(
                        "POST",
                        "/api/clearing-previews",
                        "{\"orders\":[{\"number\":\"X\",\"version\":0}],\"reason\":\"r\"}",
                        Set.of("CONTROLLER", "LEAD")),
                new Command(
                        "POST",
                        "/api/clearings",
                        "{\"sequence\":{\"orders\":[{\"number\":\"X\",\"version\":0}],\"reason\":\"r\"},\"fingerprint\":\"f\"}",
                        Set.of("CONTROLLER", "LEAD")),
                new Command(
                        "POST",
                        "/api/orders/X/remedies",
                        "{\"version\":0,\"check\":\"credit-limit\",\"kind\":\"QUANTITY\"}",
                        enter),
                new Command("POST", "/api/orders/X/notes", "{\"text\":\"t\"}", day),
                new Command("POST", "/api/orders/X/reminders", "{}", day),
                new Command("POST", "/api/orders/started", "{\"kind\":\"ORDER\",\"number\":\"X\"}", enter),
                new Command(
                        "PUT",
                        "/api/users/me/absence",
                        "{}",
                        Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")),
                new Command("PUT", "/api/customers/X/po-policy", "{\"version\":0}", keep),
                new Command("PUT", "/api/customers/X/licences", "{\"version\":0,\"licences\":[]}", keep),
                new Command(
                        "PUT",
                        "/api/items/X/quotas",
                        "{\"scope\":\"REGION\",\"key\":\"k\",\"from\":\"2026-01-01\",\"to\":\"2026-12-31\"}",
                        keep),
                new Command(
                        "POST", "/api/sales-agreements", "{\"kind\":\"QUOTE\",\"content\":" + AGREEMENT + "}", enter),
                new Command("PUT", "/api/sales-agreements/X", "{\"version\":0,\"content\":" + AGREEMENT + "}", enter),
                new Command("POST", "/api/sales-agreements/X/closing", "{\"version\":0}", enter),
                new Command("POST", "/api/sales-agreements/X/skips", "{\"version\":0}", enter),
                new Command("POST", "/api/sales-agreements/X/orders", "{\"version\":0}", enter),
                new Command("PUT", "/api/items/X/prices", "{\"breaks\":[]}", keep),
                new Command("DELETE", "/api/orders/X/attachments/1", "{}", day),
                new Command("POST", "/api/rechecks", "{}", Set.of("CONTROLLER", "LEAD")),
                new Command("PUT", "/api/rules", RULES, keep),
                new Command("POST", "/api/rules/previews", RULES, keep),
                new Command("POST", "/api/proofs", "{}", Set.of("CONTROLLER", "LEAD", "AUDITOR")),
                new Command("POST", "/api/customers", "{\"code\":\"%s\",\"name\":\"n\"}", keep),
                new Command(
                        "POST",
                        "/api/items",
                        "{\"code\":\"%s\",\"name\":\"n\",\"kind\":\"STOCK\",\"price\":1,\"vatCategory\":\"Z\",\"vatRate\":0}",
                        keep),
                new Command(
                        "POST",
                        "/api/simulated-register",
                        "{\"licenceClass\":\"x\",\"number\":\"%s\",\"answers\":true}",
                        keep),
                new Command("PUT", "/api/users/X/role", "{\"role\":\"CLERK\"}", Set.of("ADMIN")),
                new Command("PUT", "/api/users/X/enabled", "{\"enabled\":true}", Set.of("ADMIN")),
                new Command("PUT", "/api/users/X/password", "{\"password\":\"p\"}", Set.of("ADMIN")),
                new Command(
                        "PUT",
                        "/api/users/me/password",
                        "{\"current\":\"c\",\"next\":\"n\"}",
                        Set.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")),
                new Command(
                        "POST",
                        "/api/users",
                        "{\"username\":\"%s\",\"displayName\":\"n\",\"role\":\"CLERK\",\"password\":\"long"
                                + " enough\"}",
                        Set.of("ADMIN")));
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
        for (var command : table) {
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
    }

    /** Signing in and out is for everybody. */
    private static final Set<String> WITHOUT_A_ROLE = Set.of("POST /api/session", "DELETE /api/session");

    private static final Set<String> AS_A_FILE = Set.of(
            "POST /api/imports",
            "POST /api/imports/past-invoices",
            "POST /api/imports/stock",
            "POST /api/{owner:orders|returns|unexpected-goods}/{number}/attachments",
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
