package app.euthyna.server.find;

import app.euthyna.core.check.PoNumber;
import app.euthyna.server.masterdata.MasterData;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
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

    private final JdbcClient jdbc;

    FindController(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Something that was found; {@code number} with {@code kind} leads to its trail. */
    record Hit(String kind, String number, String title, String detail) {
    }

    @GetMapping
    List<Hit> find(@RequestParam String q) {
        var text = q.strip();
        if (text.isEmpty()) {
            return List.of();
        }
        var hits = new LinkedHashMap<String, Hit>();
        var upper = text.toUpperCase(Locale.ROOT);
        for (var start : starts("SO-", upper)) {
            add(hits, "ORDER", start, "select o.number, c.name, o.po from sales_order o join customer c on c.id = o.customer_id "
                    + "where o.number >= ? and o.number < ? order by o.number");
        }
        for (var start : starts("D-", upper)) {
            add(hits, "DISPATCH", start, "select d.number, c.name, o.number from dispatch d join sales_order o on o.id = d.order_id "
                    + "join customer c on c.id = o.customer_id where d.number >= ? and d.number < ? order by d.number");
        }
        add(hits, "INVOICE", upper, "select i.number, c.name, '' from invoice i join customer c on c.id = i.customer_id "
                + "where i.number >= ? and i.number < ? order by i.number");
        for (var start : starts("P-", upper)) {
            add(hits, "PAYMENT", start, "select p.number, c.name, '' from payment p join customer c on c.id = p.customer_id "
                    + "where p.number >= ? and p.number < ? order by p.number");
        }
        for (var start : starts("CA-", upper)) {
            add(hits, "CANCELLATION", start, "select k.number, c.name, o.number from cancellation k join sales_order o on o.id = k.order_id "
                    + "join customer c on c.id = o.customer_id where k.number >= ? and k.number < ? order by k.number");
        }
        if (upper.startsWith("J-")) {
            add(hits, "ENTRY", upper, "select number, event, document_number from journal_entry where number >= ? and number < ? order by number");
        }
        var po = PoNumber.of(text).normal();
        if (po.length() >= 2) {
            add(hits, "ORDER", po, "select o.number, c.name, o.po from sales_order o join customer c on c.id = o.customer_id "
                    + "where o.po_normal >= ? and o.po_normal < ? order by o.po_normal, o.id");
        }
        add(hits, "CUSTOMER", MasterData.searchKey(text), "select code, name, town from customer where search_key >= ? and search_key < ? order by search_key");
        return new ArrayList<>(hits.values()).subList(0, Math.min(14, hits.size()));
    }

    /** A number may be typed with its prefix or without. */
    private static List<String> starts(String prefix, String typed) {
        return typed.startsWith(prefix) ? List.of(typed) : typed.matches("\\d+") ? List.of(prefix + typed) : List.of();
    }

    private void add(LinkedHashMap<String, Hit> hits, String kind, String start, String sql) {
        jdbc.sql(sql + " fetch first " + EACH + " rows only").params(start, start + "\uffff")
                .query((r, n) -> new Hit(kind, r.getString(1), r.getString(2), r.getString(3) == null ? "" : r.getString(3))).list()
                .forEach(hit -> hits.putIfAbsent(hit.kind() + hit.number(), hit));
    }
}
