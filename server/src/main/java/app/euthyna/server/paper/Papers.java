package app.euthyna.server.paper;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.OrderView;
import app.euthyna.server.platform.Texts;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What stands on each kind of paper. */
@Component
public class Papers {

    /** Instead of a number of copies: a paper that is only looked at, and counts as none. */
    static final int FOR_INSPECTION = -1;

    private final Letterhead letterhead;
    private final OrderService orders;
    private final GoodsPapers goods;
    private final BillingPapers billing;
    private final AccountPapers account;

    Papers(
            Letterhead letterhead,
            OrderService orders,
            GoodsPapers goods,
            BillingPapers billing,
            AccountPapers account) {
        this.letterhead = letterhead;
        this.orders = orders;
        this.goods = goods;
        this.billing = billing;
        this.account = account;
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
            case PACKING_SLIP -> goods.packingSlip(html, number, copy);
            case INVOICE -> billing.invoice(html, number, copy);
            case CREDIT_NOTE -> billing.creditNote(html, number, copy);
            case RETURN_SLIP -> goods.returnSlip(html, number, copy);
            case STATEMENT -> account.statement(html, number, copy, today);
            case REMINDER -> account.reminder(html, number, copy);
        }
        return html.toString();
    }

    private void confirmation(Html html, String number, int copy) {
        var order = orders.view(number);
        var cleared = order.state().isCleared() || order.state().isEnded();
        letterhead.head(
                html,
                letterhead.party(order.customer()),
                "Order confirmation " + number,
                copy,
                cleared ? "" : "Not cleared: " + order.state().words());
        var shipTo = order.details().shipTo();
        Letterhead.facts(
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
        lines(html, order);
        Letterhead.sums(
                html,
                List.of(Map.entry("Net", order.net())),
                order.vatBands().stream()
                        .map(b -> Map.entry(Letterhead.vat(b.category(), b.rate()), b.tax()))
                        .toList(),
                "Gross",
                order.gross());
        if (!order.remark().isBlank()) {
            html.element("p", "", order.remark());
        }
    }

    private void lines(Html html, OrderView order) {
        html.raw("<table class=\"lines\">")
                .head("#Line", "Item", "#Quantity", "#Price", "#Discount %", "#Net " + letterhead.currency());
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
    }
}
