package app.euthyna.server.exchange;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.io.IOException;
import java.util.Arrays;
import java.util.Locale;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Files of orders over HTTP. Needs no idempotency key: each order's own reference sees to it that it is taken once. */
@RestController
@RequestMapping("/api/imports")
class ImportController {

    private final OrderImport imports;
    private final PastInvoices pastInvoices;
    private final StockFiles stockFiles;
    private final Commands commands;

    ImportController(OrderImport imports, PastInvoices pastInvoices, StockFiles stockFiles, Commands commands) {
        this.stockFiles = stockFiles;
        this.imports = imports;
        this.pastInvoices = pastInvoices;
        this.commands = commands;
    }

    /** The decimal mark of a file. */
    enum DecimalMark {
        POINT,
        COMMA
    }

    /** What stands between cells. */
    enum Delimiter {
        COMMA,
        SEMICOLON,
        TAB
    }

    @Permissions.Enter
    @PostMapping(consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    OrderImport.Report take(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimalMark,
            @RequestParam(defaultValue = "comma") String delimiter,
            @RequestParam(defaultValue = "true") boolean whole)
            throws IOException {
        var name = file.getOriginalFilename() == null ? "" : file.getOriginalFilename();
        return imports.take(
                commands.context(), Texts.cut(name, 255), file.getBytes(), dialect(decimalMark, delimiter), whole);
    }

    private static CsvTable.Dialect dialect(String decimalMark, String delimiter) {
        var mark = value(DecimalMark.class, "decimalMark", decimalMark);
        return new CsvTable.Dialect(
                mark == DecimalMark.COMMA,
                switch (value(Delimiter.class, "delimiter", delimiter)) {
                    case COMMA -> ',';
                    case SEMICOLON -> ';';
                    case TAB -> '\t';
                });
    }

    /**
     * Imports invoices from before, so that their PO numbers are met again. One that is known by its number is not
     * taken twice.
     */
    @Permissions.Enter
    @PostMapping(path = "/past-invoices", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    PastInvoices.PastReport takePastInvoices(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimalMark,
            @RequestParam(defaultValue = "comma") String delimiter)
            throws IOException {
        return pastInvoices.take(file.getBytes(), dialect(decimalMark, delimiter));
    }

    /** Takes in goods from a file: columns item, quantity, unit_cost and, if not the first one, store. */
    @Permissions.MoveGoods
    @PostMapping(path = "/stock", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    StockFiles.StockReport takeStock(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimalMark,
            @RequestParam(defaultValue = "comma") String delimiter)
            throws IOException {
        var name = file.getOriginalFilename() == null ? "" : file.getOriginalFilename();
        return stockFiles.take(
                commands.context(), Texts.cut(name, 255), file.getBytes(), dialect(decimalMark, delimiter));
    }

    private static <T extends Enum<T>> T value(Class<T> type, String field, String given) {
        try {
            return Enum.valueOf(type, given.toUpperCase(Locale.ROOT));
        } catch (IllegalArgumentException unknown) {
            throw new RefusedException(CommonRefusal.Incomplete.of(
                    field,
                    "one of "
                            + String.join(
                                    ", ",
                                    Arrays.stream(type.getEnumConstants())
                                            .map(e -> e.name().toLowerCase(Locale.ROOT))
                                            .toList())));
        }
    }

    /** The files imported last, newest first. */
    /** What became of a file, or how far it is. */
    @GetMapping("/{id}")
    OrderImport.Report report(@PathVariable long id) {
        return imports.report(id);
    }

    /** What became of the orders of a file, page by page. */
    @GetMapping("/{id}/results")
    OrderImport.ResultPage results(@PathVariable long id, @RequestParam(required = false) String after) {
        return imports.results(id, after);
    }

    /** Cells of a file that are not as expected, page by page. */
    @GetMapping("/{id}/bad-cells")
    OrderImport.BadCellPage badCells(@PathVariable long id, @RequestParam(required = false) String after) {
        return imports.badCells(id, after);
    }
}
