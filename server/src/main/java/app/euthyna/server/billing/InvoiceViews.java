package app.euthyna.server.billing;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Reducing;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Invoices, and what there is to bill, as they are shown. */
@Component
class InvoiceViews {

    private final InvoiceQueries queries;
    private final ChainReader chains;
    private final DocumentDetails details;
    private final Company company;
    private final ReductionQueries reductions;
    private final CompanyRulesStore rules;

    InvoiceViews(
            InvoiceQueries queries,
            ChainReader chains,
            DocumentDetails details,
            Company company,
            ReductionQueries reductions,
            CompanyRulesStore rules) {
        this.rules = rules;
        this.reductions = reductions;
        this.queries = queries;
        this.chains = chains;
        this.details = details;
        this.company = company;
    }

    /**
     * A line of an invoice.
     *
     * @param po the customer's own number of its order
     * @param dispatches that brought the goods; those that left after they were billed among them
     * @param ahead billed and not gone yet
     */
    record InvoiceLineView(
            int no,
            String order,
            int orderLine,
            String po,
            List<String> dispatches,
            String item,
            String description,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            BigDecimal net,
            String vatCategory,
            BigDecimal vatRate,
            BigDecimal ahead) {}

    /** The taxable amount and VAT of one category and rate (EN 16931-1 BG-23). */
    record VatBandView(String category, BigDecimal rate, BigDecimal taxable, BigDecimal vat) {}

    /**
     * A discount for paying early that may still be taken.
     *
     * @param until the last day on which nobody must grant it
     * @param due what settles the invoice with it
     */
    record EarlyPaymentView(BigDecimal percent, LocalDate until, BigDecimal discount, BigDecimal due) {}

    /**
     * What of an invoice is settled without money.
     *
     * @param documentKind of the write-off, or of the money with which a discount was taken
     * @param tax VAT that is reduced with it
     */
    record ReductionView(
            Reduction.Kind kind,
            DocumentKind documentKind,
            String number,
            LocalDate on,
            BigDecimal amount,
            BigDecimal tax,
            String reason) {}

    /**
     * An invoice.
     *
     * @param small what is open of it may be written off as a small difference
     */
    record InvoiceView(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            LocalDate dueOn,
            String state,
            BigDecimal net,
            BigDecimal vat,
            BigDecimal gross,
            BigDecimal open,
            String text,
            long version,
            List<DocumentDetails.CarriedDetails> details,
            List<InvoiceLineView> lines,
            List<VatBandView> bands,
            @Nullable EarlyPaymentView earlyPayment,
            List<ReductionView> reductions,
            boolean disputed,
            boolean small) {}

    record ToBillLine(int line, String item, String description, BigDecimal toBill, BigDecimal net) {}

    record ToBillOrder(String order, List<ToBillLine> lines) {}

    record InvoiceRow(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            LocalDate dueOn,
            String state,
            BigDecimal gross,
            BigDecimal open,
            @Nullable EarlyPaymentView earlyPayment,
            boolean disputed) {}

    record InvoicePage(List<InvoiceRow> rows, @Nullable String next) {}

    InvoiceView of(String number) {
        var lines = lines(number);
        var bands = Totals.of(
                        lines.stream()
                                .map(line -> new Totals.Part(
                                        company.money(line.net()),
                                        new Vat(Vat.Category.valueOf(line.vatCategory()), line.vatRate())))
                                .toList(),
                        company.currency())
                .bands()
                .stream()
                .map(band -> new VatBandView(
                        band.vat().category().name(),
                        band.vat().ratePercent(),
                        band.taxable().amount(),
                        band.tax().amount()))
                .toList();
        return queries.header(number)
                .map(row -> new InvoiceView(
                        row.number(),
                        row.customer(),
                        row.customerName(),
                        row.invoicedOn(),
                        row.dueOn(),
                        state(row.gross(), row.openAmount(), row.reversed()),
                        company.money(row.net()).amount(),
                        company.money(row.vat()).amount(),
                        company.money(row.gross()).amount(),
                        company.money(row.openAmount()).amount(),
                        row.text(),
                        row.version(),
                        details.of("INVOICE", number),
                        lines,
                        bands,
                        Optional.ofNullable(row.earlyPercent())
                                .map(percent -> early(
                                        number, percent, row.earlyUntil(), row.openAmount(), left(List.of(number))))
                                .orElse(null),
                        reductions.ofInvoice(number).stream()
                                .map(this::reduction)
                                .toList(),
                        row.disputed(),
                        row.openAmount().compareTo(rules.inForce().receivables().smallDifference()) <= 0))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", number)));
    }

    private ReductionView reduction(ReductionQueries.OfInvoiceRow row) {
        return new ReductionView(
                row.kind(),
                row.documentKind(),
                row.number(),
                row.reducedOn(),
                company.money(row.amount()).amount(),
                company.money(row.tax()).amount(),
                row.reason());
    }

    /** What discounts are of, by invoice; those on which one was taken are missing. */
    private Map<String, Money> left(List<String> numbers) {
        return numbers.isEmpty()
                ? Map.of()
                : queries.leftToDiscount(Many.names(numbers)).stream()
                        .collect(Collectors.toMap(
                                InvoiceQueries.LeftRow::number,
                                row -> company.money(row.gross()).minus(company.money(row.credited()))));
    }

    @Nullable
    private EarlyPaymentView early(
            String number, BigDecimal percent, LocalDate until, BigDecimal openAmount, Map<String, Money> left) {
        var open = company.money(openAmount);
        return Optional.ofNullable(left.get(number))
                .flatMap(of -> Reducing.discount(percent, of))
                .filter(discount -> discount.compareTo(open) < 0)
                .map(discount -> new EarlyPaymentView(
                        percent, until, discount.amount(), open.minus(discount).amount()))
                .orElse(null);
    }

    private List<InvoiceLineView> lines(String number) {
        record Gone(String dispatch, BigDecimal quantity) {}
        var gone = new HashMap<Integer, List<Gone>>();
        queries.gone(number)
                .forEach(row -> gone.computeIfAbsent(row.lineNo(), no -> new ArrayList<>())
                        .add(new Gone(row.dispatch(), row.quantity())));
        return queries.lines(number).stream()
                .map(row -> {
                    var brought = gone.getOrDefault(row.lineNo(), List.of());
                    var ahead = row.kind() == LineKind.STOCK
                            ? brought.stream().map(Gone::quantity).reduce(row.quantity(), BigDecimal::subtract)
                            : BigDecimal.ZERO;
                    return new InvoiceLineView(
                            row.lineNo(),
                            row.order(),
                            row.orderLineNo(),
                            row.po(),
                            brought.stream().map(Gone::dispatch).distinct().toList(),
                            row.itemCode(),
                            row.description(),
                            new Quantity(row.quantity()).value(),
                            row.unitPrice(),
                            row.discountPercent(),
                            company.money(row.net()).amount(),
                            row.vatCategory().name(),
                            row.vatRate(),
                            new Quantity(ahead).value());
                })
                .toList();
    }

    private String state(BigDecimal gross, BigDecimal open, boolean reversed) {
        return OpenInvoice.state(company.money(gross), company.money(open), reversed)
                .name();
    }

    /** What there is to bill of some orders, line by line. */
    List<ToBillOrder> toBill(List<String> orders) {
        var found = chains.chains(orders);
        return orders.stream()
                .map(order -> new ToBillOrder(
                        order,
                        Optional.ofNullable(found.get(order))
                                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", order)))
                                .flows()
                                .stream()
                                .filter(flow -> flow.toBill().isPositive())
                                .map(flow -> new ToBillLine(
                                        flow.line().no(),
                                        flow.line().item(),
                                        flow.line().description(),
                                        flow.toBill().value(),
                                        flow.line()
                                                .net(flow.toBill(), company.currency())
                                                .amount()))
                                .toList()))
                .toList();
    }

    /**
     * Invoices, newest first.
     *
     * @param open only those with something open
     * @param pastDue only those that should have been paid before today
     */
    InvoicePage page(boolean open, boolean pastDue, String customer, String after) {
        var found = queries.page(
                customer,
                open || pastDue,
                pastDue ? company.today() : null,
                after == null ? null : Pages.key(after).number(0));
        var page = Pages.of(found, row -> List.of(String.valueOf(row.id())));
        var left = left(page.rows().stream()
                .filter(row -> row.earlyPercent() != null && row.openAmount().signum() > 0)
                .map(InvoiceQueries.InvoiceRow::number)
                .toList());
        return new InvoicePage(
                page.rows().stream()
                        .map(row -> new InvoiceRow(
                                row.number(),
                                row.customer(),
                                row.customerName(),
                                row.invoicedOn(),
                                row.dueOn(),
                                state(row.gross(), row.openAmount(), row.reversedOn() != null),
                                company.money(row.gross()).amount(),
                                company.money(row.openAmount()).amount(),
                                row.earlyPercent() == null
                                        ? null
                                        : early(
                                                row.number(),
                                                row.earlyPercent(),
                                                row.earlyUntil(),
                                                row.openAmount(),
                                                left),
                                row.disputed()))
                        .toList(),
                page.next());
    }
}
