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
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Searches by ranges over numbers, never by 'contains'; names by their folded beginning. */
@RestController
@RequestMapping("/api/find")
class FindController {

    private static final int EACH = 6;
    /** What a hit opens, where that is not for everybody who reads orders: whoever may not read it is told of none. */
    private static final Map<String, String> PAGES = Map.of(
            "DISPATCH", "/api/dispatches/X",
            "RETURN", "/api/returns/X",
            "UNEXPECTED_GOODS", "/api/unexpected-goods/X",
            "ITEM", "/api/items/X/sheet",
            "CUSTOMER", "/api/customers/X/sheet",
            "ENTRY", "/api/ledger/entries/X");

    private final JdbcClient jdbc;

    FindController(JdbcClient jdbc) {
        this.jdbc = jdbc;
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
        for (var start : starts("SO-", upper)) {
            add(
                    hits,
                    "ORDER",
                    start,
                    "select h.number, c.name, h.po from (select number, customer_id, po from sales_order "
                            + range("number", "number")
                            + ") h join customer c on c.id = h.customer_id order by h.number");
        }
        for (var start : starts("D-", upper)) {
            add(
                    hits,
                    "DISPATCH",
                    start,
                    "select h.number, c.name, o.number from (select number, order_id from dispatch "
                            + range("number", "number")
                            + ") h join sales_order o on o.id = h.order_id join customer c on c.id = o.customer_id"
                            + " order by h.number");
        }
        add(
                hits,
                "INVOICE",
                upper,
                "select h.number, c.name, '' from (select number, customer_id from invoice " + range("number", "number")
                        + ") h join customer c on c.id = h.customer_id order by h.number");
        for (var start : starts("RT-", upper)) {
            add(
                    hits,
                    "RETURN",
                    start,
                    "select h.number, c.name, '' from (select number, customer_id from goods_return "
                            + range("number", "number")
                            + ") h join customer c on c.id = h.customer_id order by h.number");
        }
        add(
                hits,
                "CREDIT_NOTE",
                upper,
                "select h.number, c.name, '' from (select number, customer_id from credit_note "
                        + range("number", "number") + ") h join customer c on c.id = h.customer_id order by h.number");
        for (var start : starts("P-", upper)) {
            add(
                    hits,
                    "PAYMENT",
                    start,
                    "select h.number, c.name, '' from (select number, customer_id from payment "
                            + range("number", "number")
                            + ") h join customer c on c.id = h.customer_id order by h.number");
        }
        for (var start : starts("RF-", upper)) {
            add(
                    hits,
                    "REFUND",
                    start,
                    "select h.number, c.name, h.source_number from (select number, customer_id, source_number from"
                            + " refund "
                            + range("number", "number")
                            + ") h join customer c on c.id = h.customer_id order by h.number");
        }
        if (upper.startsWith("U-")) {
            add(
                    hits,
                    "UNEXPECTED_GOODS",
                    upper,
                    "select h.number, coalesce(c.name, h.sender), '' from (select number, customer_id, sender from"
                            + " unexpected_goods "
                            + range("number", "number")
                            + ") h left join customer c on c.id = h.customer_id order by h.number");
        }
        for (var start : starts("CA-", upper)) {
            add(
                    hits,
                    "CANCELLATION",
                    start,
                    "select h.number, c.name, o.number from (select number, order_id from cancellation "
                            + range("number", "number")
                            + ") h join sales_order o on o.id = h.order_id join customer c on c.id = o.customer_id"
                            + " order by h.number");
        }
        for (var kind : List.of(DocumentKind.QUOTE, DocumentKind.BLANKET_ORDER, DocumentKind.RECURRING_ORDER)) {
            for (var start : starts(kind.prefix(), upper)) {
                add(
                        hits,
                        kind.name(),
                        start,
                        "select h.number, c.name, h.po from (select number, customer_id, po from sales_agreement "
                                + range("number", "number")
                                + ") h join customer c on c.id = h.customer_id order by h.number");
            }
        }
        if (upper.startsWith("J-")) {
            add(
                    hits,
                    "ENTRY",
                    upper,
                    "select number, event, document_number from journal_entry " + range("number", "number"));
        }
        var po = PoNumber.of(text).normal();
        if (po.length() >= 2) {
            add(
                    hits,
                    "ORDER",
                    po,
                    "select h.number, c.name, h.po from (select id, number, customer_id, po, po_normal from"
                            + " sales_order "
                            + range("po_normal", "po_normal, id")
                            + ") h join customer c on c.id = h.customer_id order by h.po_normal, h.id");
        }
        if (text.length() >= 2) {
            add(
                    hits,
                    "ORDER",
                    text,
                    "select h.number, c.name, h.external_reference from (select id, number, customer_id,"
                            + " external_reference from sales_order "
                            + range("external_reference", "external_reference, id")
                            + ") h join customer c on c.id = h.customer_id order by h.external_reference, h.id");
        }
        add(hits, "ITEM", upper, "select code, name, '' from item " + range("code", "code"));
        add(
                hits,
                "CUSTOMER",
                MasterData.searchKey(text),
                "select code, name, town from customer " + range("search_key", "search_key"));
        return new ArrayList<>(hits.values()).subList(0, Math.min(14, hits.size()));
    }

    /** A number may be typed with its prefix or without. */
    private static List<String> starts(String prefix, String typed) {
        return typed.startsWith(prefix) ? List.of(typed) : typed.matches("\\d+") ? List.of(prefix + typed) : List.of();
    }

    /** The first rows of a range, cut off before anything is joined: joined first, H2 would go through whole tables. */
    private static String range(String column, String order) {
        return "where %1$s >= ? and %1$s < ? order by %2$s fetch first %3$d rows only".formatted(column, order, EACH);
    }

    private void add(Map<String, Hit> hits, String kind, String start, String sql) {
        if (!Reading.isOne(Reading.may(PAGES.getOrDefault(kind, "/api/orders/X")))) {
            return;
        }
        jdbc.sql(sql)
                .params(start, start + "\uffff")
                .query((r, n) ->
                        new Hit(kind, r.getString(1), r.getString(2), r.getString(3) == null ? "" : r.getString(3)))
                .list()
                .forEach(hit -> hits.putIfAbsent(hit.kind() + hit.number(), hit));
    }
}
