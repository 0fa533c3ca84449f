package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.billing.Depositing;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Billing orders and taking in money. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class BillingService {

    private final ChainReader chains;
    private final MasterData masterData;
    private final Company company;
    private final Locks locks;
    private final EffectWriter writer;
    private final PaymentQueries queries;
    private final CompanyRulesStore rules;
    private final OpenInvoices openInvoices;
    private final RefundBounds bounds;

    BillingService(
            ChainReader chains,
            MasterData masterData,
            Company company,
            Locks locks,
            EffectWriter writer,
            PaymentQueries queries,
            CompanyRulesStore rules,
            OpenInvoices openInvoices,
            RefundBounds bounds) {
        this.bounds = bounds;
        this.openInvoices = openInvoices;
        this.rules = rules;
        this.chains = chains;
        this.masterData = masterData;
        this.company = company;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
    }

    /**
     * Bills orders of one customer on one invoice and gives it its number.
     *
     * @param text above the lines; may be empty
     * @param ahead goods may be billed that have not left
     */
    public String bill(CommandContext context, List<String> orders, List<Share> shares, String text, boolean ahead) {
        if (orders.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("orders", "at least one order"));
        }
        locks.customerAndOrder(orders.get(0));
        locks.orders(orders);
        var found = chains.chains(orders);
        for (var order : orders) {
            if (!found.containsKey(order)) {
                throw new RefusedException(new CommonRefusal.NotFound("order", order));
            }
        }
        var customer = masterData.customer(found.get(orders.get(0)).order().customer());
        var invoiced = RefusedException.orThrow(Billing.bill(
                customer.code(),
                new ArrayList<>(found.values()),
                shares,
                new Billing.Terms(writer.invoiceNumber(context), context.date(), customer.termsDays(), text, ahead),
                rules.inForce().billedAhead()));
        writer.write(context, List.of(invoiced));
        return invoiced.invoice().number();
    }

    /** Takes in a payment and sets it against invoices. */
    public String receive(
            CommandContext context, String customer, Money amount, List<Settlement> settlements, String reference) {
        locks.customer(customer);
        var received = RefusedException.orThrow(Receiving.receive(
                writer.number(DocumentKind.PAYMENT), customer, amount, settlements, invoices(settlements)));
        writer.write(context, List.of(received));
        queries.refer(reference, received.payment());
        return received.payment();
    }

    /**
     * Sets customer credit against invoices.
     *
     * @param of the document whose credit it is; the oldest credit first where it is empty
     */
    public void allocateCredit(CommandContext context, String customer, List<Settlement> settlements, String of) {
        locks.customer(customer);
        var credits = queries.credits(customer, of).stream()
                .map(row -> new Receiving.Credit(
                        new DocumentRef(row.kind(), row.number()), company.money(row.leftAmount())))
                .toList();
        writer.write(
                context,
                RefusedException.orThrow(
                        Receiving.allocateCredit(customer, settlements, invoices(settlements), credits)));
    }

    /** Takes what a payment settled off invoices; it stays as customer credit. */
    public void takeOff(CommandContext context, String payment, long version, List<Settlement> settlements) {
        locks.customer(customerOf("payment", payment));
        requireVersion("Payment", payment, version, queries.versionOfPayment(payment));
        writer.write(context, List.of(RefusedException.orThrow(RefundRules.takeOff(source(payment), settlements))));
    }

    /** A payment bounced. */
    public void reverse(CommandContext context, String payment, long version) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the reversal"));
        }
        locks.customer(customerOf("payment", payment));
        requireVersion("Payment", payment, version, queries.versionOfPayment(payment));
        var source = source(payment);
        if (source.document().kind() != DocumentKind.PAYMENT) {
            throw new RefusedException(new CommonRefusal.NotFound("payment", payment));
        }
        writer.write(context, List.of(RefusedException.orThrow(RefundRules.reverse(source))));
    }

    /** Takes in a deposit for an order; what the order's invoices have open it settles at once. */
    public String deposit(CommandContext context, String order, Money amount) {
        locks.customerAndOrder(order);
        var received = RefusedException.orThrow(
                Depositing.receive(chains.chain(order), writer.number(DocumentKind.DEPOSIT), amount, context.date()));
        writer.write(context, List.of(received));
        return received.deposit();
    }

    /** Sets a deposit against an invoice manually. */
    public void applyDeposit(CommandContext context, String deposit, long version, String invoice, Money amount) {
        var chain = depositLocked(deposit, version);
        var open = Optional.ofNullable(
                        invoices(List.of(new Settlement(invoice, amount))).get(invoice))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", invoice)));
        writer.write(context, List.of(RefusedException.orThrow(Depositing.applyByHand(chain, deposit, amount, open))));
    }

    /**
     * Moves what is unapplied of a deposit to another order of the customer; answers the deposit that it goes on as.
     */
    public String moveDeposit(
            CommandContext context, String deposit, long version, String order, Optional<Money> amount) {
        var from = depositLocked(deposit, version);
        locks.orders(List.of(from.order().number(), order));
        var again = chains.chain(from.order().number());
        var moved = RefusedException.orThrow(Depositing.move(
                again,
                deposit,
                chains.chain(order),
                writer.number(DocumentKind.DEPOSIT),
                amount.orElse(unapplied(again, deposit)),
                context.date()));
        writer.write(context, List.of(moved));
        return moved.toDeposit();
    }

    /** Turns what is unapplied of a deposit into customer credit. */
    public void creditDeposit(CommandContext context, String deposit, long version, Optional<Money> amount) {
        var chain = depositLocked(deposit, version);
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        Depositing.credit(chain, deposit, amount.orElse(unapplied(chain, deposit))))));
    }

    /** Refunds what is unapplied of a deposit, or customer credit from a document. */
    public String refund(CommandContext context, String of, long version, Optional<Money> amount) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the refund"));
        }
        var number = writer.number(DocumentKind.REFUND);
        if (queries.unapplied(of) > 0) {
            var chain = depositLocked(of, version);
            var deposit = new DocumentRef(DocumentKind.DEPOSIT, of);
            refundable(context, chain.order().customer(), deposit, amount.orElse(unapplied(chain, of)));
            writer.write(
                    context,
                    List.of(RefusedException.orThrow(
                            RefundRules.refundDeposit(number, chain, of, amount.orElse(unapplied(chain, of))))));
            return number;
        }
        locks.customer(customerOf("payment", of));
        requireVersion("Payment", of, version, queries.versionOfPayment(of));
        var source = source(of);
        refundable(context, source.customer(), source.document(), amount.orElse(source.left()));
        writer.write(
                context,
                List.of(RefusedException.orThrow(
                        RefundRules.refundCredit(number, source, amount.orElse(source.left())))));
        return number;
    }

    private void refundable(CommandContext context, String customer, DocumentRef source, Money amount) {
        RefusedException.where(RefundRules.refusal(
                context.person(),
                List.of(new RefundRules.Wanted(source, amount)),
                bounds.of(customer, List.of(source))));
    }

    private static Money unapplied(Chain chain, String deposit) {
        return chain.deposits().stream()
                .filter(d -> d.number().equals(deposit))
                .findFirst()
                .orElseThrow()
                .unapplied();
    }

    /** The chain of a deposit's order, its customer and itself locked. */
    private Chain depositLocked(String deposit, long version) {
        var order = queries.orderOfDeposit(deposit)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("deposit", deposit)));
        locks.customerAndOrder(order);
        requireVersion("Deposit", deposit, version, queries.versionOfDeposit(deposit));
        return chains.chain(order);
    }

    private static void requireVersion(String what, String number, long seen, long now) {
        if (now != seen) {
            throw new RefusedException(new PlatformRefusal.StaleVersion(what + " " + number, seen, now));
        }
    }

    private String customerOf(String what, String number) {
        return queries.customerOf(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(what, number)));
    }

    private RefundRules.Source source(String number) {
        var settled = new LinkedHashMap<String, Money>();
        queries.settled(number).forEach(row -> settled.put(row.invoice(), company.money(row.amount())));
        var source = queries.source(number);
        return new RefundRules.Source(
                new DocumentRef(source.kind(), number),
                source.customer(),
                company.money(source.amount()),
                company.money(source.leftAmount()),
                company.money(source.refunded()),
                source.reversed(),
                settled);
    }

    private Map<String, OpenInvoice> invoices(List<Settlement> settlements) {
        return openInvoices
                .numbered(settlements.stream().map(Settlement::invoice).toList())
                .stream()
                .collect(Collectors.toMap(OpenInvoice::number, Function.identity()));
    }
}
