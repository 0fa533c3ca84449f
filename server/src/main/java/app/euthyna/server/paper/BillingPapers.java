package app.euthyna.server.paper;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Totals;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Texts;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
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

    void invoice(Html html, String number, int copy) {
        var found = documents.of(DocumentKind.INVOICE, number);
        var invoice = Chain.invoiceOf(found, number);
        letterhead.head(
                html,
                letterhead.party(invoice.customer()),
                "Invoice " + number,
                copy,
                invoice.reversed() ? "Reversed: do not pay" : "");
        Letterhead.facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(invoice.on())),
                        Map.entry("Due", Figures.day(invoice.dueOn())),
                        Map.entry(
                                "Payment reference",
                                CreditorReference.of(number).replaceAll("(.{4})(?=.)", "$1 "))));
        if (!invoice.text().isBlank()) {
            html.element("p", "", invoice.text());
        }
        lines(html, invoice, found);
        var totals = invoice.totals();
        sums(html, totals, "Amount due");
        var settled = queries.deposited(number);
        if (settled.signum() > 0) {
            var paid = company.money(settled);
            html.element(
                    "p",
                    "",
                    "Deposits applied to this invoice: %s; amount due: %s."
                            .formatted(paid, totals.gross().minus(paid)));
        }
    }

    /**
     * Refers to its invoice and says why (EN 16931-1 BG-3, preceding invoice; a credit note's amounts are positive).
     */
    void creditNote(Html html, String number, int copy) {
        var found = documents.of(DocumentKind.CREDIT_NOTE, number);
        var credit = Chain.credits(found).stream()
                .filter(c -> c.number().equals(number))
                .findFirst()
                .orElseThrow();
        var invoice = Chain.invoiceOf(found, credit.invoice());
        letterhead.head(html, letterhead.party(credit.customer()), "Credit note " + number, copy, "");
        Letterhead.facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(credit.on())),
                        Map.entry("For invoice", invoice.number() + " of " + Figures.day(invoice.on())),
                        Map.entry("Reason", credit.reason())));
        html.raw("<table class=\"lines\">")
                .head("#Line", "Item", "Invoice line, return", "#Quantity", "#Net " + letterhead.currency());
        credit.lines().forEach(line -> {
            var fee = line.fee().isPositive() ? "\nless a restocking fee of %s".formatted(line.fee()) : "";
            html.cells(
                    "#" + line.no(),
                    line.description() + " (" + line.item() + ")" + fee,
                    Texts.joined(
                            ", ",
                            "line " + line.invoiceLine(),
                            line.returnLine().map(r -> r.number()).orElse("")),
                    line.quantity().isPositive()
                            ? "#" + Figures.plain(line.quantity().value())
                            : "#",
                    "#" + Figures.grouped(line.net().amount()));
        });
        html.raw("</table>");
        var totals = credit.totals();
        sums(html, totals, "Credited");
        var settled = queries.settledBy(number, invoice.number());
        var left = totals.gross().minus(company.money(settled));
        html.element(
                "p",
                "",
                left.isZero()
                        ? "Applied to invoice %s.".formatted(invoice.number())
                        : left.equals(totals.gross())
                                ? "Invoice %s is paid; the amount is your credit or was refunded."
                                        .formatted(invoice.number())
                                : "%s are applied to invoice %s; the rest is your credit or was refunded."
                                        .formatted(company.money(settled), invoice.number()));
    }

    private void lines(Html html, Invoice invoice, Collection<Chain> found) {
        html.raw("<table class=\"lines\">")
                .head(
                        "#Line",
                        "Item",
                        "Order, dispatch, your PO",
                        "#Quantity",
                        "#Price",
                        "#Net " + letterhead.currency());
        invoice.lines().forEach(line -> {
            var chain = Chain.ofOrder(found, line.orderLine().number());
            html.cells(
                    "#" + line.no(),
                    line.description() + " (" + line.item() + ")",
                    origin(line, chain.order().po()),
                    "#" + Figures.plain(line.quantity().value()),
                    "#" + Letterhead.price(line.price()),
                    "#" + Figures.grouped(line.net().amount()));
        });
        html.raw("</table>");
    }

    private void sums(Html html, Totals totals, String last) {
        Letterhead.sums(
                html,
                List.of(Map.entry("Net", totals.net().amount())),
                totals.bands().stream()
                        .map(band -> Map.entry(
                                Letterhead.vat(
                                                band.vat().category().name(),
                                                band.vat().ratePercent()) + " on "
                                        + Figures.grouped(band.taxable().amount()),
                                band.tax().amount()))
                        .toList(),
                last + ", " + letterhead.currency(),
                totals.gross().amount());
    }

    private static String origin(Invoice.Line line, String po) {
        Set<String> dispatches = line.sources().stream()
                .map(s -> s.dispatchLine().number())
                .collect(Collectors.toCollection(LinkedHashSet::new));
        return Texts.joined(
                ", ", line.orderLine().number(), String.join(", ", dispatches), po.isBlank() ? "" : "PO " + po);
    }
}
