package app.euthyna.core.trail;

import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.Trail.Aspect;
import app.euthyna.core.trail.Trail.Row;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The rows of a trail that tell of deposits, and of what was done with them. */
final class DepositRows {

    private final TrailRows trail;
    private final Map<String, Invoice> invoices;

    DepositRows(TrailRows trail, Map<String, Invoice> invoices) {
        this.trail = trail;
        this.invoices = invoices;
    }

    /**
     * A deposit counts as received where it belongs to a root order, else with what of it was set against the roots'
     * invoices.
     */
    List<Row> of(DepositFact deposit) {
        var rows = new ArrayList<Row>();
        var ref = new DocumentRef(DocumentKind.DEPOSIT, deposit.number());
        var own = trail.roots().contains(deposit.order());
        var parent = own ? List.of(DocumentRef.order(deposit.order())) : List.<DocumentRef>of();
        var arrival = deposit.movedFrom().isEmpty()
                ? "deposit of %s received for order %s".formatted(deposit.amount(), deposit.order())
                : "%s moved from deposit %s".formatted(deposit.amount(), deposit.movedFrom());
        rows.add(trail.row(
                Aspect.MONEY,
                deposit.on(),
                trail.stamp(ref),
                ref,
                parent,
                arrival,
                deposit.reversed(),
                List.of(),
                trail.zero(),
                own ? deposit.amount() : trail.zero()));
        deposit.uses().stream()
                .flatMap(use -> useRow(deposit, use, own).stream())
                .forEach(rows::add);
        return rows;
    }

    /** What was done with a deposit. */
    private Optional<Row> useRow(DepositFact deposit, DepositFact.Use use, boolean own) {
        var ref = new DocumentRef(DocumentKind.DEPOSIT, deposit.number());
        return switch (use.kind()) {
            case APPLIED ->
                invoices.containsKey(use.document().number())
                        ? Optional.of(useRow(
                                use,
                                ref,
                                use.document(),
                                "%s of the deposit %s"
                                        .formatted(
                                                use.amount().max(use.amount().negated()),
                                                use.amount().isNegative()
                                                        ? "unapplied from the invoice"
                                                        : "applied to the invoice"),
                                own ? trail.zero() : use.amount()))
                        : Optional.empty();
            case GIVEN_BACK -> Optional.of(refundRow(deposit, use, own));
            // the deposit it went on as may stand on the trail of another order
            case MOVED ->
                Optional.of(useRow(
                        use,
                        ref,
                        ref,
                        use.amount().isNegative()
                                ? "%s unapplied again: deposit %s was taken back"
                                        .formatted(
                                                use.amount().negated(),
                                                use.document().number())
                                : "%s of the deposit moved as deposit %s"
                                        .formatted(use.amount(), use.document().number()),
                        own ? use.amount().negated() : trail.zero()));
            case CREDITED ->
                Optional.of(useRow(
                        use,
                        ref,
                        ref,
                        "%s of the deposit moved to customer credit".formatted(use.amount()),
                        own ? use.amount().negated() : trail.zero()));
            case REVERSED ->
                Optional.of(new Row(
                        Aspect.MONEY,
                        use.on(),
                        use.stamp().moment(),
                        ref,
                        List.of(ref),
                        "taken back",
                        use.stamp().by(),
                        true,
                        true,
                        List.of(),
                        trail.zero(),
                        own ? use.amount().negated() : trail.zero(),
                        trail.zero()));
        };
    }

    private Row useRow(DepositFact.Use use, DocumentRef deposit, DocumentRef parent, String words, Money paid) {
        return trail.row(
                Aspect.MONEY,
                use.on(),
                use.stamp(),
                deposit,
                List.of(parent),
                words,
                false,
                List.of(),
                trail.zero(),
                paid);
    }

    private Row refundRow(DepositFact deposit, DepositFact.Use use, boolean own) {
        var came = use.amount().isNegative();
        var pair = deposit.uses().stream()
                .anyMatch(other -> !other.equals(use) && other.document().equals(use.document()));
        return new Row(
                Aspect.MONEY,
                use.on(),
                use.stamp().moment(),
                use.document(),
                List.of(came ? use.document() : new DocumentRef(DocumentKind.DEPOSIT, deposit.number())),
                came ? "did not reach the customer" : "%s of the deposit refunded".formatted(use.amount()),
                use.stamp().by(),
                pair,
                came,
                List.of(),
                trail.zero(),
                own ? use.amount().negated() : trail.zero(),
                trail.zero());
    }
}
