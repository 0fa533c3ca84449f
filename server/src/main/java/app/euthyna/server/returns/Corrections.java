package app.euthyna.server.returns;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.billing.BillingService;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.OrderStarting;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * An invoice that is wrong and has gone out: all that is left of it is credited, and what was delivered is rebilled
 * with other data, in one transaction. The goods are with the customer and their cost is cost of sales already, so the
 * new order ships nothing.
 */
@Service
@Transactional(propagation = Propagation.MANDATORY)
class Corrections {

    private final CreditService credits;
    private final OrderService orders;
    private final BillingService billing;
    private final Locks locks;
    private final Ids ids;
    private final OrderStarting starting;

    Corrections(
            CreditService credits,
            OrderService orders,
            BillingService billing,
            Locks locks,
            Ids ids,
            OrderStarting starting) {
        this.starting = starting;
        this.credits = credits;
        this.orders = orders;
        this.billing = billing;
        this.locks = locks;
        this.ids = ids;
    }

    /** What a line of the invoice is billed at instead; what is empty stays as it was. */
    record Instead(
            int invoiceLine,
            Optional<BigDecimal> quantity,
            Optional<BigDecimal> price,
            Optional<BigDecimal> discount) {}

    /**
     * What is billed instead.
     *
     * @param customer another than the invoice's, or none
     * @param po the customer's own number for it; the order's where it is empty and the customer stays
     * @param shipTo another address, or none
     * @param lines those of the invoice that are rebilled; all of them where it is empty
     */
    record Asked(Optional<String> customer, Optional<String> po, Optional<ShipTo> shipTo, List<Instead> lines) {}

    /**
     * What came of it, with the gross amount of the order; without an invoice where the checks hold the order, or
     * someone has to approve it.
     */
    record Corrected(CreditNote credit, String order, OrderState state, Optional<String> invoice, BigDecimal billed) {}

    Corrected correct(CommandContext context, String number, Asked asked) {
        asked.customer().ifPresent(code -> locks.customers(List.of(ids.customer(code), ids.invoiceCustomer(number))));
        var billed = credits.lockedInvoice(number);
        var invoice = billed.invoice();
        RefusedException.where(Crediting.notToBeBilledAgain(invoice));
        var credit = credits.credit(context, billed, List.of());
        var root = billed.chains().iterator().next();
        var lines = lines(invoice, credit, asked.lines());
        var customer = asked.customer().orElse(invoice.customer());
        var po = asked.po()
                .orElse(customer.equals(invoice.customer()) ? root.order().po() : "");
        var before = root.order().details();
        var draft = new OrderDraft(
                customer,
                po,
                OrderKind.STANDARD,
                root.order().site(),
                null,
                null,
                "Rebills invoice %s.".formatted(number),
                null,
                new Details(
                        before.externalReference(),
                        before.revenueUnit(),
                        asked.shipTo().orElse(before.shipTo()),
                        before.fields(),
                        ""),
                lines.stream().map(Line::draft).toList());
        var order = starting.billAgain(
                context,
                draft,
                root.order().number(),
                number,
                lines.stream().map(Line::source).toList());
        var invoiced = order.state() == OrderState.CLEARED
                ? Optional.of(
                        billing.bill(context, List.of(order.number()), List.of(), "Replaces invoice " + number, false))
                : Optional.<String>empty();
        return new Corrected(credit, order.number(), orders.view(order.number()).state(), invoiced, order.gross());
    }

    private record Line(OrderDraft.Line draft, int source) {}

    /** The lines that were credited by quantity, as they were billed or as they are billed instead. */
    private static List<Line> lines(Invoice invoice, CreditNote credit, List<Instead> instead) {
        instead.stream()
                .filter(one -> credit.lines().stream()
                        .noneMatch(l -> l.invoiceLine() == one.invoiceLine()
                                && l.quantity().isPositive()))
                .findFirst()
                .ifPresent(none -> {
                    throw new RefusedException(new CommonRefusal.NotFound(
                            "line that is left to credit", none.invoiceLine() + " on invoice " + invoice.number()));
                });
        var lines = new ArrayList<Line>();
        for (var credited : credit.lines()) {
            var own = instead.stream()
                    .filter(one -> one.invoiceLine() == credited.invoiceLine())
                    .findFirst();
            if (!credited.quantity().isPositive() || (!instead.isEmpty() && own.isEmpty())) {
                continue;
            }
            var billed = invoice.line(credited.invoiceLine());
            lines.add(new Line(
                    new OrderDraft.Line(
                            null,
                            billed.item(),
                            own.flatMap(Instead::quantity)
                                    .orElse(credited.quantity().value()),
                            own.flatMap(Instead::price).orElse(billed.price().unit()),
                            own.flatMap(Instead::discount).orElse(billed.price().discountPercent()),
                            null),
                    billed.no()));
        }
        if (lines.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("lines", "at least one line to rebill"));
        }
        return lines;
    }
}
