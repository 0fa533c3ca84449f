package app.euthyna.core.trail;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.trail.Trail.Aspect;
import app.euthyna.core.trail.Trail.Measure;
import app.euthyna.core.trail.Trail.Row;
import app.euthyna.core.trail.Trail.UnitMove;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Currency;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** The rows of a trail: what each document did. */
record TrailRows(TrailFacts facts, Currency currency) {

    /** All rows, in the sequence in which they came about. */
    List<Row> all() {
        var invoices = invoices();
        var rows = new ArrayList<Row>();
        for (var chain : facts.roots()) {
            orderRows(chain, rows);
        }
        invoices.values().forEach(invoice -> rows.add(invoiceRow(invoice)));
        facts.payments().forEach(payment -> paymentRows(payment, invoices, rows));
        var deposits = new DepositRows(this, invoices);
        facts.deposits().forEach(deposit -> rows.addAll(deposits.of(deposit)));
        facts.refunds().forEach(refund -> {
            var ref = new DocumentRef(DocumentKind.REFUND, refund.number());
            rows.add(row(
                    Aspect.MONEY,
                    refund.on(),
                    stamp(ref),
                    ref,
                    List.of(refund.source()),
                    "%s of customer credit refunded".formatted(refund.amount()),
                    refund.reversed(),
                    List.of(),
                    zero(),
                    zero()));
        });
        facts.roots().stream()
                .flatMap(chain -> chain.returns().stream())
                .distinct()
                .forEach(goods -> returnRows(goods, rows));
        Chain.allCredits(facts.roots()).forEach(credit -> rows.add(creditRow(credit)));
        facts.reversals().forEach(reversal -> rows.add(reversalRow(reversal, invoices)));
        facts.remarks()
                .forEach(remark -> rows.add(row(
                        remark.link() ? Aspect.ORDER : Aspect.DECISION,
                        remark.on(),
                        remark.stamp(),
                        remark.document(),
                        List.of(),
                        remark.sentence(),
                        false,
                        List.of(),
                        zero(),
                        zero())));
        rows.sort(Comparator.comparing(Row::moment));
        return rows;
    }

    Map<String, Invoice> invoices() {
        var invoices = new LinkedHashMap<String, Invoice>();
        facts.roots().forEach(chain -> chain.invoices().forEach(invoice -> invoices.put(invoice.number(), invoice)));
        return invoices;
    }

    Set<String> roots() {
        return facts.roots().stream().map(chain -> chain.order().number()).collect(Collectors.toSet());
    }

    private void orderRows(Chain chain, List<Row> rows) {
        var order = chain.order();
        var ref = DocumentRef.order(order.number());
        var ordered = order.lines().stream()
                .filter(line -> line.kind().isBilled())
                .map(line -> new UnitMove(new LineRef(order.number(), line.no()), Measure.ORDERED, line.quantity()))
                .toList();
        var first = order.lines().stream()
                .map(line -> line.description())
                .findFirst()
                .orElse("nothing yet");
        var more = order.lines().size() > 1
                ? " and %d more".formatted(order.lines().size() - 1)
                : "";
        var po = order.po().isBlank() ? "" : "PO " + order.po() + ": ";
        rows.add(row(
                Aspect.ORDER,
                order.orderedOn(),
                stamp(ref),
                ref,
                List.of(),
                po + first + more,
                order.state().isEnded() && !order.state().isCleared(),
                ordered,
                zero(),
                zero()));
        for (var cancellation : chain.cancellations()) {
            rows.add(cancellationRow(order.number(), cancellation));
        }
        for (var dispatch : chain.dispatches()) {
            rows.add(dispatchRow(order.number(), dispatch));
        }
    }

    private Row cancellationRow(String order, Cancellation cancellation) {
        var ref = new DocumentRef(DocumentKind.CANCELLATION, cancellation.number());
        var units = cancellation.lines().stream()
                .map(l -> new UnitMove(new LineRef(order, l.orderLine()), Measure.CANCELLED, l.quantity()))
                .toList();
        return row(
                Aspect.ORDER,
                cancellation.on(),
                stamp(ref),
                ref,
                List.of(DocumentRef.order(order)),
                "cancelled: " + cancellation.reason(),
                false,
                units,
                zero(),
                zero());
    }

    private Row dispatchRow(String order, Dispatch dispatch) {
        var ref = new DocumentRef(DocumentKind.DISPATCH, dispatch.number());
        var dropped = dispatch.state() == Dispatch.State.VOIDED || dispatch.state() == Dispatch.State.REVERSED;
        var measure = dispatch.state() == Dispatch.State.STAGED ? Measure.STAGED : Measure.DISPATCHED;
        // what was reversed had left in the books; the row that takes it back takes the units back
        var units = dispatch.state() == Dispatch.State.VOIDED
                ? List.<UnitMove>of()
                : units(order, dispatch, measure, false);
        var what = switch (dispatch.state()) {
            case STAGED -> "staged at " + dispatch.site() + ", not departed";
            case DEPARTED -> "departed from " + dispatch.site();
            case VOIDED -> "staged and voided";
            case REVERSED -> "departed from " + dispatch.site() + ", reversed since";
        };
        return row(
                Aspect.GOODS,
                dispatch.date(),
                stamp(ref),
                ref,
                List.of(DocumentRef.order(order)),
                what,
                dropped,
                units,
                zero(),
                zero());
    }

    private static List<UnitMove> units(String order, Dispatch dispatch, Measure measure, boolean back) {
        return dispatch.lines().stream()
                .map(l -> new UnitMove(
                        new LineRef(order, l.orderLine()),
                        measure,
                        back ? l.quantity().negated() : l.quantity()))
                .toList();
    }

    private List<UnitMove> billedUnits(Invoice invoice, boolean back) {
        var roots = roots();
        return invoice.lines().stream()
                .filter(l -> roots.contains(l.orderLine().number()))
                .map(l -> new UnitMove(
                        l.orderLine(), Measure.BILLED, back ? l.quantity().negated() : l.quantity()))
                .toList();
    }

    /** The other half of a pair: takes back the units and the money of its document. */
    private Row reversalRow(ReversalFact reversal, Map<String, Invoice> invoices) {
        var document = reversal.document();
        var why = reversal.reason().isBlank() ? "" : ": " + reversal.reason();
        if (document.kind() == DocumentKind.INVOICE) {
            var invoice = invoices.get(document.number());
            return unwinding(
                    Aspect.MONEY,
                    reversal,
                    "taken back" + why,
                    billedUnits(invoice, true),
                    invoice.totals().gross().negated());
        }
        if (document.kind() == DocumentKind.REFUND) {
            return unwinding(Aspect.MONEY, reversal, "did not reach the customer" + why, List.of(), zero());
        }
        if (document.kind() == DocumentKind.CREDIT_NOTE) {
            return creditTakenBack(reversal, "taken back" + why);
        }
        var chain = facts.roots().stream()
                .filter(c -> c.dispatches().stream().anyMatch(d -> d.number().equals(document.number())))
                .findFirst()
                .orElseThrow();
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(document.number()))
                .findFirst()
                .orElseThrow();
        return unwinding(
                Aspect.GOODS,
                reversal,
                "reversed, the goods never departed" + why,
                units(chain.order().number(), dispatch, Measure.DISPATCHED, true),
                zero());
    }

    /** Takes back what it credited, and what it was set against the invoices of the trail until then. */
    private Row creditTakenBack(ReversalFact reversal, String what) {
        var credit = Chain.allCredits(facts.roots()).stream()
                .filter(one -> one.number().equals(reversal.document().number()))
                .findFirst()
                .orElseThrow();
        return unwinding(
                Aspect.MONEY,
                reversal,
                what,
                creditedUnits(credit, true),
                zero(),
                settledAt(reversal.document(), reversal.stamp().moment()));
    }

    private List<UnitMove> creditedUnits(CreditNote credit, boolean back) {
        var roots = roots();
        return credit.lines().stream()
                .filter(l ->
                        roots.contains(l.orderLine().number()) && l.quantity().isPositive())
                .map(l -> new UnitMove(
                        l.orderLine(), Measure.CREDITED, back ? l.quantity().negated() : l.quantity()))
                .toList();
    }

    private Row unwinding(Aspect aspect, ReversalFact reversal, String what, List<UnitMove> units, Money billed) {
        return unwinding(aspect, reversal, what, units, billed, zero());
    }

    private Row unwinding(
            Aspect aspect, ReversalFact reversal, String what, List<UnitMove> units, Money billed, Money settled) {
        return new Row(
                aspect,
                reversal.on(),
                reversal.stamp().moment(),
                reversal.document(),
                List.of(reversal.document()),
                what,
                reversal.stamp().by(),
                true,
                true,
                units,
                billed,
                settled,
                zero());
    }

    /** A return stands where it was authorised, and once more for each time that goods came or were decided on. */
    private void returnRows(Return goods, List<Row> rows) {
        var ref = new DocumentRef(DocumentKind.RETURN, goods.number());
        var parents = new LinkedHashSet<DocumentRef>();
        goods.lines()
                .forEach(line -> parents.add(line.invoiceLine()
                        .map(i -> new DocumentRef(DocumentKind.INVOICE, i.number()))
                        .orElse(new DocumentRef(
                                DocumentKind.DISPATCH, line.dispatchLine().number()))));
        var allowed =
                Quantity.sum(goods.lines().stream().map(Return.Line::authorised).toList());
        rows.add(row(
                Aspect.GOODS,
                goods.on(),
                stamp(ref),
                ref,
                List.copyOf(parents),
                "%s authorised%s".formatted(allowed, goods.withdrawn() ? ", withdrawn since" : ""),
                goods.withdrawn() && !goods.anyReceived(),
                List.of(),
                zero(),
                zero()));
        var byMoment = facts.returnMoves().stream()
                .filter(move -> move.number().equals(goods.number()))
                .collect(Collectors.groupingBy(ReturnMove::stamp, LinkedHashMap::new, Collectors.toList()));
        byMoment.forEach((stamp, moves) -> rows.add(row(
                Aspect.GOODS,
                moves.get(0).on(),
                stamp,
                ref,
                List.of(ref),
                moved(moves),
                false,
                returnedUnits(moves),
                zero(),
                zero())));
    }

    private static String moved(List<ReturnMove> moves) {
        var words = new LinkedHashMap<ReturnMove.Kind, Quantity>();
        moves.forEach(move -> words.merge(move.kind(), move.quantity(), Quantity::plus));
        return words.entrySet().stream()
                .map(e -> (switch (e.getKey()) {
                                    case RECEIVED -> "%s received into inspection";
                                    case RESTOCKED -> "%s restocked";
                                    case SCRAPPED -> "%s scrapped";
                                    case SENT_BACK -> "%s sent back to the customer";
                                })
                                .formatted(e.getValue().max(e.getValue().negated()))
                        + (e.getValue().isNegative() ? ", taken back" : ""))
                .collect(Collectors.joining("; "));
    }

    private List<UnitMove> returnedUnits(List<ReturnMove> moves) {
        var roots = roots();
        return moves.stream()
                .filter(move -> roots.contains(move.orderLine().number())
                        && (move.kind() == ReturnMove.Kind.RECEIVED || move.kind() == ReturnMove.Kind.SENT_BACK))
                .map(move -> new UnitMove(
                        move.orderLine(),
                        Measure.RETURNED,
                        move.kind() == ReturnMove.Kind.RECEIVED
                                ? move.quantity()
                                : move.quantity().negated()))
                .toList();
    }

    /** What is left of it and used later stands on rows of its own, see {@link #paymentRows}. */
    private Row creditRow(CreditNote credit) {
        var ref = new DocumentRef(DocumentKind.CREDIT_NOTE, credit.number());
        var parents = new LinkedHashSet<DocumentRef>();
        parents.add(new DocumentRef(DocumentKind.INVOICE, credit.invoice()));
        credit.lines()
                .forEach(line -> line.returnLine()
                        .ifPresent(r -> parents.add(new DocumentRef(DocumentKind.RETURN, r.number()))));
        return row(
                Aspect.MONEY,
                credit.on(),
                stamp(ref),
                ref,
                List.copyOf(parents),
                "%s of invoice %s credited: %s".formatted(credit.totals().gross(), credit.invoice(), credit.reason()),
                credit.reversed(),
                creditedUnits(credit, false),
                zero(),
                settledAt(ref, stamp(ref).moment()));
    }

    /**
     * What a credit note is set against the invoices of the trail with the moment it is made, or no longer with the one
     * it is taken back; other uses of it have rows of their own.
     */
    private Money settledAt(DocumentRef credit, long moment) {
        return facts.payments().stream()
                .filter(p -> p.document().equals(credit))
                .flatMap(p -> p.allocations().stream())
                .filter(a -> a.moment() == moment)
                .map(PaymentFact.Allocation::amount)
                .reduce(zero(), Money::plus);
    }

    private boolean takenBackAt(DocumentRef document, long moment) {
        return facts.reversals().stream()
                .anyMatch(one -> one.document().equals(document) && one.stamp().moment() == moment);
    }

    private Row invoiceRow(Invoice invoice) {
        var ref = new DocumentRef(DocumentKind.INVOICE, invoice.number());
        var roots = roots();
        var parents = new LinkedHashSet<DocumentRef>();
        var others = new TreeSet<String>();
        for (var line : invoice.lines()) {
            if (!roots.contains(line.orderLine().number())) {
                others.add(line.orderLine().number());
                continue;
            }
            var gone = line.sources().stream().filter(source -> !source.ahead()).toList();
            gone.forEach(s -> parents.add(
                    new DocumentRef(DocumentKind.DISPATCH, s.dispatchLine().number())));
            if (gone.isEmpty()) {
                parents.add(DocumentRef.order(line.orderLine().number()));
            }
        }
        var bills = parents.stream().map(DocumentRef::toString).collect(Collectors.joining(", "));
        var also = others.isEmpty() ? "" : "; also bills order " + String.join(", ", others);
        var ahead =
                invoice.lines().stream().anyMatch(line -> line.deferred().isPositive()) ? ", ahead of dispatch" : "";
        return row(
                Aspect.MONEY,
                invoice.on(),
                stamp(ref),
                ref,
                List.copyOf(parents),
                "bills " + bills + ahead + also,
                invoice.reversed(),
                billedUnits(invoice, false),
                invoice.totals().gross(),
                zero());
    }

    /** A payment stands on a row for the day it came in, and on one more for each later day its credit was used. */
    private void paymentRows(PaymentFact payment, Map<String, Invoice> invoices, List<Row> rows) {
        var ref = payment.document();
        var stamp = stamp(ref);
        var byMoment = new LinkedHashMap<Long, List<PaymentFact.Allocation>>();
        byMoment.put(stamp.moment(), new ArrayList<>());
        payment.allocations().stream()
                .sorted(Comparator.comparing(PaymentFact.Allocation::moment))
                .forEach(a -> byMoment.computeIfAbsent(a.moment(), moment -> new ArrayList<>())
                        .add(a));
        byMoment.forEach((moment, allocations) -> {
            var here = allocations.stream()
                    .filter(a -> invoices.containsKey(a.invoice()))
                    .toList();
            var received = here.stream().map(PaymentFact.Allocation::amount).reduce(zero(), Money::plus);
            var arrival = moment == stamp.moment();
            var parents = here.stream()
                    .map(a -> new DocumentRef(DocumentKind.INVOICE, a.invoice()))
                    .distinct()
                    .toList();
            if (!OF_THEIR_OWN.contains(ref.kind()) && (arrival || takenBackAt(ref, moment))) {
                // a deposit and a credit note have rows of their own for how they came about and were taken back
                return;
            }
            var discounts = discountsWith(payment, here, moment, invoices);
            var discounted = discounts.stream().map(Reduction::amount).reduce(zero(), Money::plus);
            if (arrival) {
                var onAccount = facts.roots().isEmpty() ? payment.amount() : received;
                rows.add(row(
                        Aspect.MONEY,
                        payment.on(),
                        stamp,
                        ref,
                        parents,
                        arrivalWords(payment, invoices) + words(discounts),
                        payment.reversed(),
                        List.of(),
                        zero(),
                        onAccount.plus(discounted)));
            } else if (!here.isEmpty()) {
                var words = received.isNegative()
                        ? takenOffWords(payment)
                        : "its customer credit allocated to the invoice" + words(discounts);
                rows.add(row(
                        Aspect.MONEY,
                        allocations.get(0).on(),
                        allocations.get(0).stamp(),
                        ref,
                        parents,
                        words,
                        false,
                        List.of(),
                        zero(),
                        received.plus(discounted)));
            }
        });
    }

    /** What has no other row that tells how it came about. */
    private static final Set<DocumentKind> OF_THEIR_OWN = EnumSet.of(DocumentKind.PAYMENT, DocumentKind.WRITE_OFF);

    /** The discounts that were taken with money at a moment: when it was last set against their invoices. */
    private static List<Reduction> discountsWith(
            PaymentFact payment, List<PaymentFact.Allocation> here, long moment, Map<String, Invoice> invoices) {
        return here.stream()
                .map(PaymentFact.Allocation::invoice)
                .distinct()
                .filter(invoice -> payment.allocations().stream()
                                .filter(a -> a.invoice().equals(invoice)
                                        && a.amount().isPositive())
                                .mapToLong(PaymentFact.Allocation::moment)
                                .max()
                                .orElse(moment - 1)
                        == moment)
                .flatMap(invoice -> invoices.get(invoice).discount().stream())
                .filter(discount -> discount.document().equals(payment.document()))
                .toList();
    }

    private static String words(List<Reduction> discounts) {
        return discounts.stream()
                .map(discount -> ", with an early-payment discount of %s on invoice %s"
                        .formatted(discount.amount(), discount.invoice()))
                .collect(Collectors.joining());
    }

    private static String takenOffWords(PaymentFact payment) {
        if (payment.document().kind() == DocumentKind.WRITE_OFF) {
            return "taken back: the invoice is open again";
        }
        return payment.reversed() && payment.document().kind() == DocumentKind.PAYMENT
                ? "bounced: the invoices it settled are open again"
                : "unallocated, now customer credit";
    }

    private String arrivalWords(PaymentFact payment, Map<String, Invoice> invoices) {
        if (payment.document().kind() == DocumentKind.WRITE_OFF) {
            return "%s written off%s"
                    .formatted(
                            payment.amount(),
                            invoices.values().stream()
                                    .flatMap(invoice -> invoice.writtenOff().stream())
                                    .filter(one -> one.document().equals(payment.document()))
                                    .map(one -> ": " + one.reason())
                                    .findFirst()
                                    .orElse(", then taken back"));
        }
        var left = payment.left();
        if (payment.reversed()) {
            return "%s received, then bounced".formatted(payment.amount());
        }
        return left.isZero()
                ? "%s received".formatted(payment.amount())
                : "%s received, %s of it on account".formatted(payment.amount(), left);
    }

    Row row(
            Aspect aspect,
            LocalDate date,
            Stamp stamp,
            DocumentRef document,
            List<DocumentRef> parents,
            String what,
            boolean dropped,
            List<UnitMove> units,
            Money billed,
            Money settled) {
        return new Row(
                aspect,
                date,
                stamp.moment(),
                document,
                parents,
                what,
                stamp.by(),
                dropped,
                false,
                units,
                billed,
                settled,
                zero());
    }

    Stamp stamp(DocumentRef document) {
        var stamp = facts.stamps().get(document);
        if (stamp == null) {
            throw new IllegalStateException(document + " stands nowhere in the history");
        }
        return stamp;
    }

    Money zero() {
        return Money.zero(currency);
    }
}
