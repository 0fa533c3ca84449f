package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.flow.FoldedChains;
import app.euthyna.server.platform.Pages;
import java.io.IOException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.Type;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

class ServerTests extends OnServer {

    @Nested
    class Commands {

        @Test
        void sentTwiceUnderOneKeyHaveTheirEffectOnce() {
            var key = UUID.randomUUID().toString();
            var first = clerk.send("POST", "/api/orders", order("K-1", 1), key);
            var second = clerk.send("POST", "/api/orders", order("K-1", 1), key);
            assertThat(second.text("number")).isEqualTo(first.text("number"));
            assertThat(orders()).isEqualTo(1);
            assertThat(clerk.send("POST", "/api/orders", order("K-2", 1), key).code())
                    .isEqualTo("idempotency-key-reused");
        }

        @Test
        void withoutAKeyAreRefused() {
            assertThat(clerk.send("POST", "/api/orders", order("K-1", 1), null).code())
                    .isEqualTo("idempotency-key-missing");
            assertThat(orders()).isZero();
        }

        @Test
        void againstAVersionThatHasPassedAreRefused() {
            var number = clerk.post("/api/orders", order("V-1", 2)).text("number");
            var line = "{\"no\":1,\"quantity\":3}";
            var change = clerk.send(
                    "PUT", "/api/orders/" + number, "{\"version\":99,\"lines\":[%s]}".formatted(line), "k" + number);
            assertThat(change.status()).isEqualTo(409);
            assertThat(change.code()).isEqualTo("stale-version");
        }

        @Test
        void thatMakeNoSenseAreToldInWordsAndChangeNothing() {
            assertThat(clerk.post("/api/orders", "{\"customer\":").code()).isEqualTo("malformed");
            assertThat(clerk.post("/api/orders", "{\"customer\":\"\",\"lines\":[]}")
                            .body()
                            .get("detail")
                            .asString())
                    .startsWith("customer:");
            assertThat(clerk.post("/api/orders", order("N", 1).replace(item, "nothing"))
                            .code())
                    .isEqualTo("not-found");
            assertThat(clerk.post("/api/orders", order("N", 1).replace("\"quantity\":1", "\"quantity\":1.2345"))
                            .body()
                            .get("detail")
                            .asString())
                    .contains("at most 3 decimals");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":1,\"surprise\":1")))
                    .isEqualTo("lines[0].surprise is not a field of this request.");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":\"many\"")))
                    .isEqualTo("lines[0].quantity: a number like 12.50, of at most 13 digits before the point, is"
                            + " expected.");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"quantity\":1e30")))
                    .startsWith("lines[0].quantity: a number");
            assertThat(detail(order("N", 1).replace("\"quantity\":1", "\"requestedOn\":\"2026-02-30\"")))
                    .isEqualTo("lines[0].requestedOn: a date like 2026-03-02 is expected.");
            assertThat(detail("{\"customer\":\"%s\",\"lines\":[null]}".formatted(customer)))
                    .isEqualTo("lines[0]: a value is missing.");
            assertThat(detail(order("N", 1)
                            .replace("\"quantity\":1", "\"quantity\":999999999999,\"price\":999999999999")))
                    .isEqualTo("A figure or its total is too large to post.");
            assertThat(clerk.get("/api/orders?after=bm9uc2Vuc2U").code()).isEqualTo("incomplete");
            assertThat(orders()).isZero();
        }

        private String detail(String order) {
            var answer = clerk.post("/api/orders", order);
            assertThat(answer.status()).isEqualTo(400);
            return answer.text("detail");
        }

        private long orders() {
            return jdbc.sql("select count(*) from sales_order o join customer c on c.id = o.customer_id where c.code ="
                            + " ?")
                    .param(customer)
                    .query(Long.class)
                    .single();
        }
    }

    @Nested
    class Agreements {

        private String state(String number) {
            return clerk.get("/api/orders/" + number).text("state");
        }

        private Rest.Answer agree(String terms) {
            var version = clerk.get("/api/customers/" + customer).text("version");
            return lead.send(
                    "PUT",
                    "/api/customers/" + customer + "/terms",
                    "{\"version\":%s%s}".formatted(version, terms),
                    UUID.randomUUID().toString());
        }

        /**
         * Gross 121.00 each: a limit of 250 lends to two; the newest goes first, and what was let go oldest first comes
         * back.
         */
        @Test
        void thatAreTightenedHoldClearedOrdersNewestFirst() {
            var numbers = List.of("A", "B", "C").stream()
                    .map(po -> clerk.post("/api/orders", order("AG-" + po + UUID.randomUUID(), 10))
                            .text("number"))
                    .toList();
            assertThat(numbers).allMatch(number -> state(number).equals("CLEARED"));
            assertThat(agree(",\"creditLimit\":250").status()).isEqualTo(200);
            assertThat(numbers).extracting(this::state).containsExactly("CLEARED", "CLEARED", "HELD");
            agree(",\"blocked\":\"disputes every bill\"");
            assertThat(numbers).allMatch(number -> state(number).equals("HELD"));
            agree(",\"creditLimit\":130");
            assertThat(numbers).extracting(this::state).containsExactly("CLEARED", "HELD", "HELD");
            agree("");
            assertThat(numbers).allMatch(number -> state(number).equals("CLEARED"));
            assertThat(lead.send(
                                    "PUT",
                                    "/api/customers/" + customer + "/terms",
                                    "{\"version\":0}",
                                    UUID.randomUUID().toString())
                            .code())
                    .isEqualTo("stale-version");
        }
    }

    @Nested
    class Today {

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
                    "/api/orders?lane=SENT_BACK",
                    "late",
                    "/api/orders?lane=LATE",
                    "part-shipped",
                    "/api/orders?lane=PART_SHIPPED",
                    "to-stage",
                    "/api/goods/to-stage",
                    "staged",
                    "/api/goods/dispatches",
                    "to-bill",
                    "/api/billing/to-bill",
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

    @Nested
    class TwoClerks {

        /** Fifty times the same PO in the same second from both: one goes through, never two. */
        @Test
        void sendingTheSamePoNeverGetTwoOrdersThrough() throws Exception {
            var threads = Executors.newFixedThreadPool(2);
            for (int round = 0; round < 50; round++) {
                var po = "RACE-" + round;
                List<Callable<Rest.Answer>> both = List.of(
                        () -> clerk.post("/api/orders", order(po, 1)),
                        () -> new Rest(mvc, "clerk2", "CLERK")
                                .post("/api/orders", order("po " + po.toLowerCase(Locale.ROOT), 1)));
                var states = new ArrayList<String>();
                for (var answer : threads.invokeAll(both)) {
                    states.add(answer.get().text("state"));
                }
                assertThat(states).as(po).containsExactlyInAnyOrder("CLEARED", "HELD");
            }
            threads.shutdown();
        }
    }

    @Nested
    class Roles {

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
                    new Command(
                            "POST", "/api/orders/X/waivers", "{\"version\":0,\"findings\":[],\"reason\":\"r\"}", day),
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
                            "POST",
                            "/api/deposits/X/applications",
                            "{\"version\":0,\"invoice\":\"X\",\"amount\":1}",
                            bill),
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
                    new Command(
                            "POST", "/api/batches/stagings", "{\"orders\":[{\"order\":\"X\",\"version\":0}]}", goods),
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
                    new Command(
                            "POST", "/api/unexpected-goods", "{\"item\":\"X\",\"quantity\":1,\"sender\":\"s\"}", goods),
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
                            "POST",
                            "/api/sales-agreements",
                            "{\"kind\":\"QUOTE\",\"content\":" + AGREEMENT + "}",
                            enter),
                    new Command(
                            "PUT", "/api/sales-agreements/X", "{\"version\":0,\"content\":" + AGREEMENT + "}", enter),
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
                for (var role :
                        List.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")) {
                    var answer = new Rest(mvc, "somebody", role)
                            .send(
                                    command.method(),
                                    command.path(),
                                    command.body()
                                            .replace("%s", UUID.randomUUID().toString()),
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
                for (var role :
                        List.of("CLERK", "CONTROLLER", "LEAD", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN")) {
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
            assertThat(new Rest(mvc, "clerk", "CONTROLLER").post(path, body).code())
                    .isEqualTo("four-eyes");
            assertThat(controller
                            .post(path, body)
                            .body()
                            .get("order")
                            .get("state")
                            .asString())
                    .isEqualTo("CLEARED");
        }
    }

    @Nested
    class OrderImport {

        private String row(String reference, String quantity) {
            return "%s,%s,PO-%s,%s,%s\n".formatted(reference, customer, reference, item, quantity);
        }

        @Test
        void takesEveryOrderOnceWithAndWithoutAByteOrderMark() {
            var file = "\ufeffreference,customer,po,item,quantity\r\n" + row("A", "2") + row("A", "3") + row("B", "1");
            var first = clerk.upload(file, "?whole=true");
            assertThat(first.body().get("taken").asInt()).isEqualTo(2);
            assertThat(first.body().get("sentence").asString()).isEqualTo("2 orders imported.");
            var again = clerk.upload(file, "?whole=false");
            assertThat(again.body().get("taken").asInt()).isZero();
            assertThat(again.body().get("takenBefore").asInt()).isEqualTo(2);
        }

        /**
         * Longer than a group: every order is looked at before the first is imported, and each that is refused is told.
         */
        @Test
        void ofManyOrdersIsImportedWholeOrNotAtAll() {
            var rows = new StringBuilder("reference,customer,po,item,quantity,kind\n");
            for (int at = 0; at < 60; at++) {
                rows.append("W%d,%s,PO-W%d,%s,1,standard\n".formatted(at, customer, at, item));
            }
            var bad = rows
                    + "W98,%1$s,PO-W98,%2$s,1,replacement\nW99,%1$s,PO-W99,%2$s,1,replacement\n"
                            .formatted(customer, item);
            var report = clerk.upload(bad, "?whole=true").body();
            assertThat(report.get("taken").asInt()).isZero();
            assertThat(report.get("results")
                            .valueStream()
                            .filter(result -> result.get("outcome").asString().equals("REFUSED"))
                            .map(result -> result.get("reference").asString()))
                    .containsExactly("W98", "W99");
            assertThat(clerk.get("/api/orders?customer=" + customer).body().get("rows"))
                    .isEmpty();
            assertThat(clerk.upload(rows.toString(), "?whole=true")
                            .body()
                            .get("taken")
                            .asInt())
                    .isEqualTo(60);
        }

        @Test
        void namesEveryWrongCellAndTakesNothingWhenToldSo() {
            var file = "reference,customer,po,item,quantity,price\n"
                    + "A,%1$s,P,%2$s,1,10\nB,nobody,P,%2$s,1,10\nC,%1$s,P,nothing,1,10\nD,%1$s,P,%2$s,0,10\nE,%1$s,P,%2$s,\"1,5\",10\n"
                            .formatted(customer, item)
                    + "F,%1$s,P,%2$s,1.5555,10\nG,%1$s,P,%2$s,1,1e3\n,%1$s,P,%2$s,1,10\nH,%1$s,P\nI,%1$s,P,%2$s,-1,10\n"
                            .formatted(customer, item);
            var report = clerk.upload(file, "?whole=true").body();
            assertThat(report.get("taken").asInt()).isZero();
            var bad = new ArrayList<String>();
            report.get("bad")
                    .forEach(cell -> bad.add(cell.get("row").asString() + " "
                            + cell.get("column").asString() + " "
                            + cell.get("value").asString()));
            assertThat(bad)
                    .containsExactly(
                            "3 customer nobody",
                            "4 item nothing",
                            "5 quantity 0",
                            "6 quantity 1,5",
                            "7 quantity 1.5555",
                            "8 price 1e3",
                            "9 reference ",
                            "10  3 cells",
                            "11 quantity -1");
            assertThat(clerk.upload(file, "?whole=false").body().get("taken").asInt())
                    .isEqualTo(1);
        }

        @Test
        void readsQuotedLineBreaksCommasAndFormulasAsText() {
            var file =
                    "reference;customer;po;remark;item;quantity;price\nA;%s;\"=1+1\";\"first line\nsecond; \"\"line\"\"\";%s;1,5;2,25\n"
                            .formatted(customer, item);
            var report =
                    clerk.upload(file, "?delimiter=semicolon&decimalMark=comma").body();
            var order = clerk.get("/api/orders/"
                            + report.get("results").get(0).get("order").asString())
                    .body();
            assertThat(order.get("po").asString()).isEqualTo("=1+1");
            assertThat(order.get("remark").asString()).isEqualTo("first line\nsecond; \"line\"");
            assertThat(order.get("net").asString()).isEqualTo("3.38");
        }

        @Test
        void tellsAFileThatIsEmptyBrokenOrInAnotherEncoding() {
            assertThat(expected("")).contains("the file is empty");
            assertThat(expected("reference,customer,item,quantity\n")).contains("at least one row");
            assertThat(expected("reference,customer,item,quantity\n\"A,b,c,1\n"))
                    .contains("RFC 4180");
            assertThat(expected("reference,customer,item\nA,b,c\n")).contains("a column quantity");
            assertThat(expected("reference,customer,item,quantity,colour\nA,b,c,1,red\n"))
                    .contains("one of the columns");
            var latin = clerk.upload(
                    "reference,customer,item,quantity\nÄ,b,c,1\n".getBytes(StandardCharsets.ISO_8859_1), "");
            assertThat(latin.body().get("bad").get(0).get("expected").asString())
                    .contains("UTF-8");
        }

        /**
         * Two files may name the same customers and items in different sequences at once: neither waits for the other.
         */
        @Test
        void locksWhatItsOrdersWantBeforeTheFirstOfThem() {
            var other = anotherCustomer();
            var report = clerk.upload(
                    "reference,customer,item,quantity\nL1,%s,%s,1\nL2,%s,%s,1\n".formatted(other, item, customer, item),
                    "?whole=false");
            assertThat(report.body().get("results"))
                    .hasSize(2)
                    .allSatisfy(
                            result -> assertThat(result.get("state").asString()).isEqualTo("CLEARED"));
        }

        @Test
        void goesOnInTheBackgroundAndIsFoundAgain() {
            var report = clerk.upload(
                    "reference,customer,item,quantity\n\n" + "L1,%s,%s,1\n".formatted(customer, item), "?whole=false");
            assertThat(report.body().get("results").get(0).get("rows").get(0).asInt())
                    .as("a blank line is counted, as a spreadsheet does")
                    .isEqualTo(3);
            assertThat(clerk.get("/api/imports/" + report.text("id")).body()).isEqualTo(report.body());
            assertThat(clerk.get("/api/imports").body().get(0).get("progress").asString())
                    .isEqualTo("DONE");
            jdbc.sql("update import_log set result = null, orders_done = 0 where id = ?")
                    .param(report.body().get("id").asLong())
                    .update();
            assertThat(clerk.get("/api/imports/" + report.text("id"))
                            .body()
                            .get("sentence")
                            .asString())
                    .isEqualTo("Importing: 0 of 1 orders so far.");
            jdbc.sql(
                            "update import_log set touched_at = timestamp with time zone '2020-01-01 00:00:00+00' where id = ?")
                    .param(report.body().get("id").asLong())
                    .update();
            assertThat(clerk.get("/api/imports/" + report.text("id"))
                            .body()
                            .get("progress")
                            .asString())
                    .isEqualTo("BROKEN_OFF");
        }

        /** Of 250 wrong cells and 240 orders the log has pages, each once and in the sequence of the file. */
        @Test
        void aLongLogIsReadInPages() {
            var rows = IntStream.range(0, 240)
                    .mapToObj(n -> "P%d,%s,%s,1\n".formatted(n, customer, item))
                    .collect(Collectors.joining());
            var wrong = IntStream.range(0, 250)
                    .mapToObj(n -> "W%d,%s,%s,many\n".formatted(n, customer, item))
                    .collect(Collectors.joining());
            var report = clerk.upload("reference,customer,item,quantity\n" + rows + wrong, "");
            assertThat(report.text("sentence")).contains("240 were not imported; 250 cells are wrong");
            assertThat(report.body().get("results")).hasSize(100);
            assertThat(report.body().get("bad")).hasSize(100);
            var log = "/api/imports/" + report.text("id");
            assertThat(all(log + "/results", "reference"))
                    .isEqualTo(IntStream.range(0, 240).mapToObj(n -> "P" + n).toList());
            assertThat(all(log + "/bad-cells", "row"))
                    .isEqualTo(
                            IntStream.range(242, 492).mapToObj(String::valueOf).toList());
            var next = report.text("nextBad");
            assertThat(clerk.get(log + "/bad-cells?after=" + next)
                            .body()
                            .get("rows")
                            .get(0)
                            .get("row")
                            .asInt())
                    .isEqualTo(342);
            assertThat(clerk.get(log + "/results?after=zzz").code()).isEqualTo("incomplete");
            assertThat(clerk.get(log + "/results?after=OTk5OTk").code()).isEqualTo("not-found");
            assertThat(clerk.get(log + "/results?after=" + Pages.cursor(List.of("4294967297")))
                            .code())
                    .as("1, were its upper half dropped")
                    .isEqualTo("not-found");
            assertThat(clerk.get("/api/imports/999999/bad-cells").code()).isEqualTo("not-found");
        }

        /** What was wrong with a cell of a million letters does not answer them all. */
        @Test
        void aLongCellIsToldByItsBeginning() {
            var report = clerk.upload(
                    "reference,customer,item,quantity\nL,%s,%s,1\n".formatted(customer, "\ud83d\ude00".repeat(500_000)),
                    "");
            assertThat(report.body().get("bad").get(0).get("value").asString())
                    .hasSizeLessThan(70)
                    .endsWith("\u2026");
        }

        /** A log of before pages has none, and is read as it was written. */
        @Test
        void aLogOfBeforeIsStillRead() {
            var report = clerk.upload("reference,customer,item,quantity\nB,%s,%s,x\n".formatted(customer, item), "");
            var written = (ObjectNode) report.body().deepCopy();
            written.remove(List.of("nextResults", "nextBad"));
            jdbc.sql("update import_log set result = ? where id = ?")
                    .params(written.toString(), written.get("id").asLong())
                    .update();
            assertThat(clerk.get("/api/imports/" + report.text("id")).body()).isEqualTo(report.body());
        }

        private List<String> all(String path, String field) {
            var found = new ArrayList<String>();
            var page = clerk.get(path).body();
            while (true) {
                page.get("rows").forEach(row -> found.add(row.get(field).asString()));
                if (page.get("next").isNull()) {
                    return found;
                }
                page = clerk.get(path + "?after=" + page.get("next").asString()).body();
            }
        }

        private String expected(String file) {
            return clerk.upload(file, "")
                    .body()
                    .get("bad")
                    .get(0)
                    .get("expected")
                    .asString();
        }
    }

    @Nested
    class Proofs {

        private String shippedAndBilled() {
            var number = clerk.post("/api/orders", order("PR-" + UUID.randomUUID(), 5))
                    .text("number");
            var version = clerk.get("/api/orders/" + number).text("version");
            var dispatch =
                    warehouse.post("/api/dispatches", "{\"order\":\"%s\",\"version\":%s}".formatted(number, version));
            warehouse.post(
                    "/api/dispatches/" + dispatch.text("number") + "/departure",
                    "{\"version\":%s}".formatted(dispatch.text("version")));
            assertThat(receivables
                            .post("/api/invoices", "{\"orders\":[\"%s\"]}".formatted(number))
                            .status())
                    .isEqualTo(200);
            return number;
        }

        @Test
        void agreeForTheBooksAndForTheChainAndFindWhatWasChangedBehindTheirBack() {
            var number = shippedAndBilled();
            assertThat(failing(books())).isEmpty();
            assertThat(failing(chain(number))).isEmpty();
            assertThat(figure(chain(number), 5)).isEqualTo("60.50");
            assertThat(FoldedChains.COMPARED)
                    .as("chains were compared with the tables after each command")
                    .hasPositiveValue();
            jdbc.sql("update journal_line set amount = amount - 1 where role = 'goods_out' and amount < 0 and"
                            + " entry_id = (select max(entry_id) from journal_line where role = 'goods_out')")
                    .update();
            try {
                assertThat(failing(books())).contains(1, 7);
            } finally {
                jdbc.sql("update journal_line set amount = amount + 1 where role = 'goods_out' and amount < 0"
                                + " and entry_id = (select max(entry_id) from journal_line where role ="
                                + " 'goods_out')")
                        .update();
            }
            var quantity = "update dispatch_line set quantity = quantity %s 1 where root_order_id = (select id from"
                    + " sales_order where number = '"
                    + number + "')";
            jdbc.sql(quantity.formatted("-")).update();
            try {
                assertThat(failing(books())).contains(4);
                assertThat(failing(chain(number))).contains(4);
            } finally {
                jdbc.sql(quantity.formatted("+")).update();
            }
            assertThat(failing(books())).isEmpty();
        }

        /** A run looks at one moment: what others post meanwhile must not look like a difference. */
        @Test
        void holdAtEveryMomentWhileOthersPost() throws Exception {
            var threads = Executors.newFixedThreadPool(2);
            var posting = List.of(threads.submit(this::tenTimes), threads.submit(this::tenTimes));
            var runs = 0;
            while (posting.stream().anyMatch(p -> !p.isDone())) {
                assertThat(failing(books())).isEmpty();
                runs++;
            }
            for (var done : posting) {
                done.get();
            }
            threads.shutdown();
            assertThat(runs).isPositive();
        }

        private void tenTimes() {
            for (int at = 0; at < 10; at++) {
                shippedAndBilled();
            }
        }

        private JsonNode books() {
            return auditor.post("/api/proofs", "{}").body().get("statements");
        }

        private JsonNode chain(String number) {
            return auditor.get("/api/proofs/ORDER/" + number).body().get("statements");
        }

        private List<Integer> failing(JsonNode statements) {
            var failing = new ArrayList<Integer>();
            statements.forEach(statement -> {
                if (!statement.get("holds").asBoolean()) {
                    failing.add(statement.get("no").asInt());
                }
            });
            return failing;
        }

        private String figure(JsonNode statements, int no) {
            for (var statement : statements) {
                if (statement.get("no").asInt() == no) {
                    return statement.get("ledger").asString();
                }
            }
            throw new AssertionError("no statement " + no);
        }
    }

    @Nested
    class Documentation {

        private static final JsonMapper JSON = JsonMapper.builder()
                .enable(SerializationFeature.INDENT_OUTPUT)
                .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
                .enable(MapperFeature.SORT_PROPERTIES_ALPHABETICALLY)
                .build();

        /** {@code -Dopenapi.write} writes it anew. */
        @Test
        void typedClientIsMadeFromTheRunningApi() throws IOException {
            var file = Path.of("../web/openapi.json");
            var running = auditor.get("/api/openapi.json").body();
            ((tools.jackson.databind.node.ObjectNode) running).remove("servers");
            if (System.getProperty("openapi.write") != null) {
                Files.writeString(file, JSON.writeValueAsString(JSON.treeToValue(running, Object.class)) + "\n");
            }
            assertThat(JSON.readTree(Files.readString(file)).equals(running))
                    .as("web/openapi.json is what the API says; -Dopenapi.write writes it anew")
                    .isTrue();
        }

        /**
         * The description names a record by its last name alone, so that of two namesakes it would describe only one.
         */
        @Test
        void noTwoRecordsOfTheApiShareAName() {
            var found = new HashSet<Class<?>>();
            handlers.getHandlerMethods().values().stream()
                    .filter(handler -> handler.getBeanType().getPackageName().startsWith("app.euthyna"))
                    .forEach(handler -> {
                        gather(handler.getMethod().getGenericReturnType(), found);
                        Arrays.stream(handler.getMethod().getGenericParameterTypes())
                                .forEach(type -> gather(type, found));
                    });
            var names = found.stream().collect(Collectors.groupingBy(Class::getSimpleName));
            assertThat(names.values().stream().filter(namesakes -> namesakes.size() > 1))
                    .isEmpty();
        }

        private static void gather(Type type, Set<Class<?>> found) {
            if (type instanceof ParameterizedType of) {
                Arrays.stream(of.getActualTypeArguments()).forEach(part -> gather(part, found));
            } else if (type instanceof Class<?> record && record.isRecord() && found.add(record)) {
                Arrays.stream(record.getRecordComponents()).forEach(part -> gather(part.getGenericType(), found));
            }
        }

        @Autowired
        @Qualifier("requestMappingHandlerMapping")
        private RequestMappingHandlerMapping handlers;

        @Test
        void everyRefusalHasItsPage() throws IOException {
            var codes = new TreeSet<String>();
            for (var root : List.of(Path.of("../core/src/main/java"), Path.of("src/main/java"))) {
                try (var files = Files.walk(root)) {
                    for (var file :
                            files.filter(f -> f.toString().endsWith(".java")).toList()) {
                        var matcher = Pattern.compile("String code\\(\\) \\{\\s+return \"([a-z-]+)\"")
                                .matcher(Files.readString(file));
                        while (matcher.find()) {
                            codes.add(matcher.group(1));
                        }
                    }
                }
            }
            codes.removeAll(Set.of(
                    "credit-limit",
                    "zero-price",
                    "licence",
                    "unreserved",
                    "approval",
                    "blocked",
                    "overdue",
                    "price-floor",
                    "margin",
                    "missing-po",
                    "quota",
                    "dates",
                    "unusual",
                    "cancel-rest",
                    "cancel-order",
                    "take-back-invoice",
                    "take-back-dispatch",
                    "take-goods-back",
                    "give-money-back"));
            assertThat(codes).hasSizeGreaterThan(15);
            assertThat(codes)
                    .allSatisfy(code -> assertThat(Path.of("../docs/problems/" + code + ".md"))
                            .exists());
        }
    }
}
