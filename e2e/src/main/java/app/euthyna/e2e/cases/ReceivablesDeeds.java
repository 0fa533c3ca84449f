package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** The steps that keep receivables: what is written off and what is disputed. */
final class ReceivablesDeeds {

    private final Known known;

    ReceivablesDeeds(Known known) {
        this.known = known;
    }

    boolean act(String word, Yaml step, Api api) {
        if (word.equals("write_off")) {
            writeOff(step.only(Set.of("ref", "of", "amount", "kind", "reason", "date", "as", "refused")), api);
            return true;
        }
        if (word.equals("dispute")) {
            dispute(step.only(Set.of("of", "amount", "reason", "until", "as", "refused")), api);
            return true;
        }
        if (word.equals("settle_dispute")) {
            settle(step.only(Set.of("of", "reason", "as", "refused")), api);
            return true;
        }
        return false;
    }

    private void dispute(Yaml step, Api api) {
        var invoice = known.number(step, "of");
        var request = new LinkedHashMap<String, Object>();
        request.put(
                "version", api.get("/api/invoices/" + invoice).get("version").asLong());
        request.put("amount", step.decimal("amount", null));
        request.put("reason", step.text("reason"));
        request.put("lookOn", step.date("until", known.today).toString());
        api.post("/api/invoices/" + invoice + "/disputes", request);
    }

    /** Settles the last dispute of an invoice. */
    private void settle(Yaml step, Api api) {
        var last = api.get("/api/invoices/" + known.number(step, "of") + "/disputes")
                .get(0);
        api.post(
                "/api/disputes/" + last.get("id").asLong() + "/endings",
                Map.of("version", last.get("version").asLong(), "reason", step.text("reason")));
    }

    private void writeOff(Yaml step, Api api) {
        var invoice = known.number(step, "of");
        var request = new LinkedHashMap<String, Object>();
        request.put(
                "version", api.get("/api/invoices/" + invoice).get("version").asLong());
        request.put("kind", step.text("kind").toUpperCase(Locale.ROOT).replace('-', '_'));
        request.put("amount", step.decimal("amount"));
        request.put("reason", step.text("reason"));
        Known.put(request, "date", Known.date(step));
        var number = api.post("/api/invoices/" + invoice + "/write-offs", request)
                .get("number")
                .asString();
        if (step.has("ref")) {
            known.documents.put(step.text("ref"), new Known.Document("WRITE_OFF", number));
        }
    }
}
