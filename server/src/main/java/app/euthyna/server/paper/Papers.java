package app.euthyna.server.paper;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.OrderView;
import app.euthyna.server.paper.PaperText.Column;
import app.euthyna.server.paper.PaperText.Fact;
import app.euthyna.server.platform.Texts;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
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
     * What stands on the paper of a document.
     *
     * @param number of the document; of a statement {@code CUSTOMER} or {@code CUSTOMER|from|to}
     * @param copy zero for the original, or {@link #FOR_INSPECTION}
     */
    PaperText of(Paper paper, String number, int copy, LocalDate today) {
        return switch (paper) {
            case ORDER_CONFIRMATION -> confirmation(number, copy);
            case PACKING_SLIP -> goods.packingSlip(number, copy);
            case INVOICE -> billing.invoice(number, copy);
            case CREDIT_NOTE -> billing.creditNote(number, copy);
            case RETURN_SLIP -> goods.returnSlip(number, copy);
            case STATEMENT -> account.statement(number, copy, today);
            case REMINDER -> account.reminder(number, copy);
        };
    }

    private PaperText confirmation(String number, int copy) {
        var order = orders.view(number);
        var cleared = order.state().isCleared() || order.state().isEnded();
        return letterhead
                .paper(
                        letterhead.party(order.customer()),
                        "Order confirmation " + number,
                        copy,
                        cleared ? "" : "Not cleared: " + order.state().words())
                .facts(
                        new Fact("Date", Figures.day(order.orderedOn())),
                        new Fact("Your PO", order.po()),
                        new Fact("Requested", Figures.day(order.requestedOn())),
                        new Fact("Ships to", shipTo(order)),
                        new Fact(
                                "Your reference",
                                Objects.requireNonNullElse(order.details().externalReference(), "")))
                .table(
                        List.of(
                                Column.figure("Line"),
                                Column.text("Item"),
                                Column.figure("Quantity"),
                                Column.figure("Price"),
                                Column.figure("Discount %"),
                                Column.figure("Net " + letterhead.currency())),
                        order.lines(),
                        Papers::line)
                .sums(
                        Stream.concat(
                                        Stream.of(Letterhead.sum("Net", order.net())),
                                        order.vatBands().stream()
                                                .map(b -> Letterhead.sum(
                                                        Letterhead.vat(b.category(), b.rate()), b.tax())))
                                .toList(),
                        Letterhead.sum("Gross", order.gross()))
                .paragraph(order.remark());
    }

    private static String shipTo(OrderView order) {
        var to = order.details().shipTo();
        return to == null
                ? ""
                : Texts.joined(", ", to.name(), to.street(), Texts.joined(" ", to.postcode(), to.town()), to.country());
    }

    private static List<String> line(OrderView.LineView line) {
        return switch (LineKind.valueOf(line.kind())) {
            case TEXT -> List.of("", line.description(), "", "", "", "");
            case SUBTOTAL -> List.of("", line.description(), "", "", "", Figures.grouped(line.net()));
            default ->
                List.of(
                        String.valueOf(line.no()),
                        line.description() + " (" + line.item() + ")",
                        Figures.plain(line.quantity()),
                        Figures.price(line.price()),
                        line.discount().signum() == 0 ? "" : Figures.plain(line.discount()),
                        Figures.grouped(line.net()));
        };
    }
}
