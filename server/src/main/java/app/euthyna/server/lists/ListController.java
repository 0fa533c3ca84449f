package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import app.euthyna.core.lists.ListRefusal;
import app.euthyna.core.lists.Measure;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import io.swagger.v3.oas.annotations.Parameter;
import io.swagger.v3.oas.annotations.enums.ParameterIn;
import io.swagger.v3.oas.annotations.media.ArraySchema;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists as they are declared, and what is asked of them. */
@RestController
@RequestMapping("/api/lists")
class ListController {

    /** An address holds so many keys. */
    private static final int MOST_SELECTED = 500;

    private final Lists lists;
    private final ListReader reader;
    private final Exports exports;
    private final Groups groups;
    private final Finding finding;
    private final Sentences sentences;

    ListController(
            Lists lists, ListReader reader, Exports exports, Groups groups, Finding finding, Sentences sentences) {
        this.finding = finding;
        this.sentences = sentences;
        this.exports = exports;
        this.groups = groups;
        this.lists = lists;
        this.reader = reader;
    }

    /** Takes filters, which are read from the request itself: see {@link #asked}. */
    @Parameter(
            name = "filter",
            in = ParameterIn.QUERY,
            description = "field:operator:operand, several hold together",
            array = @ArraySchema(schema = @Schema(type = "string")))
    @Target(ElementType.METHOD)
    @Retention(RetentionPolicy.RUNTIME)
    @interface Filtered {}

    /** One word of a field that knows but a few, as it is written and as it reads. */
    record ChoiceView(String value, String words) {}

    /**
     * A column as whoever asks may use it.
     *
     * @param words as it is called in a sentence
     * @param opens what its value opens; empty for nothing
     * @param measure what is told of all rows; null for nothing
     */
    record ColumnView(
            String name,
            String label,
            String words,
            FieldKind kind,
            List<ChoiceView> choices,
            @Nullable String opens,
            boolean isShown,
            boolean isSorted,
            @Nullable Measure measure,
            boolean isGrouped) {

        static ColumnView of(Column column) {
            return new ColumnView(
                    column.name(),
                    column.label(),
                    column.field().words(),
                    column.kind(),
                    column.field().choices().stream()
                            .map(value -> new ChoiceView(value, column.words(value)))
                            .toList(),
                    column.opens().orElse(null),
                    column.traits().contains(Trait.SHOWN),
                    column.traits().contains(Trait.SORTED),
                    column.measure().orElse(null),
                    column.isGrouped());
        }
    }

    /**
     * A list with the columns that whoever asks may see.
     *
     * @param isRegister whether its figures are held against the ledger
     * @param day the column by whose days a register is told, or what stood at the end of one; empty for what is none
     * @param views that ship
     */
    record ListView(
            String name,
            String title,
            String one,
            String many,
            boolean isRegister,
            String day,
            List<ColumnView> columns,
            List<ShippedView> views) {}

    /** A view that ships: what it asks. */
    record ShippedView(String key, String name, List<String> filter, String sort, List<String> columns, String chart) {}

    /** A filter as it is written in an address, and as it reads. */
    record FilterView(String written, String field, String words) {}

    /**
     * A row.
     *
     * @param opens the number of the document that it opens; empty for none
     * @param kind of that document
     * @param version of what commands from this list are about, which they are checked against; null where there are
     *     none
     * @param cells by the names of their columns: texts, figures, days, codes with what they stand for; what is empty
     *     is left out
     */
    record ListRow(
            String key, String opens, String kind, @Nullable Long version, Map<String, Object> cells) {}

    /**
     * A page of rows.
     *
     * @param looked so many rows were looked at, which is as many as may be for a page: more may match behind them.
     *     Null where all that come before the next page were found
     * @param columns which columns the rows have, in their sequence
     * @param sort as it is written in an address; empty for the list's own
     */
    record RowsPage(
            List<ListRow> rows,
            @Nullable String next,
            @Nullable Integer looked,
            List<FilterView> filters,
            List<String> columns,
            String sort) {}

    /** What was moved on an account, the way round in which the register has it. */
    record MovedView(String account, String name, BigDecimal amount) {}

    /**
     * A figure of a register beside the ledger.
     *
     * @param figure its column
     */
    record TiedView(
            String figure,
            BigDecimal registered,
            List<MovedView> accounts,
            BigDecimal ledger,
            BigDecimal difference,
            boolean agrees) {}

    /** A register beside the ledger of the same days. */
    record ProofOfRegister(
            @Nullable LocalDate from, @Nullable LocalDate to, List<TiedView> figures) {}

    /**
     * Counted and added up over all pages.
     *
     * @param proof of a register that leaves no row of its days out
     * @param isWhole there are no more rows than were counted; where there are, nothing is added up
     */
    record TotalsView(
            long count,
            Map<String, BigDecimal> sums,
            @Nullable @ReadBy(ReadBy.Group.BOOKS) ProofOfRegister proof,
            boolean isWhole) {

        private static TotalsView of(ListReader.Totals totals) {
            return new TotalsView(
                    totals.count(),
                    totals.sums(),
                    totals.proof().map(ListController::view).orElse(null),
                    totals.isWhole());
        }
    }

    /** The lists that whoever asks may read. */
    @GetMapping
    List<ListView> all() {
        return lists.read().stream()
                .map(list -> new ListView(
                        list.name(),
                        list.title(),
                        list.one(),
                        list.many(),
                        list.proofToRead().isPresent(),
                        list.proof().map(DeclaredList.Proof::day).orElse(""),
                        list.seen().stream().map(ColumnView::of).toList(),
                        list.viewsToRead().stream()
                                .map(view -> new ShippedView(
                                        view.key(),
                                        view.name(),
                                        view.filters(),
                                        view.sort(),
                                        view.columns(),
                                        view.chart()))
                                .toList()))
                .toList();
    }

    /** The rows that meet all filters, a page at a time. */
    @GetMapping("/{list}/rows")
    @Filtered
    RowsPage rows(
            @PathVariable String list,
            @RequestParam(required = false) String sort,
            @RequestParam(required = false) List<String> columns,
            @RequestParam(required = false) String after,
            @Parameter(hidden = true) HttpServletRequest http) {
        var asked = asked(list, http, sort, columns);
        var page = reader.page(asked, after);
        return new RowsPage(
                page.rows().stream()
                        .map(row -> new ListRow(
                                String.valueOf(row.id()), row.opens(), row.kind(), row.version(), row.cells()))
                        .toList(),
                page.next(),
                page.looked() > 0 ? page.looked() : null,
                asked.filters().stream().map(filter -> view(asked, filter)).toList(),
                asked.columns().stream().map(Column::name).toList(),
                asked.sort());
    }

    /**
     * Count and sums of all rows that meet the filters.
     *
     * @param capped no more than 1,000 rows are counted, and added up only where there are no more
     */
    @GetMapping("/{list}/totals")
    @Filtered
    TotalsView totals(
            @PathVariable String list,
            @RequestParam(required = false) List<String> columns,
            @RequestParam(defaultValue = "false") boolean capped,
            @Parameter(hidden = true) HttpServletRequest http) {
        var asked = asked(list, http, null, columns);
        return TotalsView.of(capped ? reader.capped(asked) : reader.totals(asked));
    }

    private static ProofOfRegister view(ListReader.Proven proven) {
        return new ProofOfRegister(
                proven.days().from().orElse(null),
                proven.days().to().orElse(null),
                proven.figures().stream()
                        .map(tied -> new TiedView(
                                tied.figure(),
                                tied.registered(),
                                tied.accounts().stream()
                                        .map(one -> new MovedView(one.account(), one.name(), one.amount()))
                                        .toList(),
                                tied.ledger(),
                                tied.difference(),
                                tied.agrees()))
                        .toList());
    }

    /** Rows that were put together; see {@link Groups.Group}. */
    record GroupView(
            String words,
            String filter,
            long count,
            @Nullable BigDecimal measured) {}

    /**
     * The rows that meet the filters put together for a chart.
     *
     * @param chart field:measure, as state:count or orderedOn.month:gross
     */
    @GetMapping("/{list}/groups")
    @Filtered
    List<GroupView> groups(
            @PathVariable String list, @RequestParam String chart, @Parameter(hidden = true) HttpServletRequest http) {
        var asked = asked(list, http, null, null);
        return groups.of(asked, Grouping.of(asked.list(), chart)).stream()
                .map(group -> new GroupView(group.words(), group.filter(), group.count(), group.measured()))
                .toList();
    }

    /** The same rows in the same sequence with the same columns as a file; all of them, on paper up to 2,000. */
    @GetMapping("/{list}/file")
    @Filtered
    void file(
            @PathVariable String list,
            @RequestParam(defaultValue = "CSV") Exports.Format format,
            @RequestParam(defaultValue = "false") boolean marked,
            @RequestParam(required = false) String sort,
            @RequestParam(required = false) List<String> columns,
            @Parameter(hidden = true) HttpServletRequest http,
            @Parameter(hidden = true) HttpServletResponse response)
            throws IOException {
        var asked = asked(list, http, sort, columns);
        var sheet = format == Exports.Format.PDF ? exports.paper(asked) : new byte[0];
        response.setContentType(format.type());
        response.setHeader(
                "Content-Disposition",
                "attachment; filename=\"%s.%s\"".formatted(list, format.name().toLowerCase(Locale.ROOT)));
        switch (format) {
            case CSV -> exports.csv(asked, marked, response.getOutputStream());
            case XLSX -> exports.workbook(asked, response.getOutputStream());
            case PDF -> response.getOutputStream().write(sheet);
        }
    }

    /** What a column can name and begins or is called so, for whoever types a filter. */
    @GetMapping("/{list}/offered")
    List<OfferedCode> offered(@PathVariable String list, @RequestParam String column, @RequestParam String q) {
        var read = lists.readable(list);
        var asked = read.seen(column)
                .filter(one -> one.kind() == FieldKind.CODE)
                .orElseThrow(() -> new RefusedException(new ListRefusal.UnknownField(list, column)));
        return finding.offered(asked, q.strip()).stream()
                .map(one -> new OfferedCode(one.code(), one.name()))
                .toList();
    }

    /**
     * Filters that what was typed may mean: numbers and PO numbers that begin so, customers, items and stores that are
     * called so.
     */
    @GetMapping("/{list}/found")
    List<Finding.Found> found(@PathVariable String list, @RequestParam @Size(max = Filter.LONGEST) String q) {
        return q.isBlank() ? List.of() : finding.of(lists.readable(list), q.strip());
    }

    /** Count and sums of some rows, by their keys; of filters only the day that they are told as of matters. */
    @GetMapping("/{list}/selected")
    @Filtered
    TotalsView selected(
            @PathVariable String list,
            @RequestParam @Size(max = MOST_SELECTED) List<Long> keys,
            @RequestParam(required = false) List<String> columns,
            @Parameter(hidden = true) HttpServletRequest http) {
        return TotalsView.of(reader.selected(asked(list, http, null, columns), Many.ids(keys)));
    }

    /** A code with what it stands for. */
    record OfferedCode(String code, String name) {}

    private ListQuestion asked(
            String name, HttpServletRequest http, @Nullable String sort, @Nullable List<String> columns) {
        var list = lists.readable(name);
        // not a list that Spring fills: it would cut a filter at its commas
        var filters = http.getParameterValues("filter");
        return ListQuestion.of(list, filters == null ? List.of() : List.of(filters), sort, columns);
    }

    private FilterView view(ListQuestion asked, Filter filter) {
        return new FilterView(filter.written(), filter.field().name(), sentences.words(asked, filter));
    }
}
