package app.euthyna.server.sheet;

import app.euthyna.server.masterdata.Likes;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The list of items, and all that is known of one. */
@RestController
@RequestMapping("/api")
class ItemSheets {

    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final Company company;
    private final Ids ids;

    ItemSheets(JdbcClient jdbc, MasterData masterData, Company company, Ids ids) {
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.company = company;
        this.ids = ids;
    }

    /** An item in the list, with its stock in all stores and what waits for it. */
    record ItemRow(
            String code,
            String name,
            String kind,
            String unit,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal price,
            String regulated,
            BigDecimal onHand,
            BigDecimal free,
            BigDecimal waiting,
            BigDecimal minStock) {}

    record ItemPage(List<ItemRow> rows, @Nullable String next) {}

    /** Items by name, those with a word in name or code. */
    @GetMapping("/item-list")
    ItemPage list(@RequestParam(defaultValue = "") String q, @RequestParam(required = false) String after) {
        var start = after == null ? "" : Pages.key(after).text(0);
        var code = after == null ? "" : Pages.key(after).text(1);
        var rows = jdbc.sql("""
            select p.code, p.name, p.kind, p.unit, p.price, p.regulated, coalesce((select sum(s.on_hand)
            from shelf s where s.item_id = p.id), 0),
                coalesce((select sum(s.on_hand - s.reserved) from shelf s where s.item_id = p.id), 0),
                coalesce((select sum(k.waiting) from stock_claim k where k.item_id = p.id and k.waits = true), 0),
                    p.min_stock
            from (select id, code, name, kind, unit, price, regulated, min_stock from item
                where search_key like :like escape '!' and (name > :start or (name = :start and code > :code))
                order by name, code fetch first SIZE rows only) p order by p.name, p.code\
            """.replace("SIZE", String.valueOf(Pages.SIZE + 1)))
                .param("like", Likes.anywhere(q))
                .param("start", start)
                .param("code", code)
                .query((r, n) -> new ItemRow(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getBigDecimal(5),
                        r.getString(6),
                        r.getBigDecimal(7),
                        r.getBigDecimal(8),
                        r.getBigDecimal(9),
                        r.getBigDecimal(10)))
                .list();
        var page = Pages.of(rows, row -> List.of(row.name(), row.code()));
        return new ItemPage(page.rows(), page.next());
    }

    /** An item's shelf in one store; the unit cost is its moving average. */
    record StoreStock(
            String site,
            String siteName,
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal free,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal unitCost) {}

    record ItemSheet(
            String code,
            String name,
            String kind,
            String itemClass,
            String unit,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal price,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal floor,
            String vatCategory,
            BigDecimal vatRate,
            BigDecimal minStock,
            int leadDays,
            String regulated,
            List<StoreStock> shelves) {}

    @GetMapping("/items/{code}/sheet")
    ItemSheet sheet(@PathVariable String code) {
        var item = masterData.item(code);
        var shelves = jdbc.sql("""
            select t.code, t.name, s.on_hand, s.reserved, s.stock_value from shelf s
            join site t on t.id = s.site_id where s.item_id = ? order by t.id\
            """)
                .param(ids.item(code))
                .query((r, n) -> new StoreStock(
                        r.getString(1),
                        r.getString(2),
                        r.getBigDecimal(3),
                        r.getBigDecimal(4),
                        r.getBigDecimal(3).subtract(r.getBigDecimal(4)),
                        company.money(r.getBigDecimal(5)).amount(),
                        r.getBigDecimal(3).signum() == 0
                                ? null
                                : r.getBigDecimal(5).divide(r.getBigDecimal(3), 4, RoundingMode.HALF_UP)))
                .list();
        return new ItemSheet(
                item.code(),
                item.name(),
                item.kind().name(),
                item.itemClass(),
                item.unit(),
                item.price(),
                item.floor(),
                item.vat().category().name(),
                item.vat().ratePercent(),
                item.minStock(),
                item.leadDays(),
                item.regulated(),
                shelves);
    }

    /** An order line that holds stock or waits for it, in the order of the queue. */
    record ClaimRow(
            String order,
            int line,
            String customer,
            String customerName,
            String site,
            LocalDate requestedOn,
            BigDecimal reserved,
            BigDecimal waiting) {}

    record ClaimPage(List<ClaimRow> rows, @Nullable String next) {}

    private record KeyedClaim(LocalDate requested, long clearing, long order, ClaimRow row) {}

    @GetMapping("/items/{code}/claims")
    ClaimPage claims(@PathVariable String code, @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var rows = jdbc.sql("""
            select o.number, k.line_no, c.code, c.name, t.code, k.requested_on, k.reserved, k.waiting, k.clearing,
                k.order_id from stock_claim k
            join sales_order o on o.id = k.order_id join customer c on c.id = o.customer_id
            join site t on t.id = k.site_id
            where k.item_id = :item and (k.reserved > 0 or k.waiting > 0) and (k.requested_on > :requested
                or (k.requested_on = :requested and (k.clearing > :clearing
                or (k.clearing = :clearing and (k.order_id > :order or (k.order_id = :order
                    and k.line_no > :line))))))
            order by k.requested_on, k.clearing, k.order_id, k.line_no fetch first SIZE rows only\
            """.replace("SIZE", String.valueOf(Pages.SIZE + 1)))
                .param("item", ids.item(code))
                .param("requested", key == null ? LocalDate.of(1, 1, 1) : key.date(0))
                .param("clearing", key == null ? -1L : key.number(1))
                .param("order", key == null ? -1L : key.number(2))
                .param("line", key == null ? -1L : key.number(3))
                .query((r, n) -> new KeyedClaim(
                        r.getObject(6, LocalDate.class),
                        r.getLong(9),
                        r.getLong(10),
                        new ClaimRow(
                                r.getString(1),
                                r.getInt(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getObject(6, LocalDate.class),
                                r.getBigDecimal(7),
                                r.getBigDecimal(8))))
                .list();
        var page = Pages.of(
                rows,
                row -> List.of(
                        row.requested().toString(),
                        String.valueOf(row.clearing()),
                        String.valueOf(row.order()),
                        String.valueOf(row.row().line())));
        return new ClaimPage(page.rows().stream().map(KeyedClaim::row).toList(), page.next());
    }
}
