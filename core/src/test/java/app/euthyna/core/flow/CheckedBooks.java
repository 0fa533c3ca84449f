package app.euthyna.core.flow;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Function;
import java.util.function.Predicate;

/** Books that are held against sums over the documents, which are kept apart from them. */
abstract class CheckedBooks extends KeptBooks {

    private static final Money ZERO = Money.zero(EUR);

    CheckedBooks(Random random, String name, Map<String, Integer> happened) {
        super(random, name, happened);
    }

    /** Every account and every quantity, against sums over the documents that are kept here apart. */
    void check() {
        var unbilled = unbilledCost();
        goodsAgree(unbilled);
        var invoices = invoicesInForce();
        var gross = invoices.stream().map(i -> i.totals().gross()).reduce(ZERO, Money::plus);
        salesAgree(invoices, gross);
        moneyAgrees(gross);
        chains.values().forEach(this::noMoreComesBackThanLeft);
        noQuantityIsNegative();
        assertThat(settled)
                .allSatisfy((invoice, amount) -> assertThat(open(invoice).isNegative())
                        .as("%s: %s is settled once: %s", name, invoice, told)
                        .isFalse());
        if (chains.values().stream()
                .flatMap(c -> c.flows().stream())
                .allMatch(flow -> flow.toBill().isZero())) {
            assertThat(unbilled)
                    .as("%s: all is billed, so no cost is left behind: %s", name, told)
                    .isEqualTo(ZERO);
        }
    }

    private Money unbilledCost() {
        return chains.values().stream()
                .flatMap(c -> c.unbilled().stream())
                .map(Chain.Unbilled::cost)
                .reduce(ZERO, Money::plus);
    }

    /**
     * What lies in stock, is with customers unbilled, is being inspected, was written off; the rest is cost of sales.
     */
    private void goodsAgree(Money unbilled) {
        var parts = chains.values().stream()
                .flatMap(c -> c.returns().stream())
                .distinct()
                .flatMap(r -> r.lines().stream())
                .flatMap(l -> l.parts().stream())
                .toList();
        var inspection = parts.stream().map(Return.Part::costInInspection).reduce(ZERO, Money::plus);
        var scrapped = parts.stream()
                .flatMap(p -> p.outcomes().stream())
                .filter(o -> o.kind() == Return.Outcome.Kind.SCRAP)
                .map(Return.Outcome::cost)
                .reduce(ZERO, Money::plus);
        same("goods in inspection", AccountRole.GOODS_IN_INSPECTION, inspection);
        same("write-off", AccountRole.WRITE_OFF, scrapped);
        same("goods out", AccountRole.GOODS_OUT, unbilled);
        same("inventory", AccountRole.INVENTORY, shelf.value());
        same(
                "cost of sales",
                AccountRole.COGS,
                adjusted.minus(shelf.value()).minus(unbilled).minus(inspection).minus(scrapped));
    }

    /** Revenue is what was billed and has left, less what was credited of it; the rest of it is deferred. */
    private void salesAgree(Collection<Invoice> invoices, Money gross) {
        var unearned = invoices.stream().map(this::unearned).reduce(ZERO, Money::plus);
        var net = invoices.stream().map(i -> i.totals().net()).reduce(ZERO, Money::plus);
        var credits = Chain.credits(chains.values());
        var creditedNet = credits.stream()
                .flatMap(c -> c.lines().stream())
                .map(CreditNote.Line::net)
                .reduce(ZERO, Money::plus);
        var creditedVat = credits.stream().map(c -> c.totals().vat()).reduce(ZERO, Money::plus);
        var creditedAhead = credits.stream()
                .flatMap(c -> c.lines().stream())
                .map(CreditNote.Line::deferred)
                .reduce(ZERO, Money::plus);
        same("sales returns", AccountRole.SALES_RETURNS, creditedNet.minus(creditedAhead));
        same(
                "revenue",
                AccountRole.REVENUE,
                net.minus(creditedAhead).minus(unearned).negated());
        same("deferred revenue", AccountRole.DEFERRED_REVENUE, unearned.negated());
        same(
                "VAT",
                AccountRole.OUTPUT_VAT,
                creditedVat.minus(gross.minus(net)).plus(reduced(r -> true, Reduction::tax)));
        var notGivenBack = credits.stream()
                .flatMap(c -> c.discounted().stream())
                .map(Totals.Band::taxable)
                .reduce(ZERO, Money::plus);
        same(
                "sales discounts",
                AccountRole.SALES_DISCOUNTS,
                reduced(r -> r.isDiscount(), r -> r.amount().minus(r.tax())).minus(notGivenBack));
        same(
                "bad debt",
                AccountRole.BAD_DEBT,
                reduced(
                        r -> r.kind() == Reduction.Kind.BAD_DEBT,
                        r -> r.amount().minus(r.tax())));
        same(
                "payment differences",
                AccountRole.PAYMENT_DIFFERENCES,
                reduced(r -> r.kind() == Reduction.Kind.SMALL_DIFFERENCE, Reduction::amount));
        invoices.forEach(this::allIsGivenBack);
    }

    private Money reduced(Predicate<Reduction> which, Function<Reduction, Money> amount) {
        return reductions.stream().filter(which).map(amount).reduce(ZERO, Money::plus);
    }

    /** Credited to the last line, an invoice with a discount is credited with just what was paid. */
    private void allIsGivenBack(Invoice invoice) {
        var credits = Chain.creditsFor(chains.values(), invoice.number());
        if (invoice.discount().isPresent()
                && credits.stream()
                        .flatMap(c -> c.lines().stream())
                        .map(CreditNote.Line::net)
                        .reduce(ZERO, Money::plus)
                        .equals(invoice.totals().net())) {
            assertThat(credits.stream().map(c -> c.totals().gross()).reduce(ZERO, Money::plus))
                    .as("%s: %s is credited whole, less its discount: %s", name, invoice.number(), told)
                    .isEqualTo(invoice.totals()
                            .gross()
                            .minus(invoice.discount().get().amount()));
            happened.merge("DiscountedAndCreditedWhole", 1, Integer::sum);
        }
    }

    private Collection<Invoice> invoicesInForce() {
        var invoices = new LinkedHashMap<String, Invoice>();
        chains.values().forEach(chain -> chain.inForce().forEach(i -> invoices.putIfAbsent(i.number(), i)));
        return invoices.values();
    }

    /** Of an invoice, what has not left yet; each line is read in the chain of its own order. */
    private Money unearned(Invoice invoice) {
        var unearned = ZERO;
        for (var line : invoice.lines()) {
            var own = chains.get(line.orderLine().number()).invoices().stream()
                    .filter(i -> i.number().equals(invoice.number()))
                    .findFirst()
                    .orElseThrow()
                    .lines()
                    .stream()
                    .filter(l -> l.no() == line.no())
                    .findFirst()
                    .orElseThrow();
            unearned = unearned.plus(own.unearned());
            if (own.ahead().isZero()) {
                assertThat(own.unearned())
                        .as("%s: all of %s has left, so all of it is earned: %s", name, own, told)
                        .isEqualTo(ZERO);
            }
        }
        return unearned;
    }

    private void moneyAgrees(Money gross) {
        same("bank", AccountRole.BANK, bank);
        same(
                "receivables",
                AccountRole.RECEIVABLES,
                gross.minus(settled.values().stream().reduce(ZERO, Money::plus)));
        same(
                "deposits",
                AccountRole.DEPOSITS,
                chains.values().stream()
                        .map(Chain::unappliedDeposits)
                        .reduce(ZERO, Money::plus)
                        .negated());
        same(
                "customer credit",
                AccountRole.CUSTOMER_CREDIT,
                payments.values().stream()
                        .map(RefundRules.Source::left)
                        .reduce(ZERO, Money::plus)
                        .negated());
    }

    private void noQuantityIsNegative() {
        for (var chain : chains.values()) {
            for (var flow : chain.flows()) {
                assertThat(List.of(
                                flow.toShip(),
                                flow.toBill(),
                                flow.reserved(),
                                flow.staged(),
                                flow.unreserved(),
                                flow.ahead(),
                                flow.open(),
                                flow.returned(),
                                flow.returnedUnbilled(),
                                flow.credited(),
                                flow.dispatched().minus(flow.returned()),
                                flow.billed().minus(flow.credited())))
                        .as("%s: %s after %s", name, flow, told)
                        .noneMatch(Quantity::isNegative);
            }
        }
    }

    /** Neither in quantity nor in value, of any dispatch line. */
    void noMoreComesBackThanLeft(Chain chain) {
        for (var dispatch : chain.dispatches()) {
            for (var left : dispatch.lines()) {
                var back = chain.returns().stream()
                        .flatMap(r -> r.lines().stream())
                        .filter(l -> l.dispatchLine().equals(new LineRef(dispatch.number(), left.no())))
                        .flatMap(l -> l.parts().stream())
                        .toList();
                assertThat(Quantity.sum(back.stream().map(Return.Part::kept).toList())
                                .exceeds(left.quantity()))
                        .as("%s: %s of %s", name, back, left)
                        .isFalse();
                assertThat(back.stream().map(Return.Part::keptCost).reduce(eur("0.00"), Money::plus))
                        .as("%s: %s of %s after %s", name, back, left, told)
                        .isLessThanOrEqualTo(left.cost());
            }
        }
    }

    void same(String what, AccountRole role, Money documents) {
        assertThat(ledger.getOrDefault(role, Money.zero(EUR)))
                .as("%s: %s after %s", name, what, told)
                .isEqualTo(documents);
    }
}
