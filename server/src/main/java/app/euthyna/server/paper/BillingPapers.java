package app.euthyna.server.paper;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Reducing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Totals;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.paper.PaperText.Column;
import app.euthyna.server.paper.PaperText.Fact;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Texts;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Invoices and credit notes. */
@Component
class BillingPapers {

    private final Letterhead letterhead;
    private final PaperQueries queries;
    private final DocumentChains documents;
    private final Company company;

    BillingPapers(Letterhead letterhead, PaperQueries queries, DocumentChains documents, Company company) {
        this.letterhead = letterhead;
        this.queries = queries;
        this.documents = documents;
        this.company = company;
    }

    PaperText invoice(String number, int copy) {
        var found = documents.of(DocumentKind.INVOICE, number);
        var invoice = Chain.invoiceOf(found, number);
        var paper = letterhead
                .paper(
                        letterhead.party(invoice.customer()),
                        "Invoice " + number,
                        copy,
                        invoice.reversed() ? "Reversed: do not pay" : "")
                .facts(
                        new Fact("Date", Figures.day(invoice.on())),
                        new Fact("Due", Figures.day(invoice.dueOn())),
                        new Fact(
                                "Payment reference",
                                CreditorReference.of(number).replaceAll("(.{4})(?=.)", "$1 ")))
                .paragraph(invoice.text())
                .table(
                        List.of(
                                Column.figure("Line"),
                                Column.text("Item"),
                                Column.text("Order, dispatch, your PO"),
                                Column.figure("Quantity"),
                                Column.figure("Price"),
                                Column.figure("Net " + letterhead.currency())),
                        invoice.lines(),
                        line -> line(line, found));
        var totals = invoice.totals();
        sums(paper, totals, "Amount due");
        invoice.earlyPayment()
                .flatMap(agreed -> Reducing.discount(agreed.percent(), totals.gross())
                        .map(discount -> "Paid by %s, it is settled with %s: less %s %% early-payment discount."
                                .formatted(
                                        Figures.day(agreed.until()),
                                        totals.gross().minus(discount),
                                        Figures.plain(agreed.percent()))))
                .ifPresent(paper::paragraph);
        var settled = queries.deposited(number);
        if (settled.signum() > 0) {
            var paid = company.money(settled);
            paper.paragraph("Deposits applied to this invoice: %s; amount due: %s."
                    .formatted(paid, totals.gross().minus(paid)));
        }
        return paper;
    }

    private static List<String> line(Invoice.Line line, Collection<Chain> found) {
        var chain = Chain.ofOrder(found, line.orderLine().number());
        return List.of(
                String.valueOf(line.no()),
                line.description() + " (" + line.item() + ")",
                origin(line, chain.order().po()),
                Figures.plain(line.quantity().value()),
                Letterhead.price(line.price()),
                Figures.grouped(line.net().amount()));
    }

    /**
     * Refers to its invoice and says why (EN 16931-1 BG-3, preceding invoice; a credit note's amounts are positive).
     */
    PaperText creditNote(String number, int copy) {
        var found = documents.of(DocumentKind.CREDIT_NOTE, number);
        var credit = Chain.allCredits(found).stream()
                .filter(c -> c.number().equals(number))
                .findFirst()
                .orElseThrow();
        var invoice = Chain.invoiceOf(found, credit.invoice());
        var paper = letterhead
                .paper(
                        letterhead.party(credit.customer()),
                        "Credit note " + number,
                        copy,
                        credit.reversed() ? "Taken back: it no longer counts" : "")
                .facts(
                        new Fact("Date", Figures.day(credit.on())),
                        new Fact("For invoice", invoice.number() + " of " + Figures.day(invoice.on())),
                        new Fact("Reason", credit.reason()))
                .table(
                        List.of(
                                Column.figure("Line"),
                                Column.text("Item"),
                                Column.text("Invoice line, return"),
                                Column.figure("Quantity"),
                                Column.figure("Net " + letterhead.currency())),
                        credit.lines(),
                        BillingPapers::line);
        var totals = credit.totals();
        sums(paper, totals, "Credited");
        if (!credit.discounted().isEmpty()) {
            paper.paragraph("Net and VAT are less %s and %s: their share of the early-payment discount that was taken."
                    .formatted(
                            sum(credit.discounted(), Totals.Band::taxable),
                            sum(credit.discounted(), Totals.Band::tax)));
        }
        if (credit.reversed()) {
            return paper;
        }
        return paper.paragraph(settled(totals, invoice, company.money(queries.settledBy(number, invoice.number()))));
    }

    private static Money sum(List<Totals.Band> bands, Function<Totals.Band, Money> amount) {
        return bands.stream().map(amount).reduce(Money::plus).orElseThrow();
    }

    private static List<String> line(CreditNote.Line line) {
        var fee = line.fee().isPositive() ? "\nless a restocking fee of %s".formatted(line.fee()) : "";
        return List.of(
                String.valueOf(line.no()),
                line.description() + " (" + line.item() + ")" + fee,
                Texts.joined(
                        ", ",
                        "line " + line.invoiceLine(),
                        line.returnLine().map(r -> r.number()).orElse("")),
                line.quantity().isPositive() ? Figures.plain(line.quantity().value()) : "",
                Figures.grouped(line.net().amount()));
    }

    /** What became of a credit. */
    private static String settled(Totals totals, Invoice invoice, Money settled) {
        var left = totals.gross().minus(settled);
        if (left.isZero()) {
            return "Applied to invoice %s.".formatted(invoice.number());
        }
        return left.equals(totals.gross())
                ? "Invoice %s is paid; the amount is your credit or was refunded.".formatted(invoice.number())
                : "%s are applied to invoice %s; the rest is your credit or was refunded."
                        .formatted(settled, invoice.number());
    }

    private void sums(PaperText paper, Totals totals, String last) {
        paper.sums(
                Stream.concat(
                                Stream.of(Letterhead.sum("Net", totals.net().amount())),
                                totals.bands().stream()
                                        .map(band -> Letterhead.sum(
                                                Letterhead.vat(
                                                                band.vat()
                                                                        .category()
                                                                        .name(),
                                                                band.vat().ratePercent()) + " on "
                                                        + Figures.grouped(
                                                                band.taxable().amount()),
                                                band.tax().amount())))
                        .toList(),
                Letterhead.sum(
                        last + ", " + letterhead.currency(), totals.gross().amount()));
    }

    private static String origin(Invoice.Line line, String po) {
        Set<String> dispatches = line.sources().stream()
                .map(s -> s.dispatchLine().number())
                .collect(Collectors.toCollection(LinkedHashSet::new));
        return Texts.joined(
                ", ", line.orderLine().number(), String.join(", ", dispatches), po.isBlank() ? "" : "PO " + po);
    }
}
