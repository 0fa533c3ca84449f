package app.euthyna.server.billing;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Payments of customers, what they settle, and the credit that they leave. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class Payments {

    private final Locks locks;
    private final EffectWriter writer;
    private final PaymentQueries queries;
    private final OpenInvoices openInvoices;
    private final Company company;
    private final Discounts discounts;

    Payments(
            Locks locks,
            EffectWriter writer,
            PaymentQueries queries,
            OpenInvoices openInvoices,
            Company company,
            Discounts discounts) {
        this.discounts = discounts;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
        this.openInvoices = openInvoices;
        this.company = company;
    }

    /**
     * Money that comes in.
     *
     * @param discounted invoices that it settles with their discount for paying early
     * @param paidOn the day on which the bank booked it, else the day on which it is recorded
     * @param reference what the payer wrote
     */
    public record Received(
            Money amount, List<Settlement> settlements, Set<String> discounted, LocalDate paidOn, String reference) {}

    /** Takes in a payment and sets it against invoices, none of which is settled with a discount. */
    public String receive(
            CommandContext context, String customer, Money amount, List<Settlement> settlements, String reference) {
        return receive(context, customer, new Received(amount, settlements, Set.of(), context.today(), reference));
    }

    /** Takes in a payment and sets it against invoices. */
    public String receive(CommandContext context, String customer, Received money) {
        locks.customer(customer);
        var settlements = money.settlements();
        var invoices = invoices(settlements);
        var received = RefusedException.orThrow(Receiving.receive(
                writer.number(DocumentKind.PAYMENT), customer, money.amount(), settlements, invoices));
        var effects = new ArrayList<Effect>(List.of(received));
        effects.addAll(discounts.taken(
                context,
                settlements.stream()
                        .filter(one -> money.discounted().contains(one.invoice()))
                        .map(one -> new Discounts.Paid(
                                new DocumentRef(DocumentKind.PAYMENT, received.payment()), one, money.paidOn()))
                        .toList()));
        writer.write(context, effects);
        queries.refer(money.reference(), received.payment());
        return received.payment();
    }

    /**
     * Sets customer credit against invoices.
     *
     * @param of the document whose credit it is; the oldest credit first where it is empty
     * @param discounted invoices that it settles with their discount for paying early
     * @param paidOn the day on which the money came
     */
    public void allocateCredit(
            CommandContext context,
            String customer,
            List<Receiving.Share> asked,
            String of,
            Set<String> discounted,
            LocalDate paidOn) {
        locks.customer(customer);
        var shares = asked.stream()
                .map(share -> share.amount().isEmpty() && discounted.contains(share.invoice())
                        ? new Receiving.Share(share.invoice(), Optional.of(discounts.due(share.invoice())))
                        : share)
                .toList();
        var credits = queries.credits(customer, of).stream()
                .map(row -> new Receiving.Credit(
                        new DocumentRef(row.kind(), row.number()), company.money(row.leftAmount())))
                .toList();
        var invoices = open(shares.stream().map(Receiving.Share::invoice).toList());
        var settlements = Receiving.settlements(shares, invoices, credits, company.money(BigDecimal.ZERO));
        var allocated = RefusedException.orThrow(Receiving.allocateCredit(customer, settlements, invoices, credits));
        var effects = new ArrayList<>(allocated);
        effects.addAll(discounts.taken(
                context,
                settlements.stream()
                        .filter(one -> discounted.contains(one.invoice()))
                        .map(one -> new Discounts.Paid(
                                Receiving.lastSource(allocated, one.invoice()).orElseThrow(), one, paidOn))
                        .toList()));
        writer.write(context, effects);
    }

    /** Takes what a payment settled off invoices; it stays as customer credit. */
    public void takeOff(CommandContext context, String payment, long version, List<Settlement> settlements) {
        lock(payment, version);
        writer.write(context, RefusedException.orThrow(RefundRules.takeOff(source(payment), settlements)));
    }

    /** A payment bounced. */
    public void reverse(CommandContext context, String payment, long version) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the reversal"));
        }
        lock(payment, version);
        var source = source(payment);
        if (source.document().kind() != DocumentKind.PAYMENT) {
            throw new RefusedException(new CommonRefusal.NotFound("payment", payment));
        }
        writer.write(context, RefusedException.orThrow(RefundRules.reverse(source)));
    }

    /** Money came short by so little that the rest of an invoice is written off. */
    public void writeOffShort(CommandContext context, Settlement cents, String entry) {
        discounts.writeOffShort(
                context.because("short by %s in bank entry %s".formatted(cents.amount(), entry)), cents);
    }

    /** What discounts were taken with a payment, by invoice. */
    @Transactional(propagation = Propagation.SUPPORTS)
    Map<String, Money> discounts(String payment) {
        return discounts.takenWith(payment).stream()
                .collect(Collectors.toMap(
                        one -> one.reduction().invoice(), one -> one.reduction().amount()));
    }

    /** Locks whose payment it is, for whoever saw that version of it. */
    void lock(String payment, long version) {
        locks.customer(customerOf("payment", payment));
        requireVersion("Payment", payment, version, queries.versionOfPayment(payment));
    }

    static void requireVersion(String what, String number, long seen, long now) {
        if (now != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion(what + " " + number, seen, now));
        }
    }

    private String customerOf(String what, String number) {
        return queries.customerOf(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(what, number)));
    }

    /** A payment, as far as it can be refunded. */
    RefundRules.Source source(String number) {
        var settled = new LinkedHashMap<String, Money>();
        queries.settled(number).forEach(row -> settled.put(row.invoice(), company.money(row.amount())));
        var source = queries.source(number);
        if (source.kind() == DocumentKind.WRITE_OFF) {
            throw new RefusedException(new CommonRefusal.NotFound("payment", number));
        }
        return new RefundRules.Source(
                new DocumentRef(source.kind(), number),
                source.customer(),
                company.money(source.amount()),
                company.money(source.leftAmount()),
                company.money(source.refunded()),
                source.reversed(),
                settled,
                discounts.takenWith(number));
    }

    /** The invoices that settlements name. */
    Map<String, OpenInvoice> invoices(List<Settlement> settlements) {
        return open(settlements.stream().map(Settlement::invoice).toList());
    }

    private Map<String, OpenInvoice> open(List<String> numbers) {
        return openInvoices.numbered(numbers).stream()
                .collect(Collectors.toMap(OpenInvoice::number, Function.identity()));
    }
}
