package app.euthyna.e2e.cases;

import app.euthyna.e2e.client.Api;
import java.util.Map;
import java.util.Set;

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
            Map.entry("refund", "receivables"),
            Map.entry("write_off", "receivables"),
            Map.entry("dispute", "receivables"),
            Map.entry("settle_dispute", "receivables"));

    private final Yaml yaml;
    private final Known known;
    private final Given given;
    private final Deeds deeds;
    private final Expected expected;

    Case(Yaml yaml, Users users, String suffix) {
        this.yaml = yaml;
        this.known = new Known(users, suffix);
        this.given = new Given(known);
        this.deeds = new Deeds(known);
        this.expected = new Expected(known);
    }

    /** The period is opened again after the case, and the company's rules are as before, however it ended. */
    void run() {
        try {
            steps();
        } finally {
            if (known.closed) {
                known.users.as("lead").post("/api/ledger/periods/reopenings", Map.of("reason", "the case is over"));
            }
            given.tearDown();
        }
    }

    private void steps() {
        yaml.only(Set.of("case", "source", "given", "steps"));
        yaml.text("case");
        yaml.text("source");
        given.setUp(yaml.section("given").only(Set.of("today", "customers", "items", "approval", "bad_debt_relief")));
        known.balancesBefore = known.balances();
        var at = 0;
        for (var step : yaml.sections("steps")) {
            at++;
            var word = step.words().stream().findFirst().orElseThrow(() -> new CaseFailed("an empty step"));
            var where = "step " + at + " (" + word + ")";
            try {
                if (step.words().size() != 1) {
                    throw new CaseFailed("one word a step, found " + step.words());
                }
                if (word.equals("today")) {
                    known.today = step.date("today");
                    known.clock(known.today);
                } else {
                    step(word, Yaml.of(step.get(word), word));
                }
            } catch (CaseFailed failed) {
                throw new CaseFailed(where + ": " + failed.getMessage());
            } catch (Api.Refused refused) {
                throw new CaseFailed(where + ": refused with " + refused.getMessage());
            }
        }
    }

    private void step(String word, Yaml step) {
        if (word.equals("expect")) {
            expected.compare(step.only(Set.of(
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
        var api = known.users.as(step.text("as", DEFAULT_USER.get(writesCredit ? "credit" : word)));
        if (!step.has("refused")) {
            deeds.act(word, step, api);
            return;
        }
        var before = snapshot();
        try {
            deeds.act(word, step, api);
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
        var text = new StringBuilder(known.balances().toString());
        known.documents.values().stream()
                .filter(d -> d.kind().equals("ORDER"))
                .forEach(d -> text.append('\n').append(known.sheet(d.number())));
        known.items
                .values()
                .forEach(item ->
                        text.append('\n').append(known.users.as("auditor").get("/api/stock/" + Api.encode(item))));
        return text.toString();
    }
}
