package app.euthyna.server.exchange;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
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
@RequestMapping("/api/intakes")
class IntakeController {

    private final Intake intake;
    private final PastInvoices pastInvoices;
    private final StockFiles stockFiles;
    private final Commands commands;

    IntakeController(Intake intake, PastInvoices pastInvoices, StockFiles stockFiles, Commands commands) {
        this.stockFiles = stockFiles;
        this.intake = intake;
        this.pastInvoices = pastInvoices;
        this.commands = commands;
    }

    /** How decimals are written. */
    enum DecimalMark {
        POINT,
        COMMA
    }

    /** What stands between cells. */
    enum Separator {
        COMMA,
        SEMICOLON,
        TAB
    }

    @May.Enter
    @PostMapping(consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    Intake.Report take(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimals,
            @RequestParam(defaultValue = "comma") String separator,
            @RequestParam(defaultValue = "true") boolean whole)
            throws IOException {
        var name = file.getOriginalFilename() == null ? "" : file.getOriginalFilename();
        return intake.take(
                commands.context(), Texts.cut(name, 255), file.getBytes(), dialect(decimals, separator), whole);
    }

    private static CsvTable.Dialect dialect(String decimals, String separator) {
        var mark = value(DecimalMark.class, "decimals", decimals);
        return new CsvTable.Dialect(
                mark == DecimalMark.COMMA,
                switch (value(Separator.class, "separator", separator)) {
                    case COMMA -> ',';
                    case SEMICOLON -> ';';
                    case TAB -> '\t';
                });
    }

    /**
     * Takes in invoices from before, so that their PO numbers are met again. One that is known by its number is not
     * taken twice.
     */
    @May.Enter
    @PostMapping(path = "/past-invoices", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    PastInvoices.PastReport takePastInvoices(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimals,
            @RequestParam(defaultValue = "comma") String separator)
            throws IOException {
        return pastInvoices.take(file.getBytes(), dialect(decimals, separator));
    }

    /** Takes in goods from a file: columns item, quantity, unit_cost and, if not the first one, store. */
    @May.MoveGoods
    @PostMapping(path = "/stock", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    StockFiles.StockReport takeStock(
            @RequestPart("file") MultipartFile file,
            @RequestParam(defaultValue = "point") String decimals,
            @RequestParam(defaultValue = "comma") String separator)
            throws IOException {
        var name = file.getOriginalFilename() == null ? "" : file.getOriginalFilename();
        return stockFiles.take(commands.context(), Texts.cut(name, 255), file.getBytes(), dialect(decimals, separator));
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

    /** The files taken in last, newest first. */
    @GetMapping
    List<Intake.Taken> latest() {
        return intake.latest();
    }

    /** What became of a file, or how far it is. */
    @GetMapping("/{id}")
    Intake.Report report(@PathVariable long id) {
        return intake.report(id);
    }
}
