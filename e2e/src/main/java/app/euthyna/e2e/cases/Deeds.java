package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** Does the steps of a case over REST. */
final class Deeds {

    private final Known known;
    private final ReceivablesDeeds receivables;

    Deeds(Known known) {
        this.receivables = new ReceivablesDeeds(known);
        this.known = known;
    }

    void act(String word, Yaml step, Api api) {
        if (!onOrder(word, step, api)
                && !onGoods(word, step, api)
                && !onMoney(word, step, api)
                && !receivables.act(word, step, api)) {
            throw new CaseFailed("the word '" + word + "' is not known");
        }
    }

    /** What is written and decided on an order. Whether it was that. */
    private boolean onOrder(String word, Yaml step, Api api) {
        switch (word) {
            case "order" ->
                order(step.only(Set.of("ref", "customer", "po", "kind", "date", "lines", "as", "refused")), api);
            case "amend" ->
                amend(step.only(Set.of("of", "lines", "add", "remove", "po", "remark", "date", "as", "refused")), api);
            case "waive" ->
                api.post(
                        "/api/orders/" + known.number(step, "of") + "/waivers",
                        Map.of(
                                "version",
                                known.version(step.text("of")),
                                "findings",
                                step.only(Set.of("of", "findings", "reason", "as", "refused"))
                                        .texts("findings"),
                                "reason",
                                step.text("reason", "")));
            case "decline" ->
                api.post(
                        "/api/orders/" + known.number(step, "of") + "/declination",
                        Map.of(
                                "version",
                                known.version(step.text("of")),
                                "reason",
                                step.only(Set.of("of", "reason", "as", "refused"))
                                        .text("reason", "")));
            case "approve" -> step(step, api, "approvals");
            case "send_back" -> step(step, api, "send-backs");
            case "recall" -> step(step, api, "recalls");
            case "resubmit" ->
                api.post(
                        "/api/orders/" + known.number(step.only(Set.of("of", "reason", "as", "refused")), "of")
                                + "/submission",
                        Map.of("version", known.version(step.text("of"))));
            case "clear_together" -> clearTogether(step.only(Set.of("of", "reason", "outcome", "as", "refused")), api);
            case "start_from" ->
                startFrom(step.only(Set.of("ref", "of", "as_kind", "customer", "date", "as", "refused")), api);
            default -> {
                return false;
            }
        }
        return true;
    }

    /** What moves goods. Whether it was that. */
    private boolean onGoods(String word, Yaml step, Api api) {
        switch (word) {
            case "stock_in" ->
                api.post(
                        "/api/stock-receipts",
                        Known.dated(
                                step.only(Set.of("item", "qty", "unit_cost", "date", "as", "refused")),
                                Map.of(
                                        "item",
                                        known.item(step),
                                        "quantity",
                                        step.decimal("qty"),
                                        "unitCost",
                                        step.decimal("unit_cost"))));
            case "stage" -> stage(step.only(Set.of("ref", "of", "lines", "as", "refused")), api);
            case "void" -> move(step.only(Set.of("of", "as", "refused")), api, known.number(step, "of"), "voiding");
            case "depart" ->
                move(step.only(Set.of("of", "date", "as", "refused")), api, known.number(step, "of"), "departure");
            case "dispatch" -> move(step, api, stage(step, api), "departure");
            case "return" -> goodsBack(step.only(Set.of("ref", "of", "lines", "reason", "as", "refused")), api);
            case "receive" -> receive(step.only(Set.of("of", "lines", "date", "as", "refused")), api);
            case "inspect" -> inspect(step.only(Set.of("of", "lines", "date", "as", "refused")), api);
            default -> {
                return false;
            }
        }
        return true;
    }

    /** What is billed, paid, credited and undone. Whether it was that. */
    private boolean onMoney(String word, Yaml step, Api api) {
        switch (word) {
            case "invoice" -> invoice(step.only(Set.of("ref", "of", "lines", "ahead", "date", "as", "refused")), api);
            case "pay" ->
                pay(
                        step.only(Set.of(
                                "ref", "customer", "amount", "allocate", "from", "date", "reason", "as", "refused")),
                        api);
            case "direct_invoice" ->
                directInvoice(step.only(Set.of("ref", "customer", "po", "lines", "date", "as", "refused")), api);
            case "deposit" ->
                known.documents.put(
                        step.text("ref"),
                        new Known.Document(
                                "DEPOSIT",
                                api.post(
                                                "/api/deposits",
                                                Known.dated(
                                                        step.only(
                                                                Set.of("ref", "of", "amount", "date", "as", "refused")),
                                                        Map.of(
                                                                "order",
                                                                known.number(step, "of"),
                                                                "amount",
                                                                step.decimal("amount"))))
                                        .get("number")
                                        .asString()));
            case "refund" ->
                refund(step.only(Set.of("ref", "customer", "of", "amount", "reason", "date", "as", "refused")), api);
            case "close_period" -> closePeriod(step.only(Set.of("through", "as", "refused")), api);
            case "credit" -> credit(step.only(Set.of("ref", "of", "lines", "reason", "date", "as", "refused")), api);
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
            default -> {
                return false;
            }
        }
        return true;
    }

    /** A step of an order's request for approval. */
    private void step(Yaml step, Api api, String what) {
        api.post(
                "/api/orders/" + known.number(step.only(Set.of("of", "reason", "as", "refused")), "of") + "/" + what,
                Map.of("version", known.version(step.text("of")), "reason", step.text("reason", "")));
    }

    private void order(Yaml step, Api api) {
        var lines =
                step.sections("lines").stream().map(line -> line(line, true)).toList();
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", known.customer(step.text("customer")));
        request.put("po", step.text("po", ""));
        request.put(
                "kind", step.text("kind", "standard").toUpperCase(Locale.ROOT).replace('-', '_'));
        Known.put(request, "date", Known.date(step));
        request.put("lines", lines);
        request.put("draft", true);
        var draft = api.post("/api/orders", request);
        var document = new Known.Document("ORDER", draft.get("number").asString());
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
        known.documents.put(step.text("ref"), document);
    }

    private Map<String, Object> line(Yaml line, boolean fresh) {
        line.only(Set.of("line", "item", "qty", "price", "discount", "requested"));
        var request = new LinkedHashMap<String, Object>();
        if (fresh) {
            request.put("item", known.item(line));
        }
        Known.put(request, "quantity", line.decimal("qty", null));
        Known.put(request, "price", line.decimal("price", null));
        Known.put(request, "discount", line.decimal("discount", null));
        Known.put(
                request,
                "requestedOn",
                line.has("requested") ? line.date("requested").toString() : null);
        return request;
    }

    private void amend(Yaml step, Api api) {
        var order = known.users.as("auditor").get("/api/orders/" + known.number(step, "of"));
        var removed = step.texts("remove");
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
        Known.put(request, "date", Known.date(step));
        Known.put(request, "po", step.has("po") ? step.text("po") : null);
        Known.put(request, "remark", step.has("remark") ? step.text("remark") : null);
        request.put("lines", lines);
        api.put("/api/orders/" + order.get("number").asString(), request);
    }

    private String stage(Yaml step, Api api) {
        step.only(Set.of("ref", "of", "lines", "date", "as", "refused"));
        var request = new LinkedHashMap<String, Object>();
        request.put("order", known.number(step, "of"));
        request.put("version", known.version(step.text("of")));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream().map(Deeds::quantityOfLine).toList());
        }
        var number = api.post("/api/dispatches", request).get("number").asString();
        known.documents.put(step.text("ref"), new Known.Document("DISPATCH", number));
        return number;
    }

    private static Map<String, Object> quantityOfLine(Yaml line) {
        line.only(Set.of("line", "qty"));
        return Map.of("line", line.decimal("line").intValueExact(), "quantity", line.decimal("qty"));
    }

    private void move(Yaml step, Api api, String dispatch, String what) {
        var version = known.users
                .as("auditor")
                .get("/api/dispatches/" + dispatch)
                .get("version")
                .asLong();
        api.post("/api/dispatches/" + dispatch + "/" + what, Known.dated(step, Map.of("version", version)));
    }

    private void invoice(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("ahead", step.flag("ahead"));
        request.put(
                "orders",
                step.texts("of").stream()
                        .map(ref -> known.document(ref).number())
                        .toList());
        Known.put(request, "date", Known.date(step));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream()
                            .map(line -> {
                                line.only(Set.of("of", "line", "qty"));
                                var of = line.has("of")
                                        ? line.text("of")
                                        : step.texts("of").get(0);
                                return Map.of(
                                        "order",
                                        known.document(of).number(),
                                        "line",
                                        line.decimal("line").intValueExact(),
                                        "quantity",
                                        line.decimal("qty"));
                            })
                            .toList());
        }
        known.documents.put(
                step.text("ref"),
                new Known.Document(
                        "INVOICE",
                        api.post("/api/invoices", request).get("number").asString()));
    }

    /** Its order and dispatches go by its own name: I1.order, I1.dispatch. */
    private void directInvoice(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", known.customer(step.text("customer")));
        request.put("po", step.text("po", ""));
        Known.put(request, "date", Known.date(step));
        request.put(
                "lines",
                step.sections("lines").stream().map(line -> line(line, true)).toList());
        var invoice = api.post("/api/direct-invoices", request);
        var ref = step.text("ref");
        known.documents.put(
                ref, new Known.Document("INVOICE", invoice.get("number").asString()));
        var line = invoice.get("lines").get(0);
        known.documents.put(
                ref + ".order", new Known.Document("ORDER", line.get("order").asString()));
        invoice.get("lines")
                .forEach(l -> l.get("dispatches")
                        .forEach(d -> known.documents.putIfAbsent(
                                ref + ".dispatch", new Known.Document("DISPATCH", d.asString()))));
    }

    private void refund(Yaml step, Api api) {
        var of = known.document(step.text("of"));
        var path = of.kind().equals("DEPOSIT") ? "/api/deposits/" : "/api/payments/";
        var request = new LinkedHashMap<String, Object>();
        request.put("of", of.number());
        request.put(
                "version",
                known.users.as("auditor").get(path + of.number()).get("version").asLong());
        Known.put(request, "amount", step.decimal("amount", null));
        request.put("reason", step.text("reason", "refunded for the case"));
        Known.put(request, "date", Known.date(step));
        var refund = api.post("/api/refunds", request);
        if (step.has("customer") && !refund.get("customer").asString().equals(known.customer(step.text("customer")))) {
            throw new CaseFailed("the refund went to " + refund.get("customer").asString());
        }
        known.documents.put(
                step.text("ref"),
                new Known.Document("REFUND", refund.get("number").asString()));
    }

    private void closePeriod(Yaml step, Api api) {
        api.post(
                "/api/ledger/periods/closings",
                Map.of("through", step.date("through", known.today).toString()));
        known.closed = true;
    }

    private void pay(Yaml step, Api api) {
        var request = new LinkedHashMap<String, Object>();
        request.put("customer", known.customer(step.text("customer")));
        Known.put(request, "date", Known.date(step));
        request.put(
                "allocate",
                step.sections("allocate").stream()
                        .map(a -> Map.of(
                                "invoice",
                                known.document(a.only(Set.of("invoice", "amount", "discount"))
                                                .text("invoice"))
                                        .number(),
                                "amount",
                                a.decimal("amount"),
                                "discount",
                                a.flag("discount")))
                        .toList());
        Known.put(request, "reason", step.text("reason", null));
        if (step.text("from", "").equals("credit")) {
            api.post("/api/credit-allocations", request);
            return;
        }
        request.put("amount", step.decimal("amount"));
        var number = api.post("/api/payments", request).get("number").asString();
        if (step.has("ref")) {
            known.documents.put(step.text("ref"), new Known.Document("PAYMENT", number));
        }
    }

    /**
     * Previews the bulk decision and carries it out as previewed; what became of each order is kept for the
     * expectations after it.
     */
    private void clearTogether(Yaml step, Api api) {
        var sequence = Map.of(
                "orders",
                step.texts("of").stream()
                        .map(ref -> Map.of("number", known.document(ref).number(), "version", known.version(ref)))
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
        Expected.same("outcomes that the preview showed", outcomes(preview), outcomes(done));
        known.outcomes.putAll(outcomes(done));
        if (step.has("outcome")) {
            known.requireOutcomes(step.section("outcome"));
        }
    }

    private Map<String, String> outcomes(JsonNode sequence) {
        var outcomes = new TreeMap<String, String>();
        sequence.get("steps")
                .forEach(s -> outcomes.put(
                        known.name("ORDER", s.get("number").asString()),
                        Known.word(s.get("outcome").asString())));
        return outcomes;
    }

    /** An outcome in one spelling, however a case or the interface writes it. */
    private void startFrom(Yaml step, Api api) {
        var of = known.document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        if (step.text("as_kind", "order").equals("credit")) {
            request.put("of" + of.kind().charAt(0) + of.kind().substring(1).toLowerCase(Locale.ROOT), of.number());
            request.put("reason", "started from " + of.number());
            Known.put(request, "date", Known.date(step));
            credited(step, api.post("/api/credit-notes", request));
            return;
        }
        request.put("kind", of.kind());
        request.put("number", of.number());
        Known.put(request, "customer", step.has("customer") ? known.customer(step.text("customer")) : null);
        Known.put(request, "date", Known.date(step));
        known.documents.put(
                step.text("ref"),
                new Known.Document(
                        "ORDER",
                        api.post("/api/orders/started", request).get("number").asString()));
    }

    private void unwind(Yaml step, Api api) {
        var of = known.document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        request.put("kind", of.kind());
        request.put("number", of.number());
        request.put("intent", step.text("intent"));
        request.put("reason", step.text("reason", ""));
        Known.put(request, "date", Known.date(step));
        request.put("withDispatch", step.flag("with_dispatch"));
        Known.put(request, "money", step.has("money") ? step.text("money") : null);
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream().map(Deeds::quantityOfLine).toList());
        }
        var plan = api.post("/api/unwind/plans", request);
        var kinds = new ArrayList<String>();
        plan.get("steps").forEach(s -> kinds.add(s.get("kind").asString()));
        if (step.has("plan")) {
            Expected.same("plan", step.texts("plan"), kinds);
        }
        var waitsAt =
                plan.get("waitsAt").isNull() ? "nothing" : plan.get("waitsAt").asString();
        if (step.has("waits_at") || (!waitsAt.equals("nothing") && step.has("plan"))) {
            Expected.same("waiting at", step.text("waits_at", "nothing"), waitsAt);
        }
        request.put("fingerprint", plan.get("fingerprint").asString());
        var done = api.post("/api/unwind/executions", request);
        if (!done.get("returnNumber").isNull()) {
            known.documents.put(
                    step.text("of") + ".return",
                    new Known.Document("RETURN", done.get("returnNumber").asString()));
        }
        done.get("refunds")
                .forEach(refund -> known.documents.put(
                        step.text("of") + ".refund", new Known.Document("REFUND", refund.asString())));
    }

    private void goodsBack(Yaml step, Api api) {
        var of = known.document(step.text("of"));
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
        known.documents.put(
                step.text("ref"),
                new Known.Document(
                        "RETURN",
                        api.post("/api/returns", request).get("number").asString()));
    }

    /** A reason that is not one of the company's goes in as another reason, with its words as the remark. */
    private boolean isReturnReason(String code) {
        for (var reason :
                known.users.as("auditor").get("/api/rules").get("returns").get("reasons")) {
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
                    step.sections("lines").stream().map(Deeds::quantityOfLine).toList());
        }
        Known.put(request, "date", Known.date(step));
        api.post("/api/returns/" + known.number(step, "of") + "/receipts", request);
    }

    private void inspect(Yaml step, Api api) {
        api.post(
                "/api/returns/" + known.number(step, "of") + "/inspections",
                Known.dated(
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
        var of = known.document(step.text("of"));
        var request = new LinkedHashMap<String, Object>();
        request.put(of.kind().equals("RETURN") ? "ofReturn" : "ofInvoice", of.number());
        request.put("reason", step.text("reason", "credited for the case"));
        Known.put(request, "date", Known.date(step));
        if (step.has("lines")) {
            request.put(
                    "lines",
                    step.sections("lines").stream()
                            .map(line -> {
                                line.only(Set.of("line", "qty", "amount"));
                                var share = new LinkedHashMap<String, Object>();
                                share.put("line", line.decimal("line").intValueExact());
                                Known.put(share, "quantity", line.decimal("qty", null));
                                Known.put(share, "amount", line.decimal("amount", null));
                                return share;
                            })
                            .toList());
        }
        credited(step, api.post("/api/credit-notes", request));
    }

    /** The first credit note goes by the case's name, any others by that and their own number. */
    private void credited(Yaml step, JsonNode credits) {
        credits.get("numbers")
                .forEach(number -> known.documents.putIfAbsent(
                        known.documents.containsKey(step.text("ref"))
                                ? step.text("ref") + "." + number.asString()
                                : step.text("ref"),
                        new Known.Document("CREDIT_NOTE", number.asString())));
    }
}
