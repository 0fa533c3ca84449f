package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import tools.jackson.databind.node.ObjectNode;

/** Sets up what a case takes as given, under codes of its own. */
final class Given {

    private final Known known;
    private boolean withoutRelief;

    Given(Known known) {
        this.known = known;
    }

    /** What the case changed for the whole company is as before. */
    void tearDown() {
        if (withoutRelief) {
            relief(true);
        }
    }

    /** Whether the company claims the VAT of bad debt back. */
    private void relief(boolean claimed) {
        var rules = known.users.as("lead").get("/api/rules");
        var receivables = (ObjectNode) rules.get("receivables");
        receivables.put("badDebtRelief", claimed);
        ((ObjectNode) rules).put("reason", "for a case");
        ((ObjectNode) rules).remove("changes");
        known.users.as("lead").put("/api/rules", rules);
    }

    void setUp(Yaml given) {
        if (given.has("today")) {
            known.today = given.date("today");
            known.clock(known.today);
        } else {
            known.clock(null);
        }
        if (given.has("bad_debt_relief") && !given.flag("bad_debt_relief")) {
            relief(false);
            withoutRelief = true;
        }
        given.sections("customers").forEach(this::buyer);
        var rules = given.sections("approval").stream()
                .map(rule -> Map.of(
                        "kind",
                        "NET_ABOVE",
                        "figure",
                        rule.only(Set.of("above", "level")).decimal("above"),
                        "level",
                        rule.text("level").toUpperCase(Locale.ROOT)))
                .toList();
        known.customers
                .values()
                .forEach(code -> known.users
                        .as("admin")
                        .put("/api/customers/" + Api.encode(code) + "/approval-rules", Map.of("rules", rules)));
        given.sections("items").forEach(this::stock);
    }

    private void buyer(Yaml c) {
        c.only(Set.of(
                "ref",
                "credit_limit",
                "terms_days",
                "discount",
                "po",
                "overdue",
                "deposit_percent",
                "licences",
                "vat",
                "blocked"));
        var code = "C-" + c.text("ref") + "-" + known.suffix;
        var po = c.section("po").only(Set.of("required", "same", "alike", "near", "ceiling"));
        var request = new LinkedHashMap<String, Object>();
        request.put("code", code);
        request.put("name", "Case customer " + c.text("ref") + " " + known.suffix);
        request.put("creditLimit", c.decimal("credit_limit", null));
        request.put("depositPercent", c.decimal("deposit_percent", BigDecimal.ZERO));
        request.put("termsDays", c.decimal("terms_days", BigDecimal.valueOf(30)).intValueExact());
        if (c.has("discount")) {
            var early = c.section("discount").only(Set.of("percent", "days"));
            request.put(
                    "earlyPayment",
                    Map.of(
                            "percent",
                            early.decimal("percent"),
                            "days",
                            early.decimal("days").intValueExact()));
        }
        request.put("vatTreatment", c.text("vat", "domestic").toUpperCase(Locale.ROOT));
        request.put("po", poRules(po));
        request.put("licences", licences(c));
        // a case that says nothing of overdue invoices has none, whatever the company's own figures are
        var overdue = c.section("overdue").only(Set.of("days", "above"));
        request.put(
                "overdue",
                Map.of(
                        "days",
                        overdue.decimal("days", BigDecimal.valueOf(3_650)).intValueExact(),
                        "above",
                        overdue.decimal("above", BigDecimal.ZERO)));
        Known.put(request, "blocked", c.flag("blocked") ? "blocked for the case" : null);
        known.users.as("admin").post("/api/customers", request);
        known.customers.put(c.text("ref"), code);
    }

    private static Map<String, Object> poRules(Yaml po) {
        var rules = new LinkedHashMap<String, Object>();
        rules.put("required", po.flag("required"));
        for (var kind : List.of("same", "alike", "near")) {
            if (po.has(kind)) {
                rules.put(
                        kind,
                        po.text(kind).equals("false") ? "OFF" : po.text(kind).toUpperCase(Locale.ROOT));
            }
        }
        rules.put("ceiling", po.decimal("ceiling", null));
        return rules;
    }

    /** Licences with numbers of the case's own, which the register knows. */
    private List<Map<String, Object>> licences(Yaml c) {
        var licences = new ArrayList<Map<String, Object>>();
        for (var licence : c.sections("licences")) {
            licence.only(Set.of("class", "number", "valid_to"));
            var number = licence.text("number") + "-" + known.suffix;
            licences.add(Map.of("licenceClass", licence.text("class"), "number", number));
            known.users
                    .as("admin")
                    .post(
                            "/api/simulated-register",
                            Map.of(
                                    "licenceClass",
                                    licence.text("class"),
                                    "number",
                                    number,
                                    "validTo",
                                    licence.date("valid_to").toString(),
                                    "answers",
                                    true));
        }
        return licences;
    }

    private void stock(Yaml i) {
        i.only(Set.of(
                "ref",
                "kind",
                "price",
                "floor",
                "vat_rate",
                "vat_category",
                "on_hand",
                "unit_cost",
                "min_stock",
                "regulated"));
        var code = "I-" + i.text("ref") + "-" + known.suffix;
        var rate = i.decimal("vat_rate", BigDecimal.ZERO);
        var kind = i.text("kind", "stock").toUpperCase(Locale.ROOT);
        var request = new LinkedHashMap<String, Object>();
        request.put("code", code);
        request.put("name", "Case item " + i.text("ref"));
        request.put("kind", kind);
        request.put("price", i.decimal("price", BigDecimal.ZERO));
        request.put("floorPrice", i.decimal("floor", BigDecimal.ZERO));
        request.put("vatRate", rate);
        request.put("vatCategory", i.text("vat_category", rate.signum() == 0 ? "Z" : "S"));
        request.put("minStock", i.decimal("min_stock", BigDecimal.ZERO));
        request.put("regulated", i.text("regulated", ""));
        known.users.as("admin").post("/api/items", request);
        known.items.put(i.text("ref"), code);
        var onHand = i.decimal("on_hand", BigDecimal.ZERO);
        if (onHand.signum() > 0) {
            known.users
                    .as("warehouse")
                    .post(
                            "/api/stock-receipts",
                            Map.of(
                                    "item",
                                    code,
                                    "quantity",
                                    onHand,
                                    "unitCost",
                                    i.decimal("unit_cost", BigDecimal.ZERO)));
        }
    }
}
