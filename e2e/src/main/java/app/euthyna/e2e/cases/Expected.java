package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** Compares what is there with what a case expects. */
final class Expected {

    private final Known known;

    Expected(Known known) {
        this.known = known;
    }

    void compare(Yaml expected) {
        expected.section("state")
                .each((ref, state) -> same("state of " + ref, state.asString(), state(known.document(ref))));
        var findings = expected.section("findings");
        findings.words()
                .forEach(ref -> same(
                        "findings of " + ref,
                        findings.texts(ref).stream().sorted().toList(),
                        findings(known.document(ref).number())));
        expected.section("lines").each((ref, measures) -> lines(ref, Yaml.of(measures, ref)));
        if (expected.has("balances")) {
            balances(expected.section("balances"));
        }
        expected.section("open").each((ref, amount) -> same("open of " + ref, Yaml.figure(amount, ref), open(ref)));
        expected.section("exposure")
                .each((ref, amount) -> same(
                        "exposure of " + ref,
                        Yaml.figure(amount, ref),
                        known.users
                                .as("auditor")
                                .get("/api/customers/" + Api.encode(known.customer(ref)) + "/position")
                                .get("exposure")));
        expected.section("stock").each((ref, figures) -> stock(ref, Yaml.of(figures, ref)));
        if (expected.has("trail")) {
            trail(expected.section("trail").only(Set.of("from", "has", "neighbours")));
        }
        expected.section("entries")
                .each((ref, lines) -> entries(ref, expected.section("entries").sections(ref)));
        if (expected.has("proof")) {
            proof(expected.text("proof"));
        }
        if (expected.has("outcome")) {
            known.requireOutcomes(expected.section("outcome"));
        }
    }

    private String state(Known.Document document) {
        var api = known.users.as("auditor");
        return switch (document.kind()) {
            case "ORDER" ->
                api.get("/api/orders/" + document.number())
                        .get("state")
                        .asString()
                        .replace('_', ' ');
            case "DISPATCH" ->
                api.get("/api/dispatches/" + document.number())
                        .get("state")
                        .asString()
                        .toLowerCase(Locale.ROOT);
            case "INVOICE" ->
                api.get("/api/invoices/" + document.number())
                        .get("state")
                        .asString()
                        .toLowerCase(Locale.ROOT)
                        .replace('_', '-');
            default -> throw new CaseFailed("a " + document.kind() + " has no state");
        };
    }

    private List<String> findings(String order) {
        var open = new ArrayList<String>();
        known.sheet(order).get("findings").forEach(finding -> {
            if (finding.get("state").asString().equals("OPEN")) {
                open.add(finding.get("check").asString());
            }
        });
        return open.stream().sorted().toList();
    }

    private void lines(String ref, Yaml expected) {
        var parts = ref.split("/", -1);
        var names = Map.of("to_ship", "toShip", "to_bill", "toBill");
        expected.only(Set.of(
                "ordered",
                "cancelled",
                "reserved",
                "waiting",
                "staged",
                "dispatched",
                "returned",
                "billed",
                "credited",
                "to_ship",
                "to_bill"));
        for (var flow : known.sheet(known.document(parts[0]).number()).get("flows")) {
            if (flow.get("no").asString().equals(parts[1])) {
                expected.each((measure, quantity) -> same(
                        ref + " " + measure,
                        Yaml.figure(quantity, ref),
                        flow.get(names.getOrDefault(measure, measure))));
                return;
            }
        }
        throw new CaseFailed("there is no line " + ref);
    }

    private void balances(Yaml expected) {
        expected.only(Set.of(
                "bank",
                "receivables",
                "inventory",
                "goods_out",
                "goods_in_inspection",
                "stock_clearing",
                "deposits",
                "customer_credit",
                "deferred_revenue",
                "output_vat",
                "revenue",
                "sales_returns",
                "cogs",
                "write_off",
                "given_away",
                "stock_adjustment",
                "payment_differences",
                "bad_debt",
                "sales_discounts"));
        var changes = new TreeMap<String, BigDecimal>();
        known.balances().forEach((role, now) -> {
            var change = now.subtract(known.balancesBefore.getOrDefault(role, BigDecimal.ZERO));
            if (change.signum() != 0) {
                changes.put(role, change.stripTrailingZeros());
            }
        });
        var wanted = new TreeMap<String, BigDecimal>();
        expected.each((role, amount) -> {
            var figure = Yaml.figure(amount, role);
            if (figure.signum() != 0) {
                wanted.put(role, figure.stripTrailingZeros());
            }
        });
        same("balances", wanted, changes);
    }

    private JsonNode open(String ref) {
        var api = known.users.as("auditor");
        return known.customers.containsKey(ref)
                ? api.get("/api/customers/" + Api.encode(known.customer(ref)) + "/credit")
                        .get("credit")
                : api.get("/api/invoices/" + known.document(ref).number()).get("open");
    }

    private void stock(String ref, Yaml expected) {
        expected.only(Set.of("on_hand", "reserved", "inspection", "value"));
        var sums = new TreeMap<String, BigDecimal>();
        for (var shelf : known.users.as("auditor").get("/api/stock/" + Api.encode(known.item(ref)))) {
            Map.of("on_hand", "onHand", "reserved", "reserved", "inspection", "inspection", "value", "value")
                    .forEach((name, field) ->
                            sums.merge(name, new BigDecimal(shelf.get(field).asString()), BigDecimal::add));
        }
        expected.each((name, figure) -> same(
                "stock " + ref + " " + name,
                Yaml.figure(figure, ref).stripTrailingZeros(),
                sums.getOrDefault(name, BigDecimal.ZERO).stripTrailingZeros()));
    }

    private void trail(Yaml expected) {
        var from = known.document(expected.text("from"));
        var trail = known.users.as("auditor").get("/api/trails/" + from.kind() + "/" + from.number());
        var found = new ArrayList<String>();
        trail.get("documents")
                .forEach(d -> found.add(
                        known.name(d.get("kind").asString(), d.get("number").asString())));
        same(
                "trail from " + expected.text("from"),
                expected.texts("has").stream().sorted().toList(),
                found.stream().sorted().toList());
        if (expected.has("neighbours")) {
            var neighbours = new ArrayList<String>();
            trail.get("neighbours")
                    .forEach(n -> neighbours.add(
                            known.name(n.get("kind").asString(), n.get("number").asString())));
            same(
                    "neighbours",
                    expected.texts("neighbours").stream().sorted().toList(),
                    neighbours.stream().sorted().toList());
        }
    }

    private void entries(String ref, List<Yaml> expected) {
        var wanted = new TreeMap<String, BigDecimal>();
        expected.forEach(
                line -> line.each((role, amount) -> wanted.merge(role, Yaml.figure(amount, ref), BigDecimal::add)));
        var found = new TreeMap<String, BigDecimal>();
        for (var entry : known.users
                .as("auditor")
                .get("/api/ledger/entries?document="
                        + Api.encode(known.document(ref).number()))
                .get("rows")) {
            for (var line : entry.get("lines")) {
                found.merge(
                        line.get("role").asString(),
                        new BigDecimal(line.get("debit").asString())
                                .subtract(new BigDecimal(line.get("credit").asString())),
                        BigDecimal::add);
            }
        }
        wanted.replaceAll((role, amount) -> amount.stripTrailingZeros());
        found.replaceAll((role, amount) -> amount.stripTrailingZeros());
        same("entries of " + ref, wanted, found);
    }

    private void proof(String expected) {
        var failures = new ArrayList<String>();
        known.documents
                .values()
                .forEach(document -> known.users
                        .as("auditor")
                        .get("/api/proofs/" + document.kind() + "/" + document.number())
                        .get("statements")
                        .forEach(s -> s.get("failures")
                                .forEach(f -> failures.add(f.get("sentence").asString()))));
        same("proof", expected, failures.isEmpty() ? "clean" : String.join("; ", failures));
    }

    static void same(String what, BigDecimal expected, JsonNode found) {
        var figure = new BigDecimal(found.asString());
        if (expected.compareTo(figure) != 0) {
            throw new CaseFailed(what + ": expected " + expected.toPlainString() + ", found " + figure.toPlainString());
        }
    }

    static void same(String what, Object expected, Object found) {
        if (!expected.equals(found)) {
            throw new CaseFailed(what + ": expected " + expected + ", found " + found);
        }
    }
}
