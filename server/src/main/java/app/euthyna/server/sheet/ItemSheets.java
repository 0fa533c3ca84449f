package app.euthyna.server.sheet;

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
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All that is known of an item. */
@RestController
@RequestMapping("/api")
class ItemSheets {

    private final SheetQueries queries;
    private final MasterData masterData;
    private final Company company;
    private final Ids ids;

    ItemSheets(SheetQueries queries, MasterData masterData, Company company, Ids ids) {
        this.queries = queries;
        this.masterData = masterData;
        this.company = company;
        this.ids = ids;
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

    /**
     * An item.
     *
     * @param weight of a unit in kilograms, and {@code volume} in cubic metres
     */
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
            @Nullable BigDecimal weight,
            @Nullable BigDecimal volume,
            List<StoreStock> shelves,
            long version) {}

    @GetMapping("/items/{code}/sheet")
    ItemSheet sheet(@PathVariable String code) {
        var item = masterData.item(code);
        var shelves = queries.shelves(ids.item(code)).stream()
                .map(row -> new StoreStock(
                        row.site(),
                        row.siteName(),
                        row.onHand(),
                        row.reserved(),
                        row.onHand().subtract(row.reserved()),
                        company.money(row.stockValue()).amount(),
                        row.onHand().signum() == 0
                                ? null
                                : row.stockValue().divide(row.onHand(), 4, RoundingMode.HALF_UP)))
                .toList();
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
                item.measures().weight().orElse(null),
                item.measures().volume().orElse(null),
                shelves,
                masterData.versionOfItem(code));
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

    @GetMapping("/items/{code}/claims")
    ClaimPage claims(@PathVariable String code, @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var page = Pages.of(
                queries.claims(
                        ids.item(code),
                        key == null ? LocalDate.of(1, 1, 1) : key.date(0),
                        key == null ? -1L : key.number(1),
                        key == null ? -1L : key.number(2),
                        key == null ? -1 : Math.toIntExact(key.number(3))),
                row -> List.of(
                        row.requestedOn().toString(),
                        String.valueOf(row.clearing()),
                        String.valueOf(row.orderId()),
                        String.valueOf(row.line())));
        return new ClaimPage(
                page.rows().stream()
                        .map(row -> new ClaimRow(
                                row.order(),
                                row.line(),
                                row.customer(),
                                row.customerName(),
                                row.site(),
                                row.requestedOn(),
                                row.reserved(),
                                row.waiting()))
                        .toList(),
                page.next());
    }
}
