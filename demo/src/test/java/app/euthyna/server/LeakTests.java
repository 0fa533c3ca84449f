package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Figures that are nowhere else are planted in the documents of one customer, from the order to the refund; then every
 * address that is published is asked for, by every role, about those documents: no answer, paper or mail holds what its
 * reader may not read (section 15 of the domain reference).
 */
@Order(1)
class LeakTests extends OnServer {

    private static final String PO = "PLANTED-7741";
    /** Three and two of what costs 61,739.17, with VAT of 21 %; what is paid and deposited. */
    private static final Set<String> SELLING = Set.of(
            "PLANTED",
            "Planted",
            "planted",
            "185217.51",
            "224113.19",
            "38895.68",
            "123478.34",
            "149408.79",
            "23577.53");

    private static final Set<String> TERMS = Set.of("61739.17", "918234567.89");
    private static final Set<String> COSTS = Set.of("41357.1931", "47339.1173", "47339.12");
    /** Three, two and one at 41,357.1931; whoever reads the ledger reads it there. */
    private static final Set<String> COST_OF_GOODS = Set.of("124071.58", "82714.39", "41357.19");

    /** So many of them are met by whoever may read everything. */
    private static final List<String> EVERY =
            List.of(PO, "185217.51", "224113.19", "124071.58", "41357.1931", "47339.1173", "61739.17", "918234567.89");

    /** The figure itself, not one that it is a part of. */
    private static Optional<String> met(String said, String secret) {
        if (!said.contains(secret)) {
            return Optional.empty();
        }
        var at = Pattern.compile("(?<![0-9.:])" + Pattern.quote(secret) + "0*(?![0-9])")
                .matcher(said);
        return at.find()
                ? Optional.of(said.substring(Math.max(0, at.start() - 60), Math.min(said.length(), at.end() + 40)))
                : Optional.empty();
    }

    /** Figures without marks between their thousands. */
    private static String plain(String said) {
        return said.replaceAll("(?<=[0-9]),(?=[0-9]{3})", "");
    }

    /** What an address is asked about: the numbers for what its path leaves open, under the beginning of the path. */
    private final Map<String, List<String>> documents = new LinkedHashMap<>();

    private String done(Rest.Answer answer, String field) {
        assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
        return answer.text(field);
    }

    /** What is planted, from the price to the last batch; the numbers of its documents are kept. */
    private void plant() {
        priced();
        var order = done(clerk.post("/api/orders", order(PO, 3)), "number");
        var dispatch = gone(order);
        var invoice = done(billed(order), "number");
        var paidAndCredited = paidAndGivenBack(dispatch, invoice);
        var cleared = done(clerk.post("/api/orders", order(PO + "/D", 3)), "number");
        var deposit = done(
                receivables.post("/api/deposits", "{\"order\":\"%s\",\"amount\":23577.53}".formatted(cleared)),
                "number");
        var low = order(PO + "/L", 3).replace("\"quantity\":3", "\"quantity\":3,\"price\":45000");
        var held = done(clerk.post("/api/orders", low), "number");
        assertThat(clerk.get("/api/orders/" + held).text("state")).isEqualTo("HELD");
        done(clerk.post("/api/sales-agreements", """
                    {"kind":"QUOTE","content":{"customer":"%s","po":"%s","from":"%s","until":"2099-12-31",
                     "lines":[{"item":"%s","quantity":3}]}}\
                    """.formatted(customer, PO, realToday(), item)), "number");
        documents.put("orders", List.of(order, held, cleared));
        documents.put("lists", List.of("orders"));
        documents.put("review", List.of(order, held, cleared));
        documents.put("dispatches", List.of(dispatch));
        documents.put("invoices", List.of(invoice));
        documents.put("payments", paidAndCredited);
        documents.put("deposits", List.of(deposit));
        documents.put("customers", List.of(customer));
        documents.put("items", List.of(item));
        documents.put("stock", List.of(item));
        documents.put("prints", sentAndPrinted(order, dispatch, invoice));
        documents.put("batches", inBulk(held));
    }

    /** A thousand in stock at the planted cost, for sale at the planted price to the planted limit. */
    private void priced() {
        done(
                warehouse.post(
                        "/api/stock-counts", "{\"item\":\"%s\",\"counted\":0,\"reason\":\"planted\"}".formatted(item)),
                "number");
        done(
                warehouse.post(
                        "/api/stock-receipts",
                        "{\"item\":\"%s\",\"quantity\":1000,\"unitCost\":41357.1931}".formatted(item)),
                "number");
        jdbc.sql("update item set floor_price = 47339.1173, price = 61739.17 where code = ?")
                .param(item)
                .update();
        jdbc.sql("update customer set credit_limit = 918234567.89, email = 'orders@harbour.example' where code = ?")
                .param(customer)
                .update();
    }

    /** A part is paid, two come back and are credited; the payment and the credit notes. */
    private List<String> paidAndGivenBack(String dispatch, String invoice) {
        var payment = done(
                receivables.post(
                        "/api/payments",
                        "{\"customer\":\"%s\",\"amount\":23577.53,\"allocate\":[{\"invoice\":\"%s\",\"amount\":23577.53}]}"
                                .formatted(customer, invoice)),
                "number");
        var back = done(
                controller.post(
                        "/api/returns",
                        "{\"reason\":\"damaged\",\"lines\":[{\"dispatch\":\"%s\",\"line\":1,\"quantity\":2}]}"
                                .formatted(dispatch)),
                "number");
        done(warehouse.post("/api/returns/" + back + "/receipts", "{}"), "number");
        done(
                warehouse.post(
                        "/api/returns/" + back + "/inspections",
                        "{\"lines\":[{\"line\":1,\"restock\":1,\"scrap\":0}]}"),
                "number");
        var credit =
                controller.post("/api/credit-notes", "{\"ofReturn\":\"%s\",\"reason\":\"damaged\"}".formatted(back));
        assertThat(credit.status()).as(credit.body().toString()).isEqualTo(200);
        var credits = credit.body()
                .get("numbers")
                .valueStream()
                .map(number -> number.asString())
                .toList();
        documents.put("returns", List.of(back));
        documents.put("credit-notes", credits);
        return Stream.concat(Stream.of(payment), credits.stream()).toList();
    }

    /** Mails and prints of the papers; the prints. */
    private List<String> sentAndPrinted(String order, String dispatch, String invoice) {
        done(receivables.post("/api/mails", "{\"paper\":\"INVOICE\",\"number\":\"%s\"}".formatted(invoice)), "message");
        done(
                warehouse.post("/api/mails", "{\"paper\":\"PACKING_SLIP\",\"number\":\"%s\"}".formatted(dispatch)),
                "message");
        return Map.of("INVOICE", invoice, "ORDER_CONFIRMATION", order, "PACKING_SLIP", dispatch).entrySet().stream()
                .map(paper -> done(
                        controller.post(
                                "/api/prints",
                                "{\"paper\":\"%s\",\"numbers\":[\"%s\"]}".formatted(paper.getKey(), paper.getValue())),
                        "id"))
                .toList();
    }

    /** What was asked for in bulk about an order that is held. */
    private List<String> inBulk(String held) {
        return List.of(
                done(
                        receivables.post(
                                "/api/batches/billings", "{\"invoices\":[{\"orders\":[\"%s\"]}]}".formatted(held)),
                        "id"),
                done(receivables.post("/api/batches/reminders", "{\"customers\":[\"%s\"]}".formatted(customer)), "id"),
                done(
                        warehouse.post(
                                "/api/batches/stagings",
                                "{\"orders\":[{\"order\":\"%s\",\"version\":0}]}".formatted(held)),
                        "id"));
    }

    private static final Map<String, String> KINDS = Map.of(
            "orders",
            "ORDER",
            "dispatches",
            "DISPATCH",
            "invoices",
            "INVOICE",
            "payments",
            "PAYMENT",
            "returns",
            "RETURN",
            "credit-notes",
            "CREDIT_NOTE",
            "deposits",
            "DEPOSIT");

    /** Every paper of what was planted. */
    private List<String> papers() {
        return Map.of(
                        "INVOICE", "invoices",
                        "ORDER_CONFIRMATION", "orders",
                        "PACKING_SLIP", "dispatches",
                        "RETURN_SLIP", "returns",
                        "CREDIT_NOTE", "credit-notes",
                        "STATEMENT", "customers")
                .entrySet()
                .stream()
                .flatMap(paper -> documents.get(paper.getValue()).stream()
                        .map(number -> "/api/papers/" + paper.getKey() + "?number=" + number))
                .toList();
    }

    /** The addresses for a path of the interface, about what was planted. */
    private List<String> addresses(String path) {
        var start = path.split("/", -1)[2];
        if (path.equals("/api/find")) {
            return Stream.concat(
                            Stream.of(PO, "planted77", customer, item),
                            documents.values().stream().flatMap(List::stream))
                    .map(typed -> "/api/find?q=" + typed)
                    .toList();
        }
        if (path.equals("/api/papers/{paper}")) {
            return papers();
        }
        if (path.contains("{kind}")) {
            return KINDS.entrySet().stream()
                    .flatMap(kind -> documents.get(kind.getKey()).stream()
                            .map(number ->
                                    path.replace("{kind}", kind.getValue()).replace("{number}", number)))
                    .toList();
        }
        if (path.startsWith("/api/{owner}")) {
            return documents.get("returns").stream()
                    .map(number -> path.replace("{owner}", "returns")
                            .replace("{number}", number)
                            .replace("{id}", "1"))
                    .toList();
        }
        if (path.startsWith("/api/outbox/")) {
            return jdbc
                    .sql("select id from outbox_message order by id desc fetch first 6 rows only")
                    .query(String.class)
                    .list()
                    .stream()
                    .map(id -> path.replace("{id}", id))
                    .toList();
        }
        if (path.contains("{")) {
            return documents.getOrDefault(start, List.of("1")).stream()
                    .map(number -> path.replaceFirst("[{][a-z]+[}]", number).replace("{id}", "1"))
                    .toList();
        }
        return filtered(path);
    }

    /** A list, whole and by everything that it may be asked for. */
    private List<String> filtered(String path) {
        var about =
                "customer=%s&q=%s&item=%s&dispatch=%s&invoice=%s&order=%s&ofOrder=%s&kind=ORDER&number=%s&departed=true"
                        .formatted(
                                customer,
                                item,
                                item,
                                documents.get("dispatches").get(0),
                                documents.get("invoices").get(0),
                                documents.get("orders").get(0),
                                documents.get("orders").get(0),
                                documents.get("orders").get(0));
        return List.of(
                path,
                path + "?" + about,
                path + "?customer=" + customer,
                path + "?q=" + item,
                path + "?dispatch=" + documents.get("dispatches").get(0),
                path + "?ofInvoice=" + documents.get("invoices").get(0),
                path + "?kind=ORDER&number=" + documents.get("orders").get(0),
                path + "?q=" + customer);
    }

    private static String words(byte[] answer) {
        if (answer.length > 4 && new String(answer, 0, 4, StandardCharsets.ISO_8859_1).equals("%PDF")) {
            try (var document = Loader.loadPDF(answer)) {
                return plain(new PDFTextStripper().getText(document));
            } catch (IOException none) {
                throw new IllegalStateException(none);
            }
        }
        return plain(new String(answer, StandardCharsets.UTF_8));
    }

    /** What a role may not read there. */
    private static Set<String> secrets(String role, String address) {
        var secrets = new HashSet<String>();
        if (role.equals("WAREHOUSE") || role.equals("ADMIN")) {
            secrets.addAll(SELLING);
        }
        if (role.equals("WAREHOUSE")) {
            secrets.addAll(TERMS);
        }
        secrets.addAll(COSTS);
        if (!role.equals("RECEIVABLES") || !address.matches("/api/(ledger|trails|proofs|unwind)/.*")) {
            secrets.addAll(COST_OF_GOODS);
        }
        // they search for it themselves
        if (address.startsWith("/api/find?q=")) {
            secrets.remove(address.substring("/api/find?q=".length()));
        }
        return secrets;
    }

    /** Looks, dry runs and refusals of those who may ask for them: each in words, with who asked. */
    private Map<Rest, List<String>> said() {
        var said = new LinkedHashMap<Rest, List<String>>();
        var held = documents.get("orders").get(1);
        var low = order("LOW-1", 3).replace("\"quantity\":3", "\"quantity\":3,\"price\":45000");
        for (var role : List.of(clerk, warehouse, receivables)) {
            var answers = said.computeIfAbsent(role, one -> new ArrayList<>());
            answers.add(role.post("/api/dispatches", "{\"order\":\"%s\",\"version\":0}".formatted(held))
                    .body()
                    .toString());
            answers.add(role.post(
                            "/api/returns",
                            "{\"reason\":\"damaged\",\"lines\":[{\"dispatch\":\"%s\",\"line\":1,\"quantity\":99}]}"
                                    .formatted(documents.get("dispatches").get(0)))
                    .body()
                    .toString());
            answers.add(role.post("/api/dry-runs", low).body().toString());
            answers.add(role.post("/api/orders", low).body().toString());
            answers.add(role.post(
                            "/api/orders/" + held + "/waivers",
                            "{\"version\":0,\"findings\":[\"price-floor\",\"margin\"],\"reason\":\"r\"}")
                    .body()
                    .toString());
            for (var kind : List.of("orders", "dispatches", "invoices", "payments", "deposits", "returns")) {
                for (var number : documents.get(kind)) {
                    var about = "kind=%s&number=%s".formatted(KINDS.get(kind), number);
                    for (var way : role.get("/api/unwind/ways?" + about).body().path("ways")) {
                        answers.add(role.post("/api/unwind/plans", """
                            {"kind":"%s","number":"%s","intent":"%s","reasonCode":"other","reason":"r"}\
                            """.formatted(
                                                KINDS.get(kind),
                                                number,
                                                way.get("intent").asString()))
                                .body()
                                .toString());
                    }
                }
            }
        }
        return said;
    }

    @Test
    void nothingHoldsWhatItsReaderMayNotRead() throws Exception {
        rules(rules -> ((ObjectNode) rules.get("figures")).put("minimumMargin", "17.7"));
        try {
            plant();
            var paths = new JsonMapper()
                    .readTree(Files.readString(Path.of("../web/openapi.json")))
                    .get("paths");
            var leaks = new TreeSet<String>();
            var read = new TreeMap<String, Integer>();
            for (var path : paths.properties()) {
                if (!path.getValue().has("get")) {
                    continue;
                }
                for (var address : addresses(path.getKey())) {
                    for (var role : List.of(clerk, warehouse, receivables, admin)) {
                        var said = words(role.bytes(address));
                        read.merge(role.role(), said.length() > 2 ? 1 : 0, Integer::sum);
                        for (var secret : secrets(role.role(), address)) {
                            met(said, secret)
                                    .ifPresent(around -> leaks.add(
                                            "%s reads %s at %s: %s".formatted(role.role(), secret, address, around)));
                        }
                    }
                    for (var secret : EVERY) {
                        if (met(words(auditor.bytes(address)), secret).isPresent()) {
                            read.merge(secret, 1, Integer::sum);
                        }
                    }
                }
            }
            var said = said();
            said.forEach((role, answers) -> {
                for (var answer : answers) {
                    var plain = plain(answer);
                    secrets(role.role(), "/api/unwind/plans").stream()
                            .filter(secret -> met(plain, secret).isPresent())
                            .forEach(secret -> leaks.add(role.role() + " is told " + secret + ": " + answer));
                }
            });
            // plans show the ledger and what stock is worth: for those alone who read both
            assertThat(said.get(clerk))
                    .anyMatch(answer -> answer.contains("To unwind documents is for a controller"))
                    .noneMatch(answer -> answer.contains("\"fingerprint\""));
            // it could be found: whoever may read everything met each of them
            assertThat(read.keySet()).containsAll(EVERY);
            assertThat(leaks).isEmpty();
        } finally {
            rules(rules -> ((ObjectNode) rules.get("figures")).putNull("minimumMargin"));
        }
    }
}
