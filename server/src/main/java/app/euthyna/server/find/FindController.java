package app.euthyna.server.find;

import app.euthyna.core.check.PoNumber;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Reading;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.BiFunction;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Searches by ranges over numbers, never by 'contains'; names by their folded beginning. */
@RestController
@RequestMapping("/api/find")
class FindController {

    /** Behind all that begins alike. */
    private static final String LAST = "\uffff";

    /** What a hit opens, where that is not for everybody who reads orders: whoever may not read it is told of none. */
    private static final Map<String, String> PAGES = Map.of(
            "DISPATCH", "/api/dispatches/X",
            "RETURN", "/api/returns/X",
            "UNEXPECTED_GOODS", "/api/unexpected-goods/X",
            "ITEM", "/api/items/X/sheet",
            "CUSTOMER", "/api/customers/X/sheet",
            "ENTRY", "/api/ledger/entries/X");

    private final FindQueries queries;

    FindController(FindQueries queries) {
        this.queries = queries;
    }

    /** Something that was found; {@code number} with {@code kind} leads to its trail. */
    record Hit(String kind, String number, String title, String detail) {}

    @GetMapping
    List<Hit> find(@RequestParam String q) {
        var text = q.strip();
        if (text.isEmpty()) {
            return List.of();
        }
        var hits = new LinkedHashMap<String, Hit>();
        var upper = text.toUpperCase(Locale.ROOT);
        starts("SO-", upper).forEach(start -> add(hits, "ORDER", start, queries::orders));
        starts("D-", upper).forEach(start -> add(hits, "DISPATCH", start, queries::dispatches));
        add(hits, "INVOICE", upper, queries::invoices);
        starts("RT-", upper).forEach(start -> add(hits, "RETURN", start, queries::returns));
        add(hits, "CREDIT_NOTE", upper, queries::creditNotes);
        starts("P-", upper).forEach(start -> add(hits, "PAYMENT", start, queries::payments));
        starts("RF-", upper).forEach(start -> add(hits, "REFUND", start, queries::refunds));
        if (upper.startsWith("W-")) {
            add(hits, "WRITE_OFF", upper, queries::payments);
        }
        if (upper.startsWith("U-")) {
            add(hits, "UNEXPECTED_GOODS", upper, queries::unexpectedGoods);
        }
        starts("CA-", upper).forEach(start -> add(hits, "CANCELLATION", start, queries::cancellations));
        for (var kind : List.of(DocumentKind.QUOTE, DocumentKind.BLANKET_ORDER, DocumentKind.RECURRING_ORDER)) {
            starts(kind.prefix(), upper).forEach(start -> add(hits, kind.name(), start, queries::agreements));
        }
        if (upper.startsWith("J-")) {
            add(hits, "ENTRY", upper, queries::entries);
        }
        var po = PoNumber.of(text).normal();
        if (po.length() >= 2) {
            add(hits, "ORDER", po, queries::ordersByPo);
        }
        if (text.length() >= 2) {
            add(hits, "ORDER", text, queries::ordersByReference);
        }
        add(hits, "ITEM", upper, queries::items);
        add(hits, "CUSTOMER", MasterData.searchKey(text), queries::customers);
        return new ArrayList<>(hits.values()).subList(0, Math.min(14, hits.size()));
    }

    /** A number may be typed with its prefix or without. */
    private static List<String> starts(String prefix, String typed) {
        return typed.startsWith(prefix) ? List.of(typed) : typed.matches("\\d+") ? List.of(prefix + typed) : List.of();
    }

    /** Adds what begins so, from {@code start} on. */
    private static void add(
            Map<String, Hit> hits,
            String kind,
            String start,
            BiFunction<String, String, List<FindQueries.Found>> asked) {
        if (Reading.isOne(Reading.may(PAGES.getOrDefault(kind, "/api/orders/X")))) {
            asked.apply(start, start + LAST).stream()
                    .map(row -> new Hit(kind, row.number(), row.title(), row.detail() == null ? "" : row.detail()))
                    .forEach(hit -> hits.putIfAbsent(hit.kind() + hit.number(), hit));
        }
    }
}
