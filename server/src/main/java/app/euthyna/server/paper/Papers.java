package app.euthyna.server.paper;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Dunning;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.billing.Statements;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What stands on each kind of paper. */
@Component
public class Papers {

    /** Instead of a number of copies: a paper that is only looked at, and counts as none. */
    static final int FOR_INSPECTION = -1;

    private static final List<String> REMINDERS = List.of("", "Reminder", "Second reminder", "Final reminder");
    private static final List<String> WORDS = List.of("", """
        The invoices below are past due. If you have paid in the last few days, please disregard this reminder.\
        """, """
        We have had no answer to our reminder, and the invoices below are still open. Please pay them within seven days, or tell us what prevents payment.\
        """, """
        Despite two reminders the invoices below are still open. Unless they are paid within seven days we will hold your orders and refer the matter to collection.\
        """);

    private final PaperQueries queries;
    private final Company company;
    private final ChainReader chains;
    private final OrderService orders;
    private final Statements statements;
    private final InvoiceReminders reminders;
    private final DocumentDetails details;
    private final CompanyRulesStore rules;
    private final DocumentOrders documentOrders;

    Papers(
            PaperQueries queries,
            Company company,
            ChainReader chains,
            OrderService orders,
            Statements statements,
            InvoiceReminders reminders,
            DocumentDetails details,
            CompanyRulesStore rules,
            DocumentOrders documentOrders) {
        this.documentOrders = documentOrders;
        this.rules = rules;
        this.queries = queries;
        this.company = company;
        this.chains = chains;
        this.orders = orders;
        this.statements = statements;
        this.reminders = reminders;
        this.details = details;
    }

    /**
     * The paper of a document, as XHTML.
     *
     * @param number of the document; of a statement {@code CUSTOMER} or {@code CUSTOMER|from|to}
     * @param copy zero for the original, or {@link #FOR_INSPECTION}
     */
    String of(Paper paper, String number, int copy, LocalDate today) {
        var html = new Html();
        switch (paper) {
            case ORDER_CONFIRMATION -> confirmation(html, number, copy);
            case PACKING_SLIP -> packingSlip(html, number, copy);
            case INVOICE -> invoice(html, number, copy);
            case CREDIT_NOTE -> creditNote(html, number, copy);
            case RETURN_SLIP -> returnSlip(html, number, copy);
            case STATEMENT -> statement(html, number, copy, today);
            case REMINDER -> reminder(html, number, copy);
        }
        return html.toString();
    }

    record House(String name, String street, String postcode, String town, String country, String vatId, String iban) {}

    record Party(String code, String name, String street, String postcode, String town, String country, String vatId) {}

    private House house() {
        return queries.house();
    }

    private Party party(String code) {
        return queries.party(code)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)));
    }

    /** House, address, title, and a mark where the paper is a copy or speaks of something that is not settled. */
    private void head(Html html, Party to, String title, int copy, String mark) {
        var house = house();
        html.raw("<div class=\"foot\">")
                .text(Texts.joined(
                        " · ",
                        house.name(),
                        house.vatId().isBlank() ? "" : "VAT id " + house.vatId(),
                        house.iban().isBlank() ? "" : "IBAN " + house.iban()))
                .raw("</div>");
        html.element(
                "div",
                "house",
                Texts.joined(
                        ", ",
                        house.name(),
                        house.street(),
                        Texts.joined(" ", house.postcode(), house.town()),
                        house.country()));
        html.element(
                "div",
                "to",
                Texts.joined(
                        "\n",
                        to.name(),
                        to.street(),
                        Texts.joined(" ", to.postcode(), to.town()),
                        to.country(),
                        to.vatId().isBlank() ? "" : "VAT id " + to.vatId()));
        html.element("h1", "", title);
        if (copy != 0) {
            html.element("div", "mark", copy == FOR_INSPECTION ? "For inspection only" : "Copy " + copy);
        }
        if (!mark.isBlank()) {
            html.element("div", "mark", mark);
        }
    }

    private static void facts(Html html, List<Map.Entry<String, String>> facts) {
        html.raw("<table class=\"facts\">");
        facts.stream()
                .filter(fact -> !fact.getValue().isBlank())
                .forEach(fact -> html.cells(fact.getKey(), fact.getValue()));
        html.raw("</table>");
    }

    private void confirmation(Html html, String number, int copy) {
        var order = orders.view(number);
        var cleared = order.state().isCleared() || order.state().isEnded();
        head(
                html,
                party(order.customer()),
                "Order confirmation " + number,
                copy,
                cleared ? "" : "Not cleared: " + order.state().words());
        var shipTo = order.details().shipTo();
        facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(order.orderedOn())),
                        Map.entry("Your PO", order.po()),
                        Map.entry("Requested", Figures.day(order.requestedOn())),
                        Map.entry(
                                "Ships to",
                                shipTo == null
                                        ? ""
                                        : Texts.joined(
                                                ", ",
                                                shipTo.name(),
                                                shipTo.street(),
                                                Texts.joined(" ", shipTo.postcode(), shipTo.town()),
                                                shipTo.country())),
                        Map.entry(
                                "Your reference",
                                order.details().externalReference() == null
                                        ? ""
                                        : order.details().externalReference())));
        html.raw("<table class=\"lines\">")
                .head("#Line", "Item", "#Quantity", "#Price", "#Discount %", "#Net " + currency());
        order.lines().forEach(line -> {
            if (line.kind().equals(LineKind.TEXT.name())) {
                html.cells("", line.description(), "", "", "", "");
            } else if (line.kind().equals(LineKind.SUBTOTAL.name())) {
                html.cells("", line.description(), "", "", "", "#" + Figures.grouped(line.net()));
            } else {
                html.cells(
                        "#" + line.no(),
                        line.description() + " (" + line.item() + ")",
                        "#" + Figures.plain(line.quantity()),
                        "#" + Figures.price(line.price()),
                        "#" + (line.discount().signum() == 0 ? "" : Figures.plain(line.discount())),
                        "#" + Figures.grouped(line.net()));
            }
        });
        html.raw("</table>");
        sums(
                html,
                List.of(Map.entry("Net", order.net())),
                order.vatBands().stream()
                        .map(b -> Map.entry(vat(b.category(), b.rate()), b.tax()))
                        .toList(),
                "Gross",
                order.gross());
        if (!order.remark().isBlank()) {
            html.element("p", "", order.remark());
        }
    }

    private String currency() {
        return company.currency().getCurrencyCode();
    }

    private static String vat(String category, BigDecimal rate) {
        return switch (Vat.Category.valueOf(category)) {
            case S -> "VAT " + Figures.plain(rate) + " %";
            case Z -> "VAT 0 %, zero rated";
            case E -> "VAT exempt";
            case AE -> "VAT reverse charge: the customer accounts for it";
            case G -> "VAT 0 %, export outside the union";
        };
    }

    private static void sums(
            Html html,
            List<Map.Entry<String, BigDecimal>> first,
            List<Map.Entry<String, BigDecimal>> then,
            String last,
            BigDecimal sum) {
        html.raw("<table class=\"sums\">");
        first.forEach(row -> html.cells(row.getKey(), "#" + Figures.grouped(row.getValue())));
        then.forEach(row -> html.cells(row.getKey(), "#" + Figures.grouped(row.getValue())));
        html.raw("<tr class=\"last\">")
                .element("td", "", last)
                .element("td", "figure", Figures.grouped(sum))
                .raw("</tr></table>");
    }

    private void packingSlip(Html html, String number, int copy) {
        var order = queries.orderOfDispatch(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", number)));
        var chain = chains.chain(order);
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var void1 = dispatch.state() == Dispatch.State.VOIDED || dispatch.state() == Dispatch.State.REVERSED;
        head(
                html,
                party(chain.order().customer()),
                "Packing slip " + number,
                copy,
                void1 ? "Void: the goods did not depart" : "");
        var shipTo = details.of("DISPATCH", number).stream()
                .map(DocumentDetails.CarriedDetails::shipTo)
                .findFirst()
                .orElse("");
        var row = queries.carrier(number);
        var carrier = row.carrier() == null ? "" : Texts.joined(", ", row.carrier(), row.carrierReference());
        facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(dispatch.date())),
                        Map.entry("Order", order),
                        Map.entry("Your PO", read(chain.order().po())),
                        Map.entry("From store", dispatch.site()),
                        Map.entry("Ships to", shipTo == null ? "" : shipTo),
                        Map.entry("Carrier", carrier)));
        html.raw("<table class=\"lines\">").head("#Line", "Item", "#Quantity", "#Backorder");
        for (var line : dispatch.lines()) {
            var flow = chain.flow(line.orderLine());
            html.cells(
                    "#" + line.orderLine(),
                    flow.line().description() + " (" + line.item() + ")",
                    "#" + Figures.plain(line.quantity().value()),
                    "#"
                            + Figures.plain(flow.toShip()
                                    .minus(flow.staged())
                                    .max(app.euthyna.core.shared.Quantity.ZERO)
                                    .value()));
        }
        html.raw("</table>");
    }

    private void invoice(Html html, String number, int copy) {
        var found = chains.chains(documentOrders.of(DocumentKind.INVOICE, number));
        var invoice = Chain.invoiceOf(found.values(), number);
        head(
                html,
                party(invoice.customer()),
                "Invoice " + number,
                copy,
                invoice.reversed() ? "Reversed: do not pay" : "");
        facts(
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
        html.raw("<table class=\"lines\">")
                .head("#Line", "Item", "Order, dispatch, your PO", "#Quantity", "#Price", "#Net " + currency());
        invoice.lines().forEach(line -> {
            var chain = found.get(line.orderLine().number());
            html.cells(
                    "#" + line.no(),
                    line.description() + " (" + line.item() + ")",
                    origin(line, chain.order().po()),
                    "#" + Figures.plain(line.quantity().value()),
                    "#" + price(line.price()),
                    "#" + Figures.grouped(line.net().amount()));
        });
        html.raw("</table>");
        var totals = invoice.totals();
        sums(
                html,
                List.of(Map.entry("Net", totals.net().amount())),
                totals.bands().stream()
                        .map(band -> Map.entry(
                                vat(band.vat().category().name(), band.vat().ratePercent()) + " on "
                                        + Figures.grouped(band.taxable().amount()),
                                band.tax().amount()))
                        .toList(),
                "Amount due, " + currency(),
                totals.gross().amount());
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
    private void creditNote(Html html, String number, int copy) {
        var found = chains.chains(documentOrders.of(DocumentKind.CREDIT_NOTE, number))
                .values();
        var credit = Chain.credits(found).stream()
                .filter(c -> c.number().equals(number))
                .findFirst()
                .orElseThrow();
        var invoice = Chain.invoiceOf(found, credit.invoice());
        head(html, party(credit.customer()), "Credit note " + number, copy, "");
        facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(credit.on())),
                        Map.entry("For invoice", invoice.number() + " of " + Figures.day(invoice.on())),
                        Map.entry("Reason", credit.reason())));
        html.raw("<table class=\"lines\">")
                .head("#Line", "Item", "Invoice line, return", "#Quantity", "#Net " + currency());
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
        sums(
                html,
                List.of(Map.entry("Net", totals.net().amount())),
                totals.bands().stream()
                        .map(band -> Map.entry(
                                vat(band.vat().category().name(), band.vat().ratePercent()) + " on "
                                        + Figures.grouped(band.taxable().amount()),
                                band.tax().amount()))
                        .toList(),
                "Credited, " + currency(),
                totals.gross().amount());
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

    /**
     * To be put into the parcel: its number in plain and as a barcode (Code 128, ISO/IEC 15417), and what is expected
     * back.
     */
    private void returnSlip(Html html, String number, int copy) {
        var found = chains.chains(documentOrders.of(DocumentKind.RETURN, number));
        var goods = Chain.returnOf(found.values(), number);
        head(
                html,
                party(goods.customer()),
                "Return slip " + number,
                copy,
                goods.withdrawn() ? "Withdrawn: please do not send the goods" : "");
        html.raw("<img class=\"barcode\" alt=\"\" src=\"")
                .raw(Barcode.of(number))
                .raw("\"/>");
        facts(
                html,
                List.of(
                        Map.entry("Authorised", Figures.day(goods.on())),
                        Map.entry(
                                "Reason",
                                rules.inForce().returns().reason(goods.reason()).words()),
                        Map.entry(
                                "To store",
                                goods.lines().stream()
                                        .map(Return.Line::site)
                                        .distinct()
                                        .collect(Collectors.joining(", ")))));
        html.element("p", "", "Please put this slip into the parcel so that we can identify your goods.");
        html.raw("<table class=\"lines\">").head("#Line", "Item", "Order, dispatch, your PO", "#Authorised", "#Came");
        goods.lines().forEach(line -> {
            var chain = found.get(line.orderLine().number());
            html.cells(
                    "#" + line.no(),
                    chain.order().line(line.orderLine().line()).description() + " (" + line.item() + ")",
                    Texts.joined(
                            ", ",
                            line.orderLine().number(),
                            line.dispatchLine().number(),
                            read(chain.order().po()).isBlank()
                                    ? ""
                                    : "PO " + chain.order().po()),
                    "#" + Figures.plain(line.authorised().value()),
                    line.received().isZero()
                            ? "#"
                            : "#" + Figures.plain(line.received().value()));
        });
        html.raw("</table>");
    }

    private static String origin(Invoice.Line line, String po) {
        Set<String> dispatches = line.sources().stream()
                .map(s -> s.dispatchLine().number())
                .collect(Collectors.toCollection(LinkedHashSet::new));
        return Texts.joined(
                ", ", line.orderLine().number(), String.join(", ", dispatches), po.isBlank() ? "" : "PO " + po);
    }

    /** A PO number, on a paper that the warehouse makes too: it does not read them. */
    private static String read(String po) {
        return ReadBy.Group.SELLING.isRead() ? po : "";
    }

    private static String price(Price price) {
        return Figures.price(price.unit())
                + (price.discountPercent().signum() == 0 ? "" : " −" + Figures.plain(price.discountPercent()) + " %");
    }

    private static LocalDate day(String text) {
        try {
            // ten characters: the years that every database knows
            return LocalDate.parse(text.length() == 10 ? text : "");
        } catch (DateTimeParseException notADay) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("numbers", "CUSTOMER|from|to, with days like 2026-03-02"));
        }
    }

    private void statement(Html html, String number, int copy, LocalDate today) {
        var parts = number.split("\\|", -1);
        var to = parts.length > 2 ? day(parts[2]) : today;
        var from = parts.length > 1 ? day(parts[1]) : to.minusMonths(3);
        RefusedException.where(Dating.span("from", from, "to", to));
        var view = statements.of(parts[0], from, to);
        head(html, party(parts[0]), "Statement of account at " + Figures.day(to), copy, "");
        html.raw("<table class=\"lines\">")
                .head("Date", "Document", "What", "#Debit", "#Credit", "#Balance " + currency());
        html.cells(Figures.day(from), "", "Balance brought forward", "", "", "#" + Figures.grouped(view.opening()));
        view.rows()
                .forEach(row -> html.cells(
                        Figures.day(row.on()),
                        row.documentNumber(),
                        row.event(),
                        "#" + orNothing(row.debit()),
                        "#" + orNothing(row.credit()),
                        "#" + Figures.grouped(row.balance())));
        html.raw("</table>").element("h2", "", "Open invoices");
        html.raw("<table class=\"lines\">")
                .head("Invoice", "Date", "Due", "#Days past due", "#Gross", "#Open " + currency());
        view.openItems()
                .forEach(item -> html.cells(
                        item.invoice(),
                        Figures.day(item.on()),
                        Figures.day(item.dueOn()),
                        "#" + (item.daysLate() == 0 ? "" : item.daysLate()),
                        "#" + Figures.grouped(item.gross()),
                        "#" + Figures.grouped(item.open())));
        html.raw("</table>");
        sums(
                html,
                List.of(Map.entry("Open invoices", view.open())),
                List.of(Map.entry("Deposits and credit", view.unapplied().negate())),
                "Balance, " + currency(),
                view.closing());
    }

    private static String orNothing(BigDecimal figure) {
        return figure.signum() == 0 ? "" : Figures.grouped(figure);
    }

    private void reminder(Html html, String number, int copy) {
        long id;
        try {
            id = Long.parseLong(number);
        } catch (NumberFormatException none) {
            throw new RefusedException(new CommonRefusal.NotFound("reminder", number));
        }
        var reminder = reminders.reminder(id);
        var customer = queries.customerReminded(id).orElseThrow();
        var on = reminder.invoices().get(0).remindedOn();
        head(html, party(customer), REMINDERS.get(reminder.step()), copy, "");
        facts(html, List.of(Map.entry("Date", Figures.day(on))));
        html.element("p", "", words(reminder.step()));
        html.raw("<table class=\"lines\">")
                .head("Invoice", "Due", "#Days past due", "Payment reference", "#Open " + currency());
        reminder.invoices()
                .forEach(i -> html.cells(
                        i.invoice(),
                        Figures.day(i.dueOn()),
                        "#" + i.daysLate(on),
                        CreditorReference.of(i.invoice()),
                        "#" + Figures.grouped(i.open().amount())));
        html.raw("</table>");
        sums(
                html,
                List.of(),
                List.of(),
                "Amount due, " + currency(),
                reminder.open().amount());
    }

    /** The words of a reminder, on paper and in the message. */
    static String words(int step) {
        return WORDS.get(Math.min(step, Dunning.AFTER_DAYS.size()));
    }

    static String titleOf(int step) {
        return REMINDERS.get(step);
    }

    /** Sum in words of the company for the message. */
    static String sum(Money open) {
        return open.toString();
    }
}
