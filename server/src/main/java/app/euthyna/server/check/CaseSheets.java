package app.euthyna.server.check;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Outlook;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import app.euthyna.server.check.ReviewViews.DocumentView;
import app.euthyna.server.check.ReviewViews.DryRunView;
import app.euthyna.server.check.ReviewViews.HistoryView;
import app.euthyna.server.check.ReviewViews.LineFlowView;
import app.euthyna.server.check.ReviewViews.PositionView;
import app.euthyna.server.check.ReviewViews.SheetView;
import app.euthyna.server.check.ReviewViews.ShortageView;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** The case sheet: an order with all that speaks for and against it. */
@Component
class CaseSheets {

    private final Cases cases;
    private final OrderService orders;
    private final MasterData masterData;
    private final ReviewQueries queries;
    private final Clearance clearance;
    private final Company company;

    CaseSheets(
            Cases cases,
            OrderService orders,
            MasterData masterData,
            ReviewQueries queries,
            Clearance clearance,
            Company company) {
        this.cases = cases;
        this.orders = orders;
        this.masterData = masterData;
        this.queries = queries;
        this.clearance = clearance;
        this.company = company;
    }

    /** As whoever asks sees it. */
    SheetView of(CommandContext context, String number) {
        var chain = cases.chain(number);
        var view = orders.view(number);
        var found = cases.findings(number);
        var customer = masterData.customer(view.customer());
        var position = cases.position(view.customer());
        var approval = clearance.requestOf(number);
        return new SheetView(
                view,
                ReviewViews.sentence(view.state().name(), found, approval),
                found.stream().map(ReviewViews::finding).toList(),
                chain.flows().stream().map(CaseSheets::flow).toList(),
                new PositionView(
                        ReviewViews.terms(position, Optional.empty()),
                        position.exposure().amount(),
                        limit(customer)),
                masterData.personToCall(view.customer()),
                documents(number),
                history(number),
                approval,
                clearance.actions(context, chain, found));
    }

    /** What would hold an order as it is written now. */
    DryRunView dryRun(CheckService.DryRun run) {
        var order = run.chain().order();
        var customer = masterData.customer(order.customer());
        var held = Checks.stateOf(
                run.chain().after(new Effect.StateChanged(order.number(), order.state(), OrderState.SUBMITTED)),
                run.findings());
        var exposure = run.checkContext().position().exposure().plus(run.chain().openGross());
        var written = orders.simulated(order);
        var asks = clearance.asks(order);
        return new DryRunView(
                written,
                Outlook.of(written.missing().isEmpty(), run.findings(), !asks.isEmpty()),
                ReviewViews.sentence(held.name(), run.findings(), null),
                run.findings().stream()
                        .filter(f -> f.isOpen())
                        .map(ReviewViews::finding)
                        .toList(),
                asks,
                new PositionView(
                        ReviewViews.terms(
                                run.checkContext().position(),
                                Optional.of(run.chain().openGross())),
                        exposure.amount(),
                        limit(customer)),
                shortages(run.findings(), order));
    }

    private List<ShortageView> shortages(List<Finding> found, Order order) {
        return found.stream()
                .filter(Finding::isOpen)
                .map(Finding::evidence)
                .filter(Evidence.StockShortage.class::isInstance)
                .map(Evidence.StockShortage.class::cast)
                .flatMap(evidence -> evidence.lines().stream())
                .map(line -> new ShortageView(
                        line.line(),
                        line.covered().value(),
                        line.waiting().value(),
                        cases.freeElsewhere(line.item(), order.siteOf(order.line(line.line()))).entrySet().stream()
                                .map(there -> new ReviewViews.AtStore(
                                        there.getKey(), there.getValue().value()))
                                .toList()))
                .toList();
    }

    private static BigDecimal limit(Customer customer) {
        return customer.rules().creditLimit().map(Money::amount).orElse(null);
    }

    static LineFlowView flow(LineFlow flow) {
        return new LineFlowView(
                flow.line().no(),
                flow.ordered().value(),
                flow.cancelled().value(),
                flow.reserved().value(),
                flow.waiting().value(),
                flow.staged().value(),
                flow.dispatched().value(),
                flow.returned().value(),
                flow.billed().value(),
                flow.credited().value(),
                flow.toShip().value(),
                flow.toBill().value());
    }

    private List<DocumentView> documents(String order) {
        var documents = new ArrayList<DocumentView>();
        documents.addAll(queries.dispatches(order).stream()
                .map(row -> new DocumentView(
                        "DISPATCH", row.number(), row.state().name(), row.departedOn(), null, row.version()))
                .toList());
        documents.addAll(queries.invoices(order).stream()
                .map(row -> new DocumentView(
                        "INVOICE",
                        row.number(),
                        OpenInvoice.state(company.money(row.gross()), company.money(row.openAmount()), row.reversed())
                                .name(),
                        row.invoicedOn(),
                        company.money(row.gross()).amount(),
                        row.version()))
                .toList());
        documents.addAll(queries.returns(order).stream()
                .map(row ->
                        new DocumentView("RETURN", row.number(), row.state(), row.authorisedOn(), null, row.version()))
                .toList());
        documents.addAll(queries.creditNotes(order).stream()
                .map(row -> new DocumentView(
                        "CREDIT_NOTE",
                        row.number(),
                        row.reversedOn() == null ? "POSTED" : "REVERSED",
                        row.creditedOn(),
                        company.money(row.gross()).amount(),
                        row.version()))
                .toList());
        return documents;
    }

    private List<HistoryView> history(String order) {
        return queries.history(order).stream()
                .map(row -> new HistoryView(
                        row.happenedOn(), row.byUser(), row.documentKind(), row.documentNumber(), row.sentence()))
                .toList();
    }

    /** A customer's exposure with its terms. */
    PositionView position(String code) {
        var customer = masterData.customer(code);
        var position = cases.position(code);
        return new PositionView(
                ReviewViews.terms(position, Optional.empty()),
                position.exposure().amount(),
                limit(customer));
    }
}
