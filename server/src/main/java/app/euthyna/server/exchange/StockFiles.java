package app.euthyna.server.exchange;

import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.exchange.CsvTable.BadCell;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Hashes;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import org.springframework.stereotype.Service;

/** Goods that came in, from a file: all of its rows or none, and the same file once. */
@Service
class StockFiles {

    private static final List<String> MANDATORY = List.of("item", "quantity", "unit_cost");
    private static final List<String> COLUMNS = List.of("item", "quantity", "unit_cost", "store");

    private final ImportQueries queries;
    private final StockService stock;
    private final Commands commands;
    private final Clock clock;

    StockFiles(ImportQueries queries, StockService stock, Commands commands, Clock clock) {
        this.queries = queries;
        this.stock = stock;
        this.commands = commands;
        this.clock = clock;
    }

    /** What became of a file. */
    record StockReport(long rows, int taken, boolean takenBefore, List<BadCell> bad, String sentence) {}

    private record Row(String item, String store, Quantity quantity, BigDecimal unitCost) {}

    StockReport take(CommandContext context, String name, byte[] content, CsvTable.Dialect dialect) {
        var items = new HashSet<>(queries.stockItems());
        var stores = new HashSet<>(queries.stores());
        var table = CsvTable.read(content, dialect, COLUMNS, MANDATORY);
        var rows = new ArrayList<Row>();
        for (var record : table.records()) {
            var item = table.cell(record, "item").strip();
            if (!items.contains(item)) {
                table.bad(record, "item", item, "the code of a stock item");
            }
            var store = table.cell(record, "store").strip();
            if (!store.isEmpty() && !stores.contains(store)) {
                table.bad(record, "store", store, "a store code, or empty");
            }
            var quantity = table.number(record, "quantity", Quantity.DECIMALS);
            if (quantity == null || quantity.signum() <= 0) {
                table.bad(record, "quantity", table.cell(record, "quantity"), "a quantity above zero");
            }
            var cost = table.number(record, "unit_cost", Price.DECIMALS);
            if (cost == null || cost.signum() < 0) {
                table.bad(record, "unit_cost", table.cell(record, "unit_cost"), "a cost of zero or more");
            }
            if (table.failures() == 0) {
                rows.add(new Row(item, store.isEmpty() ? null : store, new Quantity(quantity), cost));
            }
        }
        if (table.failures() > 0) {
            return new StockReport(table.rows(), 0, false, table.firstBad(), table.refusal());
        }
        // items in one sequence, as every command locks them
        rows.sort(Comparator.comparing(Row::item));
        var hash = Hashes.sha256(content);
        return commands.inTransaction(() -> {
            if (queries.filesLike(hash) > 0) {
                return new StockReport(
                        table.rows(), 0, true, List.of(), "This file was imported before; nothing is imported twice.");
            }
            var taken = new StockFileEntity();
            taken.fileHash = hash;
            taken.fileName = name;
            taken.takenAt = clock.instant();
            taken.takenBy = context.person().username();
            queries.session().insert(taken);
            rows.forEach(row -> stock.receive(context, row.store(), row.item(), row.quantity(), row.unitCost()));
            return new StockReport(
                    table.rows(),
                    rows.size(),
                    false,
                    List.of(),
                    rows.size() == 1 ? "One row imported." : rows.size() + " rows imported.");
        });
    }
}
