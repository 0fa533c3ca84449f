package app.euthyna.demo;

import app.euthyna.core.billing.Reducing;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.approval.ApprovalService;
import app.euthyna.server.billing.BillingService;
import app.euthyna.server.billing.Deposits;
import app.euthyna.server.billing.Disputes;
import app.euthyna.server.billing.Payments;
import app.euthyna.server.billing.WriteOffs;
import app.euthyna.server.check.CheckService;
import app.euthyna.server.check.QuotaStore;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.goods.GoodsService;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.PriceBreaks;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.SalesAgreements;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.returns.CreditService;
import app.euthyna.server.returns.ReturnsService;
import app.euthyna.server.returns.UnexpectedService;
import app.euthyna.server.unwind.AskedUnwind;
import app.euthyna.server.unwind.UnwindService;
import app.euthyna.standin.SimulatedRegister;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Random;
import java.util.Set;

/**
 * What every story of the demo company does: it enters orders, lets them go, ships, bills and takes back, each on its
 * day, at the desks that everybody uses.
 */
abstract class Story {

    final OrderService orders;
    final CheckService checks;
    final ApprovalService approvals;
    final SalesAgreements agreements;
    final QuotaStore quotas;
    final PriceBreaks prices;
    final GoodsService goods;
    final StockService stock;
    final ReturnsService returns;
    final CreditService credits;
    final UnexpectedService unexpected;
    final ChainReader chains;
    final Locks locks;
    final BillingService billing;
    final Payments payments;
    final Deposits deposits;
    final WriteOffs writeOffs;
    final Disputes disputes;
    final UnwindService unwind;
    final MasterData masterData;
    final SimulatedRegister register;
    final Company company;
    final CompanyClock clock;
    final Random random;
    final LocalDate today;
    final List<DemoCatalogue.Name> customers = DemoCatalogue.customers();
    private final Agenda agenda;

    Story(Desks desks, Agenda agenda) {
        this.orders = desks.sales().orders();
        this.checks = desks.sales().checks();
        this.approvals = desks.sales().approvals();
        this.agreements = desks.sales().agreements();
        this.quotas = desks.sales().quotas();
        this.prices = desks.sales().prices();
        this.goods = desks.store().goods();
        this.stock = desks.store().stock();
        this.returns = desks.store().returns();
        this.credits = desks.store().credits();
        this.unexpected = desks.store().unexpected();
        this.chains = desks.store().chains();
        this.locks = desks.store().locks();
        this.billing = desks.office().billing();
        this.payments = desks.office().payments();
        this.deposits = desks.office().deposits();
        this.writeOffs = desks.office().writeOffs();
        this.disputes = desks.office().disputes();
        this.unwind = desks.office().unwind();
        this.masterData = desks.office().masterData();
        this.register = desks.office().register();
        this.company = desks.office().company();
        this.clock = desks.office().clock();
        this.agenda = agenda;
        this.random = agenda.random();
        this.today = agenda.today();
    }

    /** Puts its deeds on the agenda. */
    abstract void tell();

    /** A command of the day that the clock shows, dated as it is told to be. */
    static CommandContext context(CompanyClock clock, String username, Role role, LocalDate on, String reason) {
        return new CommandContext(new Person(username, role), clock.today(), reason).dated(on);
    }

    CommandContext context(String username, Role role, LocalDate on, String reason) {
        return context(clock, username, role, on, reason);
    }

    CommandContext clerk(LocalDate on) {
        return context(random.nextInt(3) == 0 ? "clerk2" : "clerk", Role.CLERK, on, "");
    }

    CommandContext receivables(LocalDate on, String why) {
        return context("receivables", Role.RECEIVABLES, on, why);
    }

    CommandContext warehouse(LocalDate on, String why) {
        return context("warehouse", Role.WAREHOUSE, on, why);
    }

    Money euros(String amount) {
        return Money.of(amount, company.currency().getCurrencyCode());
    }

    String submit(
            LocalDate on, String customer, String po, OrderKind kind, LocalDate requested, OrderDraft.Line... lines) {
        return orders.submit(
                        clerk(on),
                        new OrderDraft(customer, po, kind, null, on, requested, "", agenda.reference(), List.of(lines)))
                .number();
    }

    OrderDraft.Line line(String item, String quantity) {
        return line(item, quantity, null, null);
    }

    OrderDraft.Line line(String item, String quantity, String price, String discount) {
        return new OrderDraft.Line(
                null,
                item,
                new BigDecimal(quantity),
                price == null ? null : new BigDecimal(price),
                discount == null ? null : new BigDecimal(discount),
                null);
    }

    /** How many references were given. */
    int given() {
        return agenda.given();
    }

    /** Puts something off to its day; what lies after today does not happen. */
    void on(LocalDate day, Runnable what) {
        agenda.on(day, what);
    }

    /** Lets an order go that something holds. */
    void decided(String order, LocalDate on) {
        if (state(order) == OrderState.HELD) {
            waive(order, on, "agreed with the yard");
        }
    }

    /** A controller waives whatever holds an order. */
    void waive(String order, LocalDate on, String why) {
        checks.waive(context("controller", Role.CONTROLLER, on, why), order, version(order), checks.openOf(order));
    }

    /** An order on its day, wanted so many days from today. */
    void order(int daysAgo, int customer, String po, int wantedIn, OrderDraft.Line... lines) {
        var day = today.minusDays(daysAgo);
        on(
                day,
                () -> submit(
                        day, customers.get(customer).code(), po, OrderKind.STANDARD, today.plusDays(wantedIn), lines));
    }

    /** Ships, bills and is paid, each on its day. */
    void goOn(String number, LocalDate from) {
        var leaves = from.plusDays(1 + random.nextInt(4));
        var rests = leaves.isAfter(today.minusDays(2)) && random.nextInt(2) == 0;
        var billed = leaves.plusDays(1 + random.nextInt(3));
        on(leaves, () -> {
            // as the commands will: what is read now is then read for all of them
            locks.customerAndOrder(number);
            var staged = state(number) == OrderState.CLEARED ? stage(number, leaves, List.of()) : null;
            if (staged == null || rests) {
                return;
            }
            goods.depart(warehouse(leaves, ""), staged, 0);
            on(billed, () -> bill(number, billed));
        });
    }

    void bill(String number, LocalDate on) {
        var invoice = billing.bill(receivables(on, ""), List.of(number), List.of(), "", false);
        var paid = on.plusDays(8 + random.nextInt(40));
        if (random.nextInt(15) > 0) {
            var billed = Chain.invoiceOf(List.of(chains.chain(number)), invoice);
            on(paid, () -> pay(billed, paid));
        }
    }

    void pay(Invoice invoice, LocalDate on) {
        var gross = invoice.totals().gross();
        pay(
                invoice,
                on,
                random.nextInt(12) == 0
                        ? Money.rounded(gross.amount().divide(BigDecimal.valueOf(2)), gross.currency())
                        : gross);
    }

    /** Pays a part of an invoice; all of it less its discount, where that is agreed and its days are not over. */
    void pay(Invoice invoice, LocalDate on, Money part) {
        var gross = invoice.totals().gross();
        var discount = invoice.earlyPayment()
                .filter(agreed -> part.equals(gross) && !on.isAfter(agreed.until()))
                .flatMap(agreed -> Reducing.discount(agreed.percent(), gross));
        var paid = part.minus(discount.orElse(Money.zero(gross.currency())));
        if (paid.isPositive()) {
            payments.receive(
                    receivables(on, ""),
                    invoice.customer(),
                    new Payments.Received(
                            paid,
                            List.of(new Settlement(invoice.number(), paid)),
                            discount.isPresent() ? Set.of(invoice.number()) : Set.of(),
                            on,
                            invoice.number()));
        }
    }

    String stage(String number, LocalDate on, List<Pick> picks) {
        var chain = chains.chain(number);
        if (chain.flows().stream().noneMatch(flow -> flow.reserved().isPositive())) {
            return null;
        }
        return goods.stage(warehouse(on, ""), number, version(number), picks);
    }

    void ship(String number, LocalDate on, List<Pick> picks) {
        if (state(number) != OrderState.CLEARED) {
            waive(number, on, "known and agreed by telephone");
        }
        goods.depart(warehouse(on, ""), stage(number, on, picks), 0);
    }

    void undo(String order, LocalDate on, String intent, String reasonCode, String reason) {
        undo(AskedUnwind.of(DocumentKind.ORDER, order, intent), on, reasonCode, reason);
    }

    void undo(AskedUnwind asked, LocalDate on, String reasonCode, String reason) {
        var context = context("controller", Role.CONTROLLER, on, reason);
        unwind.carryOut(context, asked, reasonCode, unwind.fingerprintOf(context, asked, reasonCode));
    }

    OrderState state(String number) {
        return chains.chain(number).order().state();
    }

    long version(String number) {
        return orders.view(number).version();
    }

    Money gross(String order) {
        return chains.chain(order).invoices().get(0).totals().gross();
    }

    String returnOf(String order) {
        return chains.chain(order).returns().get(0).number();
    }

    /** One line that left whole on the second day and was billed on the third. */
    void gone(int daysAgo, int customer, String po, OrderDraft.Line line, Told told) {
        var day = today.minusDays(daysAgo);
        on(day, () -> {
            var order = submit(day, customers.get(customer).code(), po, OrderKind.STANDARD, day.plusDays(5), line);
            decided(order, day);
            var dispatch = stage(order, day.plusDays(1), List.of());
            goods.depart(warehouse(day.plusDays(1), ""), dispatch, 0);
            var invoice = billing.bill(receivables(day.plusDays(2), ""), List.of(order), List.of(), "", false);
            told.then(order, dispatch, invoice);
        });
    }

    /** What became of an order that left and was billed. */
    interface Told {
        void then(String order, String dispatch, String invoice);
    }
}
