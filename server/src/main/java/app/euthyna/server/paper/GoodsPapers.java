package app.euthyna.server.paper;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.paper.PaperText.Column;
import app.euthyna.server.paper.PaperText.Fact;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.util.List;
import java.util.Objects;
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

    PaperText packingSlip(String number, int copy) {
        var order = queries.orderOfDispatch(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", number)));
        var chain = documents.ofOrder(order);
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var isVoid = dispatch.state() == Dispatch.State.VOIDED || dispatch.state() == Dispatch.State.REVERSED;
        var shipTo = details.of("DISPATCH", number).stream()
                .map(DocumentDetails.CarriedDetails::shipTo)
                .findFirst()
                .orElse("");
        var row = queries.carrier(number);
        var carrier = row.carrier() == null ? "" : Texts.joined(", ", row.carrier(), row.carrierReference());
        return letterhead
                .paper(
                        letterhead.party(chain.order().customer()),
                        "Packing slip " + number,
                        copy,
                        isVoid ? "Void: the goods did not depart" : "")
                .facts(
                        new Fact("Date", Figures.day(dispatch.date())),
                        new Fact("Order", order),
                        new Fact("Your PO", Letterhead.read(chain.order().po())),
                        new Fact("From store", dispatch.site()),
                        new Fact("Ships to", Objects.requireNonNullElse(shipTo, "")),
                        new Fact("Carrier", carrier))
                .table(
                        List.of(
                                Column.figure("Line"),
                                Column.text("Item"),
                                Column.figure("Quantity"),
                                Column.figure("Backorder")),
                        dispatch.lines(),
                        line -> {
                            var flow = chain.flow(line.orderLine());
                            var left = flow.toShip().minus(flow.staged()).max(Quantity.ZERO);
                            return List.of(
                                    String.valueOf(line.orderLine()),
                                    flow.line().description() + " (" + line.item() + ")",
                                    Figures.plain(line.quantity().value()),
                                    Figures.plain(left.value()));
                        });
    }

    /**
     * To be put into the parcel: its number in plain and as a barcode (Code 128, ISO/IEC 15417), and what is expected
     * back.
     */
    PaperText returnSlip(String number, int copy) {
        var found = documents.of(DocumentKind.RETURN, number);
        var goods = Chain.returnOf(found, number);
        var sites = goods.lines().stream().map(Return.Line::site).distinct().collect(Collectors.joining(", "));
        return letterhead
                .paper(
                        letterhead.party(goods.customer()),
                        "Return slip " + number,
                        copy,
                        goods.withdrawn() ? "Withdrawn: please do not send the goods" : "")
                .barcode(Barcode.of(number))
                .facts(
                        new Fact("Authorised", Figures.day(goods.on())),
                        new Fact(
                                "Reason",
                                rules.inForce().returns().reason(goods.reason()).words()),
                        new Fact("To store", sites))
                .paragraph("Please put this slip into the parcel so that we can identify your goods.")
                .table(
                        List.of(
                                Column.figure("Line"),
                                Column.text("Item"),
                                Column.text("Order, dispatch, your PO"),
                                Column.figure("Authorised"),
                                Column.figure("Came")),
                        goods.lines(),
                        line -> line(line, Chain.ofOrder(found, line.orderLine().number())));
    }

    private static List<String> line(Return.Line line, Chain chain) {
        var po = Letterhead.read(chain.order().po());
        return List.of(
                String.valueOf(line.no()),
                chain.order().line(line.orderLine().line()).description() + " (" + line.item() + ")",
                Texts.joined(
                        ", ", line.orderLine().number(), line.dispatchLine().number(), po.isBlank() ? "" : "PO " + po),
                Figures.plain(line.authorised().value()),
                line.received().isZero() ? "" : Figures.plain(line.received().value()));
    }
}
