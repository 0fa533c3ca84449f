package app.euthyna.core.trail;

import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.Trail.AccountLine;
import app.euthyna.core.trail.Trail.LineUnits;
import app.euthyna.core.trail.Trail.MoneyLine;
import app.euthyna.core.trail.Trail.Neighbour;
import app.euthyna.core.trail.Trail.Row;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/** Tells a trail from its facts: the rows in their sequence, and what they come to. */
record TrailTeller(TrailFacts facts, TrailRows rowsOf) {

    Trail tell() {
        var invoices = rowsOf.invoices();
        var running = withBalances(rowsOf.all());
        var documents = new LinkedHashSet<DocumentRef>();
        var credits = neighbouringCredits(invoices);
        running.forEach(row -> documents.add(row.document()));
        credits.forEach(one -> documents.remove(one.document()));
        return new Trail(
                facts.start(),
                List.copyOf(documents),
                running,
                Stream.concat(
                                neighbours(invoices).stream()
                                        .map(order -> new Neighbour(DocumentRef.order(order), Optional.empty())),
                                credits.stream())
                        .toList(),
                flows(),
                money(running, invoices),
                ledger());
    }

    private List<Row> withBalances(List<Row> rows) {
        var open = rowsOf.zero();
        var running = new ArrayList<Row>();
        for (var r : rows) {
            open = open.plus(r.billed()).minus(r.settled());
            running.add(new Row(
                    r.aspect(),
                    r.date(),
                    r.moment(),
                    r.document(),
                    r.parents(),
                    r.what(),
                    r.by(),
                    r.dropped(),
                    r.undoes(),
                    r.units(),
                    r.billed(),
                    r.settled(),
                    open));
        }
        return running;
    }

    private Set<String> neighbours(Map<String, Invoice> invoices) {
        var met = new TreeSet<>(facts.paidElsewhere());
        invoices.values()
                .forEach(invoice ->
                        invoice.lines().forEach(line -> met.add(line.orderLine().number())));
        met.removeAll(rowsOf.roots());
        return met;
    }

    private List<Neighbour> neighbouringCredits(Map<String, Invoice> invoices) {
        return facts.payments().stream()
                .filter(payment -> payment.isNeighbourOf(facts.roots()))
                .map(payment -> new Neighbour(
                        payment.document(),
                        Optional.of(payment.allocations().stream()
                                .filter(a -> invoices.containsKey(a.invoice()))
                                .map(PaymentFact.Allocation::amount)
                                .reduce(rowsOf.zero(), Money::plus))))
                .toList();
    }

    private List<LineUnits> flows() {
        return facts.roots().stream()
                .flatMap(chain -> chain.flows().stream()
                        .filter(flow -> flow.line().kind().isBilled())
                        .map(flow -> new LineUnits(
                                new LineRef(chain.order().number(), flow.line().no()), flow)))
                .toList();
    }

    private MoneyLine money(List<Row> rows, Map<String, Invoice> invoices) {
        var billed = rows.stream().map(Row::billed).reduce(rowsOf.zero(), Money::plus);
        var settled = rows.stream().map(Row::settled).reduce(rowsOf.zero(), Money::plus);
        var due = billed.compareTo(settled) <= 0
                ? null
                : invoices.values().stream()
                        .filter(i -> !i.reversed())
                        .map(Invoice::dueOn)
                        .min(Comparator.naturalOrder())
                        .orElse(null);
        return new MoneyLine(billed, settled, billed.minus(settled), due);
    }

    private List<AccountLine> ledger() {
        var sums = new LinkedHashMap<List<Object>, AccountLine>();
        for (var entry : facts.entries()) {
            for (var line : entry.lines()) {
                sums.merge(
                        List.of(line.role(), line.account()),
                        new AccountLine(line.role(), line.account(), line.amount()),
                        (a, b) -> new AccountLine(
                                a.role(), a.account(), a.balance().plus(b.balance())));
            }
        }
        return sums.values().stream()
                .sorted(Comparator.comparing(AccountLine::account))
                .toList();
    }
}
