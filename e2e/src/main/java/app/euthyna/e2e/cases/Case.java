package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** One worked case: sets up what is given under fresh codes, does the steps, compares what is expected. */
final class Case {

    private static final Map<String, String> DEFAULT_USER = Map.ofEntries(
            Map.entry("order", "clerk"),
            Map.entry("amend", "clerk"),
            Map.entry("recall", "clerk"),
            Map.entry("resubmit", "clerk"),
            Map.entry("start_from", "clerk"),
            Map.entry("waive", "controller"),
            Map.entry("approve", "controller"),
            Map.entry("decline", "controller"),
            Map.entry("send_back", "controller"),
            Map.entry("clear_together", "controller"),
            Map.entry("unwind", "controller"),
            Map.entry("close_period", "lead"),
            Map.entry("stage", "warehouse"),
            Map.entry("void", "warehouse"),
            Map.entry("depart", "warehouse"),
            Map.entry("dispatch", "warehouse"),
            Map.entry("receive", "warehouse"),
            Map.entry("inspect", "warehouse"),
            Map.entry("stock_in", "warehouse"),
            Map.entry("return", "controller"),
            Map.entry("invoice", "receivables"),
            Map.entry("direct_invoice", "receivables"),
            Map.entry("pay", "receivables"),
            Map.entry("deposit", "receivables"),
            Map.entry("credit", "receivables"),
            Map.entry("refund", "receivables"));

    private final Yaml yaml;
    private final Users users;
    private final String suffix;
    private final Map<String, Document> documents = new LinkedHashMap<>();
    private final Map<String, String> customers = new LinkedHashMap<>();
    private final Map<String, String> items = new LinkedHashMap<>();
    private final Map<String, String> outcomes = new TreeMap<>();
    private LocalDate today;
    private boolean closed;
    private Map<String, BigDecimal> balancesBefore;

    /** A document that the case named. */
    record Document(String kind, String number) {}

    Case(Yaml yaml, Users users, String suffix) {
        this.yaml = yaml;
        this.users = users;
        this.suffix = suffix;
    }

    /** The period is opened again after the case, however it ended. */
    void run() {
        try {
            steps();
        } finally {
            if (closed) {
                users.as("lead").post("/api/ledger/periods/reopenings", Map.of("reason", "the case is over"));
            }
        }
    }

    private void steps() {
        yaml.only(Set.of("case", "source", "given", "steps"));
        yaml.text("case");
        yaml.text("source");
        given(yaml.section("given").only(Set.of("today", "customers", "items", "approval")));
        balancesBefore = balances();
        var at = 0;
        for (var step : yaml.sections("steps")) {
            at++;
            var word = step.map().keySet().stream().findFirst().orElseThrow(() -> new CaseFailed("an empty step"));
            var where = "step " + at + " (" + word + ")";
            try {
                if (step.map().size() != 1) {
                    throw new CaseFailed("one word a step, found " + step.map().keySet());
                }
                if (word.equals("today")) {
                    today = step.date("today");
                    clock(today);
                } else {
                    step(word, Yaml.of(step.map().get(word), word));
                }
            } catch (CaseFailed failed) {
                throw new CaseFailed(where + ": " + failed.getMessage());
            } catch (Api.Refused refused) {
                throw new CaseFailed(where + ": refused with " + refused.getMessage());
            }
        }
    }

    /** Sets the instance's clock; what passes by it has passed. Without a day it shows the real one. */
    private void clock(LocalDate day) {
        var request = new LinkedHashMap<String, Object>();
        put(request, "today", day == null ? null : day.toString());
        try {
            today = LocalDate.parse(
                    users.as("admin").put("/api/clock", request).get("today").asString());
        } catch (Api.Refused refused) {
            if (day != null || !refused.code().equals("not-found")) {
                throw new CaseFailed("the instance's clock can't be set: " + refused.getMessage());
            }
            today = LocalDate.now(ZoneId.systemDefault());
        }
    }

    private void given(Yaml given) {
        if (given.has("today")) {
            today = given.date("today");
            clock(today);
        } else {
            clock(null);
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
        customers
                .values()
                .forEach(code -> users.as("admin")
                        .put("/api/customers/" + Api.encode(code) + "/approval-rules", Map.of("rules", rules)));
        given.sections("items").forEach(this::stock);
    }

    private void buyer(Yaml c) {
        c.only(Set.of(
                "ref", "credit_limit", "terms_days", "po", "overdue", "deposit_percent", "licences", "vat", "blocked"));
        var code = "C-" + c.text("ref") + "-" + suffix;
        var po = c.section("po").only(Set.of("required", "same", "alike", "near", "ceiling"));
        var request = new LinkedHashMap<String, Object>();
        request.put("code", code);
        request.put("name", "Case customer " + c.text("ref") + " " + suffix);
        request.put("creditLimit", c.decimal("credit_limit", null));
        request.put("depositPercent", c.decimal("deposit_percent", BigDecimal.ZERO));
        request.put("termsDays", c.decimal("terms_days", BigDecimal.valueOf(30)).intValueExact());
        request.put("vatTreatment", c.text("vat", "domestic").toUpperCase(Locale.ROOT));
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
        request.put("po", rules);
        var licences = new ArrayList<Map<String, Object>>();
        for (var licence : c.sections("licences")) {
            licence.only(Set.of("class", "number", "valid_to"));
            var number = licence.text("number") + "-" + suffix;
            licences.add(Map.of("licenceClass", licence.text("class"), "number", number));
            users.as("admin")
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
        request.put("licences", licences);
        // a case that says nothing of overdue invoices has none, whatever the company's own figures are
        var overdue = c.section("overdue").only(Set.of("days", "above"));
        request.put(
                "overdue",
                Map.of(
                        "days",
                        overdue.decimal("days", BigDecimal.valueOf(3_650)).intValueExact(),
                        "above",
                        overdue.decimal("above", BigDecimal.ZERO)));
        put(request, "blocked", c.flag("blocked") ? "blocked for the case" : null);
        users.as("admin").post("/api/customers", request);
        customers.put(c.text("ref"), code);
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
        var code = "I-" + i.text("ref") + "-" + suffix;
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
        users.as("admin").post("/api/items", request);
        items.put(i.text("ref"), code);
        var onHand = i.decimal("on_hand", BigDecimal.ZERO);
        if (onHand.signum() > 0) {
            users.as("warehouse")
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

    private void step(String word, Yaml step) {
        if (word.equals("expect")) {
            expect(step.only(Set.of(
                    "state",
                    "findings",
                    "lines",
                    "balances",
                    "open",
                    "exposure",
                    "stock",
                    "trail",
                    "entries",
                    "proof",
                    "outcome")));
            return;
        }
        if (!DEFAULT_USER.containsKey(word)) {
            throw new CaseFailed("the word '" + word + "' is not known");
        }
        var writesCredit =
                word.equals("start_from") && step.text("as_kind", "order").equals("credit");
        var api = users.as(step.text("as", DEFAULT_USER.get(writesCredit ? "credit" : word)));
        if (!step.has("refused")) {
            act(word, step, api);
            return;
        }
        var before = snapshot();
        try {
            act(word, step, api);
        } catch (Api.Refused refused) {
            if (!refused.code().equals(step.text("refused"))) {
                throw new CaseFailed("expected refusal " + step.text("refused") + ", found " + refused.getMessage());
            }
            var after = snapshot();
            if (!after.equals(before)) {
                throw new CaseFailed("the refused step changed something: before " + before + ", after " + after);
            }
            return;
        }
        throw new CaseFailed("expected refusal " + step.text("refused") + ", but it was done");
    }

    /** Everything a refused step could have changed. */
    private String snapshot() {
        var text = new StringBuilder(balances().toString());
        documents.values().stream()
                .filter(d -> d.kind().equals("ORDER"))
                .forEach(d -> text.append('\n').append(sheet(d.number())));
        items.values()
                .forEach(item -> text.append('\n').append(users.as("auditor").get("/api/stock/" + Api.encode(item))));
        return text.toString();
    }

    private void act(String word, Yaml step, Api api) {
        switch (word) {
            case "order" ->
                order(step.only(Set.of("ref", "customer", "po", "kind", "date", "lines", "as", "refused")), api);
            case "amend" ->
                amend(step.only(Set.of("of", "lines", "add", "remove", "po", "remark", "date", "as", "refused")), api);
            case "waive" ->
                api.post(
                        "/api/orders/" + number(step, "of") + "/waivers",
                        Map.of(
                                "version",
                                version(step.text("of")),
                                "findings",
                                step.only(Set.of("of", "findings", "reason", "as", "refused"))
                                        .list("findings"),
                                "reason",
                                step.text("reason", "")));
            case "decline" ->
                api.post(
                        "/api/orders/" + number(step, "of") + "/declination",
                        Map.of(
                                "version",
                                version(step.text("of")),
                                "reason",
                                step.only(Set.of("of", "reason", "as", "refused"))
                                        .text("reason", "")));
            case "approve" -> step(step, api, "approvals");
            case "send_back" -> step(step, api, "send-backs");
            case "recall" -> step(step, api, "recalls");
            case "resubmit" ->
                api.post(
                        "/api/orders/" + number(step.only(Set.of("of", "reason", "as", "refused")), "of")
                                + "/submission",
                        Map.of("version", version(step.text("of"))));
            case "stock_in" ->
                api.post(
                        "/api/stock-receipts",
                        dated(
                                step.only(Set.of("item", "qty", "unit_cost", "date", "as", "refused")),
                                Map.of(
                                        "item",
                                        item(step),
                                        "quantity",
                                        step.decimal("qty"),
                                        "unitCost",
                                        step.decimal("unit_cost"))));
            case "stage" -> stage(step.only(Set.of("ref", "of", "lines", "as", "refused")), api);
            case "void" -> move(step.only(Set.of("of", "as", "refused")), api, number(step, "of"), "voiding");
            case "depart" ->
                move(step.only(Set.of("of", "date", "as", "refused")), api, number(step, "of"), "departure");
            case "dispatch" -> move(step, api, stage(step, api), "departure");
            case "invoice" -> invoice(step.only(Set.of("ref", "of", "lines", "ahead", "date", "as", "refused")), api);
            case "pay" ->
                pay(step.only(Set.of("ref", "customer", "amount", "allocate", "from", "date", "as", "refused")), api);
            case "direct_invoice" ->
                directInvoice(step.only(Set.of("ref", "customer", "po", "lines", "date", "as", "refused")), api);
            case "deposit" ->
                documents.put(
                        step.text("ref"),
                        new Document(
                                "DEPOSIT",
                                api.post(
                                                "/api/deposits",
                                                dated(
                                                        step.only(
                                                                Set.of("ref", "of", "amount", "date", "as", "refused")),
                                                        Map.of(
                                                                "order",
                                                                number(step, "of"),
                                                                "amount",
                                                                step.decimal("amount"))))
                                        .get("number")
                                        .asString()));
            case "refund" ->
                refund(step.only(Set.of("ref", "customer", "of", "amount", "reason", "date", "as", "refused")), api);
            case "close_period" -> {
                api.post(
                        "/api/ledger/periods/closings",
                        Map.of(
                                "through",
                                step.only(Set.of("through", "as", "refused"))
                                        .date("through", today)
                                        .toString()));
                closed = true;
            }
            case "return" -> goodsBack(step.only(Set.of("ref", "of", "lines", "reason", "as", "refused")), api);
            case "receive" -> receive(step.only(Set.of("of", "lines", "date", "as", "refused")), api);
            case "inspect" -> inspect(step.only(Set.of("of", "lines", "date", "as", "refused")), api);
            case "credit" -> credit(step.only(Set.of("ref", "of", "lines", "reason", "date", "as", "refused")), api);
            case "clear_together" -> clearTogether(step.only(Set.of("of", "reason", "outcome", "as", "refused")), api);
            case "start_from" ->
                startFrom(step.only(Set.of("ref", "of", "as_kind", "customer", "date", "as", "refused")), api);
            case "unwind" ->
                unwind(
                        step.only(Set.of(
                                "of",
                                "intent",
                                "lines",
                                "with_dispatch",
                                "money",
                                "reason",
                                "plan",
                                "waits_at",
                                "date",
                                "as",
                                "refused")),
                        api);
            default -> throw new CaseFailed("the word '" + word + "' is not known");
        }
    }

    /** A step of an order's request for approval. */
    private void step(Yaml step, Api api, String what) {
        api.post(
                "/api/orders/" + number(step.only(Set.of("of", "reason", "as", "refused")), "of") + "/" + what,
                Map.of("version", version(step.text("of")), "reason", step.text("reason", "")));
    }

    private void order(Yaml step, Api api) {
        var lines =
                step.sections("lines").stream().map(line -> line(line, true)).toList();
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", customer(step.text("customer")));
        request.put("po", step.text("po", ""));
        request.put(
                "kind", step.text("kind", "standard").toUpperCase(Locale.ROOT).replace('-', '_'));
        put(request, "date", date(step));
        request.put("lines", lines);
        request.put("draft", true);
        var draft = api.post("/api/orders", request);
        var document = new Document("ORDER", draft.get("number").asString());
        try {
            api.post(
                    "/api/orders/" + document.number() + "/submission",
                    Map.of("version", draft.get("version").asLong()));
        } catch (Api.Refused refused) {
            // a mandatory entry that is missing leaves the order a draft
            if (!refused.code().equals("incomplete") || step.has("refused")) {
                throw refused;
            }
        }
        documents.put(step.text("ref"), document);
    }

    private Map<String, Object> line(Yaml line, boolean fresh) {
        line.only(Set.of("line", "item", "qty", "price", "discount", "requested"));
        var request = new LinkedHashMap<String, Object>();
        if (fresh) {
            request.put("item", item(line));
        }
        put(request, "quantity", line.decimal("qty", null));
        put(request, "price", line.decimal("price", null));
        put(request, "discount", line.decimal("discount", null));
        put(
                request,
                "requestedOn",
                line.has("requested") ? line.date("requested").toString() : null);
        return request;
    }

    private static void put(Map<String, Object> map, String key, Object value) {
        if (value != null) {
            map.put(key, value);
        }
    }

    private void amend(Yaml step, Api api) {
        var order = users.as("auditor").get("/api/orders/" + number(step, "of"));
        var removed = step.list("remove").stream().map(String::valueOf).toList();
        var changes = new TreeMap<String, Map<String, Object>>();
        step.sections("lines").forEach(line -> changes.put(line.text("line"), line(line, false)));
        var lines = new ArrayList<Map<String, Object>>();
        for (var line : order.get("lines")) {
            var no = line.get("no").asString();
            if (removed.contains(no)) {
                continue;
            }
            var request = new LinkedHashMap<String, Object>();
            request.put("no", line.get("no").asInt());
            request.put("item", line.get("item").asString());
            request.put("quantity", line.get("quantity").asString());
            request.put("price", line.get("price").asString());
            request.put("discount", line.get("discount").asString());
            request.putAll(changes.getOrDefault(no, Map.of()));
            changes.remove(no);
            lines.add(request);
        }
        if (!changes.isEmpty()) {
            throw new CaseFailed("there is no line " + changes.keySet());
        }
        step.sections("add").forEach(line -> lines.add(line(line, true)));
        var request = new LinkedHashMap<String, Object>();
        request.put("version", order.get("version").asLong());
        put(request, "date", date(step));
        put(request, "po", step.has("po") ? step.text("po") : null);
        put(request, "remark", step.has("remark") ? step.text("remark") : null);
        request.put("lines", lines);
        api.put("/api/orders/" + order.get("number").asString(), request);
    }

    private String stage(Yaml step, Api api) {
        step.only(Set.of("ref", "of", "lines", "date", "as", "refused"));
        var request = new LinkedHashMap<String, Object>();
        request.put("order", number(step, "of"));
        request.put("version", version(step.text("of")));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream().map(Case::quantityOfLine).toList());
        }
        var number = api.post("/api/dispatches", request).get("number").asString();
        documents.put(step.text("ref"), new Document("DISPATCH", number));
        return number;
    }

    private static Map<String, Object> quantityOfLine(Yaml line) {
        line.only(Set.of("line", "qty"));
        return Map.of("line", line.decimal("line").intValueExact(), "quantity", line.decimal("qty"));
    }

    private void move(Yaml step, Api api, String dispatch, String what) {
        var version = users.as("auditor")
                .get("/api/dispatches/" + dispatch)
                .get("version")
                .asLong();
        api.post("/api/dispatches/" + dispatch + "/" + what, dated(step, Map.of("version", version)));
    }

    private void invoice(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("ahead", step.flag("ahead"));
        request.put(
                "orders",
                step.list("of").stream()
                        .map(ref -> document(String.valueOf(ref)).number())
                        .toList());
        put(request, "date", date(step));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream()
                            .map(line -> {
                                line.only(Set.of("of", "line", "qty"));
                                var of = line.has("of")
                                        ? line.text("of")
                                        : String.valueOf(step.list("of").get(0));
                                return Map.of(
                                        "order",
                                        document(of).number(),
                                        "line",
                                        line.decimal("line").intValueExact(),
                                        "quantity",
                                        line.decimal("qty"));
                            })
                            .toList());
        }
        documents.put(
                step.text("ref"),
                new Document(
                        "INVOICE",
                        api.post("/api/invoices", request).get("number").asString()));
    }

    /** Its order and dispatches go by its own name: I1.order, I1.dispatch. */
    private void directInvoice(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", customer(step.text("customer")));
        request.put("po", step.text("po", ""));
        put(request, "date", date(step));
        request.put(
                "lines",
                step.sections("lines").stream().map(line -> line(line, true)).toList());
        var invoice = api.post("/api/direct-invoices", request);
        var ref = step.text("ref");
        documents.put(ref, new Document("INVOICE", invoice.get("number").asString()));
        var line = invoice.get("lines").get(0);
        documents.put(ref + ".order", new Document("ORDER", line.get("order").asString()));
        invoice.get("lines")
                .forEach(l -> l.get("dispatches")
                        .forEach(
                                d -> documents.putIfAbsent(ref + ".dispatch", new Document("DISPATCH", d.asString()))));
    }

    private void refund(Yaml step, Api api) {
        var of = document(step.text("of"));
        var path = of.kind().equals("DEPOSIT") ? "/api/deposits/" : "/api/payments/";
        var request = new LinkedHashMap<String, Object>();
        request.put("of", of.number());
        request.put(
                "version",
                users.as("auditor").get(path + of.number()).get("version").asLong());
        put(request, "amount", step.decimal("amount", null));
        request.put("reason", step.text("reason", "refunded for the case"));
        put(request, "date", date(step));
        var refund = api.post("/api/refunds", request);
        if (step.has("customer") && !refund.get("customer").asString().equals(customer(step.text("customer")))) {
            throw new CaseFailed("the refund went to " + refund.get("customer").asString());
        }
        documents.put(
                step.text("ref"), new Document("REFUND", refund.get("number").asString()));
    }

    private void pay(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", customer(step.text("customer")));
        put(request, "date", date(step));
        request.put(
                "allocate",
                step.sections("allocate").stream()
                        .map(a -> Map.of(
                                "invoice",
                                document(a.only(Set.of("invoice", "amount")).text("invoice"))
                                        .number(),
                                "amount",
                                a.decimal("amount")))
                        .toList());
        if (step.text("from", "").equals("credit")) {
            api.post("/api/credit-allocations", request);
            return;
        }
        request.put("amount", step.decimal("amount"));
        var number = api.post("/api/payments", request).get("number").asString();
        if (step.has("ref")) {
            documents.put(step.text("ref"), new Document("PAYMENT", number));
        }
    }

    /**
     * Previews the bulk decision and carries it out as previewed; what became of each order is kept for the
     * expectations after it.
     */
    private void clearTogether(Yaml step, Api api) {
        var sequence = Map.of(
                "orders",
                step.list("of").stream()
                        .map(String::valueOf)
                        .map(ref -> Map.of("number", document(ref).number(), "version", version(ref)))
                        .toList(),
                "reason",
                step.text("reason", "cleared together"));
        var preview = api.post("/api/clearing-previews", sequence);
        var done = api.post(
                "/api/clearings",
                Map.of(
                        "sequence",
                        sequence,
                        "fingerprint",
                        preview.get("fingerprint").asString()));
        same("outcomes that the preview showed", outcomes(preview), outcomes(done));
        outcomes.putAll(outcomes(done));
        if (step.has("outcome")) {
            outcomes(step.section("outcome"));
        }
    }

    private Map<String, String> outcomes(JsonNode sequence) {
        var outcomes = new TreeMap<String, String>();
        sequence.get("steps")
                .forEach(s -> outcomes.put(
                        name("ORDER", s.get("number").asString()),
                        word(s.get("outcome").asString())));
        return outcomes;
    }

    private void outcomes(Yaml expected) {
        expected.map()
                .forEach((ref, outcome) -> same("outcome of " + ref, word(String.valueOf(outcome)), outcomes.get(ref)));
    }

    /** An outcome in one spelling, however a case or the interface writes it. */
    private static String word(String outcome) {
        return outcome.toLowerCase(Locale.ROOT).replaceAll("[_-]", " ");
    }

    private void startFrom(Yaml step, Api api) {
        var of = document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        if (step.text("as_kind", "order").equals("credit")) {
            request.put("of" + of.kind().charAt(0) + of.kind().substring(1).toLowerCase(Locale.ROOT), of.number());
            request.put("reason", "started from " + of.number());
            put(request, "date", date(step));
            credited(step, api.post("/api/credit-notes", request));
            return;
        }
        request.put("kind", of.kind());
        request.put("number", of.number());
        put(request, "customer", step.has("customer") ? customer(step.text("customer")) : null);
        put(request, "date", date(step));
        documents.put(
                step.text("ref"),
                new Document(
                        "ORDER",
                        api.post("/api/orders/started", request).get("number").asString()));
    }

    private void unwind(Yaml step, Api api) {
        var of = document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        request.put("kind", of.kind());
        request.put("number", of.number());
        request.put("intent", step.text("intent"));
        request.put("reason", step.text("reason", ""));
        put(request, "date", date(step));
        request.put("withDispatch", step.flag("with_dispatch"));
        put(request, "money", step.has("money") ? step.text("money") : null);
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream().map(Case::quantityOfLine).toList());
        }
        var plan = api.post("/api/unwind/plans", request);
        var kinds = new ArrayList<String>();
        plan.get("steps").forEach(s -> kinds.add(s.get("kind").asString()));
        if (step.has("plan")) {
            same("plan", step.list("plan").stream().map(String::valueOf).toList(), kinds);
        }
        var waitsAt =
                plan.get("waitsAt").isNull() ? "nothing" : plan.get("waitsAt").asString();
        if (step.has("waits_at") || (!waitsAt.equals("nothing") && step.has("plan"))) {
            same("waiting at", step.text("waits_at", "nothing"), waitsAt);
        }
        request.put("fingerprint", plan.get("fingerprint").asString());
        var done = api.post("/api/unwind/executions", request);
        if (!done.get("returnNumber").isNull()) {
            documents.put(
                    step.text("of") + ".return",
                    new Document("RETURN", done.get("returnNumber").asString()));
        }
        done.get("refunds")
                .forEach(refund ->
                        documents.put(step.text("of") + ".refund", new Document("REFUND", refund.asString())));
    }

    private void goodsBack(Yaml step, Api api) {
        var of = document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        request.put(
                "lines",
                step.sections("lines").stream()
                        .map(line -> {
                            var share = new LinkedHashMap<String, Object>(quantityOfLine(line));
                            share.put(of.kind().toLowerCase(Locale.ROOT), of.number());
                            return share;
                        })
                        .toList());
        var reason = step.text("reason", "");
        request.put("reason", reason.isBlank() || isReturnReason(reason) ? reason : "other");
        request.put("remark", reason);
        documents.put(
                step.text("ref"),
                new Document(
                        "RETURN",
                        api.post("/api/returns", request).get("number").asString()));
    }

    /** A reason that is not one of the company's goes in as another reason, with its words as the remark. */
    private boolean isReturnReason(String code) {
        for (var reason : users.as("auditor").get("/api/rules").get("returns").get("reasons")) {
            if (reason.get("code").asString().equals(code)) {
                return true;
            }
        }
        return false;
    }

    private void receive(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream().map(Case::quantityOfLine).toList());
        }
        put(request, "date", date(step));
        api.post("/api/returns/" + number(step, "of") + "/receipts", request);
    }

    private void inspect(Yaml step, Api api) {
        api.post(
                "/api/returns/" + number(step, "of") + "/inspections",
                dated(
                        step,
                        Map.of(
                                "lines",
                                step.sections("lines").stream()
                                        .map(line -> {
                                            line.only(Set.of("line", "restock", "scrap", "send_back"));
                                            return Map.of(
                                                    "line",
                                                    line.decimal("line").intValueExact(),
                                                    "restock",
                                                    line.decimal("restock", BigDecimal.ZERO),
                                                    "scrap",
                                                    line.decimal("scrap", BigDecimal.ZERO),
                                                    "sendBack",
                                                    line.decimal("send_back", BigDecimal.ZERO));
                                        })
                                        .toList())));
    }

    private void credit(Yaml step, Api api) {
        var of = document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        request.put(of.kind().equals("RETURN") ? "ofReturn" : "ofInvoice", of.number());
        request.put("reason", step.text("reason", "credited for the case"));
        put(request, "date", date(step));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream()
                            .map(line -> {
                                line.only(Set.of("line", "qty", "amount"));
                                var share = new LinkedHashMap<String, Object>();
                                share.put("line", line.decimal("line").intValueExact());
                                put(share, "quantity", line.decimal("qty", null));
                                put(share, "amount", line.decimal("amount", null));
                                return share;
                            })
                            .toList());
        }
        credited(step, api.post("/api/credit-notes", request));
    }

    /** The first credit note goes by the case's name, any others by that and their own number. */
    private void credited(Yaml step, JsonNode credits) {
        credits.get("numbers")
                .forEach(number -> documents.putIfAbsent(
                        documents.containsKey(step.text("ref"))
                                ? step.text("ref") + "." + number.asString()
                                : step.text("ref"),
                        new Document("CREDIT_NOTE", number.asString())));
    }

    private void expect(Yaml expected) {
        expected.section("state")
                .map()
                .forEach((ref, state) -> same("state of " + ref, String.valueOf(state), state(document(ref))));
        var findings = expected.section("findings");
        findings.map()
                .keySet()
                .forEach(ref -> same(
                        "findings of " + ref,
                        findings.list(ref).stream()
                                .map(String::valueOf)
                                .sorted()
                                .toList(),
                        findings(document(ref).number())));
        expected.section("lines").map().forEach((ref, measures) -> lines(ref, Yaml.of(measures, ref)));
        if (expected.has("balances")) {
            balances(expected.section("balances"));
        }
        expected.section("open")
                .map()
                .forEach((ref, amount) -> same("open of " + ref, Yaml.figure(amount, ref), open(ref)));
        expected.section("exposure")
                .map()
                .forEach((ref, amount) -> same(
                        "exposure of " + ref,
                        Yaml.figure(amount, ref),
                        users.as("auditor")
                                .get("/api/customers/" + Api.encode(customer(ref)) + "/position")
                                .get("exposure")));
        expected.section("stock").map().forEach((ref, figures) -> stock(ref, Yaml.of(figures, ref)));
        if (expected.has("trail")) {
            trail(expected.section("trail").only(Set.of("from", "has", "neighbours")));
        }
        expected.section("entries")
                .map()
                .forEach(
                        (ref, lines) -> entries(ref, expected.section("entries").sections(ref)));
        if (expected.has("proof")) {
            proof(expected.text("proof"));
        }
        if (expected.has("outcome")) {
            outcomes(expected.section("outcome"));
        }
    }

    private String state(Document document) {
        var api = users.as("auditor");
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

    private JsonNode sheet(String order) {
        return users.as("auditor").get("/api/review/" + order);
    }

    private List<String> findings(String order) {
        var open = new ArrayList<String>();
        sheet(order).get("findings").forEach(finding -> {
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
        for (var flow : sheet(document(parts[0]).number()).get("flows")) {
            if (flow.get("no").asString().equals(parts[1])) {
                expected.map()
                        .forEach((measure, quantity) -> same(
                                ref + " " + measure,
                                Yaml.figure(quantity, ref),
                                flow.get(names.getOrDefault(measure, measure))));
                return;
            }
        }
        throw new CaseFailed("there is no line " + ref);
    }

    private Map<String, BigDecimal> balances() {
        var balances = new TreeMap<String, BigDecimal>();
        users.as("auditor")
                .get("/api/ledger/role-balances")
                .forEach(row -> balances.put(
                        row.get("role").asString(),
                        new BigDecimal(row.get("balance").asString())));
        return balances;
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
                "stock_adjustment"));
        var changes = new TreeMap<String, BigDecimal>();
        balances().forEach((role, now) -> {
            var change = now.subtract(balancesBefore.getOrDefault(role, BigDecimal.ZERO));
            if (change.signum() != 0) {
                changes.put(role, change.stripTrailingZeros());
            }
        });
        var wanted = new TreeMap<String, BigDecimal>();
        expected.map().forEach((role, amount) -> {
            var figure = Yaml.figure(amount, role);
            if (figure.signum() != 0) {
                wanted.put(role, figure.stripTrailingZeros());
            }
        });
        same("balances", wanted, changes);
    }

    private JsonNode open(String ref) {
        var api = users.as("auditor");
        return customers.containsKey(ref)
                ? api.get("/api/customers/" + Api.encode(customer(ref)) + "/credit")
                        .get("credit")
                : api.get("/api/invoices/" + document(ref).number()).get("open");
    }

    private void stock(String ref, Yaml expected) {
        expected.only(Set.of("on_hand", "reserved", "inspection", "value"));
        var sums = new TreeMap<String, BigDecimal>();
        for (var shelf : users.as("auditor").get("/api/stock/" + Api.encode(item(ref)))) {
            Map.of("on_hand", "onHand", "reserved", "reserved", "inspection", "inspection", "value", "value")
                    .forEach((name, field) ->
                            sums.merge(name, new BigDecimal(shelf.get(field).asString()), BigDecimal::add));
        }
        expected.map()
                .forEach((name, figure) -> same(
                        "stock " + ref + " " + name,
                        Yaml.figure(figure, ref).stripTrailingZeros(),
                        sums.getOrDefault(name, BigDecimal.ZERO).stripTrailingZeros()));
    }

    private void trail(Yaml expected) {
        var from = document(expected.text("from"));
        var trail = users.as("auditor").get("/api/trails/" + from.kind() + "/" + from.number());
        var found = new ArrayList<String>();
        trail.get("documents")
                .forEach(d ->
                        found.add(name(d.get("kind").asString(), d.get("number").asString())));
        same(
                "trail from " + expected.text("from"),
                expected.list("has").stream().map(String::valueOf).sorted().toList(),
                found.stream().sorted().toList());
        if (expected.has("neighbours")) {
            var neighbours = new ArrayList<String>();
            trail.get("neighbours")
                    .forEach(n -> neighbours.add(
                            name(n.get("kind").asString(), n.get("number").asString())));
            same(
                    "neighbours",
                    expected.list("neighbours").stream()
                            .map(String::valueOf)
                            .sorted()
                            .toList(),
                    neighbours.stream().sorted().toList());
        }
    }

    /** The case's own name for a document, or its number where the case has none. */
    private String name(String kind, String number) {
        return documents.entrySet().stream()
                .filter(e -> e.getValue().equals(new Document(kind, number)))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(number);
    }

    private void entries(String ref, List<Yaml> expected) {
        var wanted = new TreeMap<String, BigDecimal>();
        expected.forEach(line ->
                line.map().forEach((role, amount) -> wanted.merge(role, Yaml.figure(amount, ref), BigDecimal::add)));
        var found = new TreeMap<String, BigDecimal>();
        for (var entry : users.as("auditor")
                .get("/api/ledger/entries?document=" + Api.encode(document(ref).number()))
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
        documents
                .values()
                .forEach(document -> users.as("auditor")
                        .get("/api/proofs/" + document.kind() + "/" + document.number())
                        .get("statements")
                        .forEach(s -> s.get("failures")
                                .forEach(f -> failures.add(f.get("sentence").asString()))));
        same("proof", expected, failures.isEmpty() ? "clean" : String.join("; ", failures));
    }

    private static void same(String what, BigDecimal expected, JsonNode found) {
        var figure = new BigDecimal(found.asString());
        if (expected.compareTo(figure) != 0) {
            throw new CaseFailed(what + ": expected " + expected.toPlainString() + ", found " + figure.toPlainString());
        }
    }

    private static void same(String what, Object expected, Object found) {
        if (!expected.equals(found)) {
            throw new CaseFailed(what + ": expected " + expected + ", found " + found);
        }
    }

    private Document document(String ref) {
        var document = documents.get(ref);
        if (document == null) {
            throw new CaseFailed("nothing is called " + ref + " yet");
        }
        return document;
    }

    private String number(Yaml step, String key) {
        return document(step.text(key)).number();
    }

    private long version(String ref) {
        return users.as("auditor")
                .get("/api/orders/" + document(ref).number())
                .get("version")
                .asLong();
    }

    private String customer(String ref) {
        var code = customers.get(ref);
        if (code == null) {
            throw new CaseFailed("there is no customer " + ref);
        }
        return code;
    }

    private String item(Yaml step) {
        return item(step.text("item"));
    }

    private String item(String ref) {
        var code = items.get(ref);
        if (code == null) {
            throw new CaseFailed("there is no item " + ref);
        }
        return code;
    }

    /** The document's own date, where the step gives it one. */
    private static String date(Yaml step) {
        return step.has("date") ? step.date("date").toString() : null;
    }

    private static Map<String, Object> dated(Yaml step, Map<String, Object> request) {
        var with = new LinkedHashMap<>(request);
        put(with, "date", date(step));
        return with;
    }
}
