package app.euthyna.server.paper;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Papers that travel with goods: packing slips and return slips. */
@Component
class GoodsPapers {

    private final Letterhead letterhead;
    private final PaperQueries queries;
    private final DocumentChains documents;
    private final DocumentDetails details;
    private final CompanyRulesStore rules;

    GoodsPapers(
            Letterhead letterhead,
            PaperQueries queries,
            DocumentChains documents,
            DocumentDetails details,
            CompanyRulesStore rules) {
        this.letterhead = letterhead;
        this.queries = queries;
        this.documents = documents;
        this.details = details;
        this.rules = rules;
    }

    void packingSlip(Html html, String number, int copy) {
        var order = queries.orderOfDispatch(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", number)));
        var chain = documents.ofOrder(order);
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var void1 = dispatch.state() == Dispatch.State.VOIDED || dispatch.state() == Dispatch.State.REVERSED;
        letterhead.head(
                html,
                letterhead.party(chain.order().customer()),
                "Packing slip " + number,
                copy,
                void1 ? "Void: the goods did not depart" : "");
        var shipTo = details.of("DISPATCH", number).stream()
                .map(DocumentDetails.CarriedDetails::shipTo)
                .findFirst()
                .orElse("");
        var row = queries.carrier(number);
        var carrier = row.carrier() == null ? "" : Texts.joined(", ", row.carrier(), row.carrierReference());
        Letterhead.facts(
                html,
                List.of(
                        Map.entry("Date", Figures.day(dispatch.date())),
                        Map.entry("Order", order),
                        Map.entry("Your PO", Letterhead.read(chain.order().po())),
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

    /**
     * To be put into the parcel: its number in plain and as a barcode (Code 128, ISO/IEC 15417), and what is expected
     * back.
     */
    void returnSlip(Html html, String number, int copy) {
        var found = documents.of(DocumentKind.RETURN, number);
        var goods = Chain.returnOf(found, number);
        letterhead.head(
                html,
                letterhead.party(goods.customer()),
                "Return slip " + number,
                copy,
                goods.withdrawn() ? "Withdrawn: please do not send the goods" : "");
        html.raw("<img class=\"barcode\" alt=\"\" src=\"")
                .raw(Barcode.of(number))
                .raw("\"/>");
        Letterhead.facts(
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
            var chain = Chain.ofOrder(found, line.orderLine().number());
            html.cells(
                    "#" + line.no(),
                    chain.order().line(line.orderLine().line()).description() + " (" + line.item() + ")",
                    Texts.joined(
                            ", ",
                            line.orderLine().number(),
                            line.dispatchLine().number(),
                            Letterhead.read(chain.order().po()).isBlank()
                                    ? ""
                                    : "PO " + chain.order().po()),
                    "#" + Figures.plain(line.authorised().value()),
                    line.received().isZero()
                            ? "#"
                            : "#" + Figures.plain(line.received().value()));
        });
        html.raw("</table>");
    }
}
