package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import tools.jackson.databind.JsonNode;

/** What a case knows: whom it asks as, and which of its names stand for which codes and numbers. */
final class Known {

    final Users users;
    final String suffix;
    final Map<String, Document> documents = new LinkedHashMap<>();
    final Map<String, String> customers = new LinkedHashMap<>();
    final Map<String, String> items = new LinkedHashMap<>();
    final Map<String, String> outcomes = new TreeMap<>();
    LocalDate today;
    /** A period was closed that has to be opened again. */
    boolean closed;

    Map<String, BigDecimal> balancesBefore;

    /** A document that the case named. */
    record Document(String kind, String number) {}

    Known(Users users, String suffix) {
        this.users = users;
        this.suffix = suffix;
    }

    static void put(Map<String, Object> map, String key, Object value) {
        if (value != null) {
            map.put(key, value);
        }
    }

    JsonNode sheet(String order) {
        return users.as("auditor").get("/api/review/" + order);
    }

    Map<String, BigDecimal> balances() {
        var balances = new TreeMap<String, BigDecimal>();
        users.as("auditor")
                .get("/api/ledger/role-balances")
                .forEach(row -> balances.put(
                        row.get("role").asString(),
                        new BigDecimal(row.get("balance").asString())));
        return balances;
    }

    /** The case's own name for a document, or its number where the case has none. */
    String name(String kind, String number) {
        return documents.entrySet().stream()
                .filter(e -> e.getValue().equals(new Document(kind, number)))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(number);
    }

    Document document(String ref) {
        var document = documents.get(ref);
        if (document == null) {
            throw new CaseFailed("nothing is called " + ref + " yet");
        }
        return document;
    }

    String number(Yaml step, String key) {
        return document(step.text(key)).number();
    }

    long version(String ref) {
        return users.as("auditor")
                .get("/api/orders/" + document(ref).number())
                .get("version")
                .asLong();
    }

    String customer(String ref) {
        var code = customers.get(ref);
        if (code == null) {
            throw new CaseFailed("there is no customer " + ref);
        }
        return code;
    }

    String item(Yaml step) {
        return item(step.text("item"));
    }

    String item(String ref) {
        var code = items.get(ref);
        if (code == null) {
            throw new CaseFailed("there is no item " + ref);
        }
        return code;
    }

    /** The document's own date, where the step gives it one. */
    static String date(Yaml step) {
        return step.has("date") ? step.date("date").toString() : null;
    }

    static Map<String, Object> dated(Yaml step, Map<String, Object> request) {
        var with = new LinkedHashMap<>(request);
        put(with, "date", date(step));
        return with;
    }

    /** Sets the instance's clock; what passes by it has passed. Without a day it shows the real one. */
    void clock(LocalDate day) {
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

    /** What became of orders that were cleared together. */
    void requireOutcomes(Yaml expected) {
        expected.each(
                (ref, outcome) -> Expected.same("outcome of " + ref, word(outcome.asString()), outcomes.get(ref)));
    }

    static String word(String outcome) {
        return outcome.toLowerCase(Locale.ROOT).replaceAll("[_-]", " ");
    }
}
