package app.euthyna.server.demo;

import app.euthyna.core.approval.Level;
import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckFigures;
import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Quota;
import app.euthyna.core.check.Severity;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Return;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.CompanyField;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.PriceList;
import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.order.VatTreatment;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.approval.ApprovalService;
import app.euthyna.server.billing.BillingService;
import app.euthyna.server.check.CheckService;
import app.euthyna.server.check.QuotaStore;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.goods.GoodsService;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Limits;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.OnPaper;
import app.euthyna.server.masterdata.PriceBreaks;
import app.euthyna.server.masterdata.UnwindRules;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.SalesAgreements;
import app.euthyna.server.people.Deputies;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.returns.CreditWish;
import app.euthyna.server.returns.ReturnsService;
import app.euthyna.server.returns.UnexpectedService;
import app.euthyna.server.unwind.AskedUnwind;
import app.euthyna.server.unwind.UnwindService;
import jakarta.persistence.EntityManager;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Skerrywick Chandlery, invented: a wholesaler to boatyards, harbour trusts, sailing schools and ferry lines. Its story
 * is told through the same services that everybody uses, from a fixed seed, relative to the day it is opened.
 */
@Component
class DemoCompany {

    private static final Logger LOG = LoggerFactory.getLogger(DemoCompany.class);
    private static final long SEED = 20_260_302L;
    private static final int DAYS = 150;
    private static final String[] REGIONS = {"north", "islands", "firth"};
    /** So many orders to a transaction: each small commit costs the same as a large one. */
    private static final int TOGETHER = 20;

    private final EntityManager entities;
    private final MasterData masterData;
    private final OrderService orders;
    private final CheckService checks;
    private final ChainReader chains;
    private final GoodsService goods;
    private final BillingService billing;
    private final UnwindService unwind;
    private final ReturnsService returns;
    private final UnexpectedService unexpected;
    private final ApprovalService approvals;
    private final CompanyRulesStore companyRules;
    private final DemoMultiplier multiplier;
    private final SalesAgreements agreements;
    private final PriceBreaks prices;
    private final QuotaStore quotas;
    private final Deputies deputies;
    private final Company company;
    private final TransactionTemplate transactions;
    private final Commands commands;
    private final CompanyClock clock;
    /** About so many orders are lived through by the services; a larger company is made of copies of them. */
    private final int lifeSize;

    DemoCompany(
            EntityManager entities,
            MasterData masterData,
            OrderService orders,
            CheckService checks,
            ChainReader chains,
            GoodsService goods,
            BillingService billing,
            UnwindService unwind,
            ReturnsService returns,
            UnexpectedService unexpected,
            ApprovalService approvals,
            CompanyRulesStore companyRules,
            DemoMultiplier multiplier,
            SalesAgreements agreements,
            PriceBreaks prices,
            QuotaStore quotas,
            Deputies deputies,
            Company company,
            TransactionTemplate transactions,
            Commands commands,
            CompanyClock clock,
            @Value("${euthyna.demo-lived:2000}") int lifeSize) {
        this.lifeSize = lifeSize;
        this.agreements = agreements;
        this.prices = prices;
        this.quotas = quotas;
        this.deputies = deputies;
        this.entities = entities;
        this.masterData = masterData;
        this.orders = orders;
        this.checks = checks;
        this.chains = chains;
        this.goods = goods;
        this.billing = billing;
        this.unwind = unwind;
        this.returns = returns;
        this.unexpected = unexpected;
        this.approvals = approvals;
        this.companyRules = companyRules;
        this.multiplier = multiplier;
        this.company = company;
        this.transactions = transactions;
        this.commands = commands;
        this.clock = clock;
    }

    record DemoUser(String username, String displayName, Role role) {}

    List<DemoUser> users() {
        return List.of(
                new DemoUser("clerk", "Una Birsay", Role.CLERK),
                new DemoUser("clerk2", "Rory Voe", Role.CLERK),
                new DemoUser("controller", "Isla Mennock", Role.CONTROLLER),
                new DemoUser("controller2", "Ewan Sallow", Role.CONTROLLER),
                new DemoUser("lead", "Morag Teasel", Role.LEAD),
                new DemoUser("warehouse", "Finn Larkin", Role.WAREHOUSE),
                new DemoUser("receivables", "Kirsty Orr", Role.RECEIVABLES),
                new DemoUser("auditor", "Neil Quarrie", Role.AUDITOR),
                new DemoUser("admin", "Ada Pellan", Role.ADMIN));
    }

    /** The lead will be away; said once there are users. */
    void absences() {
        var today = clock.today();
        deputies.away("lead", "controller2", today.plusDays(9), today.plusDays(16));
    }

    /** Opens the company with about so many orders; none leaves its master data out too. */
    void open(int count) {
        if (count == 0) {
            return;
        }
        var started = System.nanoTime();
        var today = clock.today();
        var start = today.minusDays(DAYS);
        var times = Math.max(1, count / lifeSize);
        var lived = count / times;
        try {
            clock.set(start);
            transactions.executeWithoutResult(status -> masterData(start, today, count, lived));
            new Trade(new Random(SEED), today, times == 1).live(start, Math.max(0, lived - 30));
        } finally {
            clock.reset();
        }
        if (times > 1) {
            LOG.info(
                    "{} orders were lived through in {} s; they are now multiplied by {}.",
                    lived,
                    (System.nanoTime() - started) / 1_000_000_000,
                    times);
            multiplier.multiply(times);
        }
        LOG.info("The demo company has {} orders after {} s.", count, (System.nanoTime() - started) / 1_000_000_000);
    }

    /** Goods may come back for two months; what the company is to blame for costs the customer nothing. */
    private static ReturnPolicy returns() {
        return new ReturnPolicy(
                Optional.of(60),
                List.of(
                        new ReturnPolicy.Reason("damaged", "Damaged in transit", true, true, false),
                        new ReturnPolicy.Reason("faulty", "Defective", true, true, true),
                        new ReturnPolicy.Reason("wrong-item", "Wrong item", true, true, true),
                        new ReturnPolicy.Reason("too-many", "Surplus delivery", true, false, false),
                        new ReturnPolicy.Reason("unwanted", "Not wanted", false, false, false),
                        new ReturnPolicy.Reason("other", "Other reason", false, false, false)));
    }

    /** A company of so many orders lends accordingly; its shelves hold what those need that are lived through. */
    private void masterData(LocalDate start, LocalDate today, int count, int lived) {
        var random = new Random(SEED);
        var names = DemoCatalogue.customers();
        companyRules.publish(
                context("lead", Role.LEAD, start, "the rules of the company"),
                0,
                new CompanyRules(
                        new CheckPolicy(
                                Map.of(Check.DATES, Map.of(OrderKind.SAMPLE, Severity.OFF)),
                                new CheckFigures(
                                        Optional.of(new CustomerRules.Overdue(
                                                45, Money.of(500 * scale(count) + ".00", "EUR"))),
                                        Optional.of(BigDecimal.valueOf(15)),
                                        Map.of(
                                                Role.CLERK,
                                                BigDecimal.valueOf(25),
                                                Role.CONTROLLER,
                                                BigDecimal.valueOf(40)),
                                        CheckFigures.USUAL_SCORE)),
                        PoPolicy.STANDARD,
                        PoPlaces.EVERYWHERE,
                        new EntryRules(
                                List.of(
                                        new EntryRules.Unit("TRADE", "Trade desk"),
                                        new EntryRules.Unit("HARBOUR", "Harbours and ferries"),
                                        new EntryRules.Unit("RIG", "Rigging shop")),
                                List.of(
                                        new CompanyField("vessel", "Vessel", CompanyField.Kind.TEXT, List.of(), false),
                                        new CompanyField(
                                                "delivery",
                                                "Delivery",
                                                CompanyField.Kind.LIST,
                                                List.of("any time", "before noon", "after noon", "on the tide"),
                                                false),
                                        new CompanyField(
                                                "survey-due", "Survey due", CompanyField.Kind.DATE, List.of(), false))),
                        CompanyRules.STANDARD.billedAhead(),
                        new UnwindRules(UnwindRules.STANDARD.reasons(), BigDecimal.ZERO, count > 0),
                        count == 0 ? ReturnPolicy.STANDARD : returns(),
                        Limits.OF_A_NEW_COMPANY,
                        null,
                        null));
        for (int at = 0; at < names.size(); at++) {
            var name = names.get(at);
            var own = at % 7 == 3;
            var limit = at % 9 == 8
                    ? Optional.<Money>empty()
                    : Optional.of(Money.of((5 + random.nextInt(30)) * 1000L * scale(count) + ".00", "EUR"));
            var po = Optional.of(new PoPolicy(
                            true,
                            Severity.STOP,
                            Severity.STOP,
                            Severity.CAUTION,
                            Optional.empty(),
                            PoPolicy.Barred.HOLD))
                    .filter(p -> own);
            var licences = new HashMap<String, String>();
            if (at % 3 == 0) {
                licences.put("pyro", "PY-%d".formatted(2200 + at));
                masterData.register("pyro", "PY-%d".formatted(2200 + at), today.plusDays(200 + at), true);
            }
            if (at % 4 == 1) {
                licences.put("biocide", "BI-%d".formatted(700 + at));
                masterData.register("biocide", "BI-%d".formatted(700 + at), today.plusDays(90 + at), true);
            }
            masterData.add(new Customer(
                    name.code(),
                    name.name(),
                    name.town(),
                    at % 11 == 10 ? "abroad" : "",
                    REGIONS[at % REGIONS.length],
                    at % 5 == 0 ? 14 : 30,
                    at % 11 == 10 ? VatTreatment.REVERSE_CHARGE : VatTreatment.DOMESTIC,
                    new CustomerRules(name.code(), limit, PoPolicy.STANDARD, Optional.empty(), Optional.empty()),
                    po,
                    Optional.empty(),
                    licences));
            masterData.onPaper(
                    name.code(),
                    new OnPaper(
                            "%d %s"
                                    .formatted(
                                            3 + at * 7 % 60,
                                            List.of("Harbour Row", "Slip Street", "Net Loft Lane", "The Mole")
                                                    .get(at % 4)),
                            "SK%d %dQ".formatted(1 + at % 9, 1 + at % 7),
                            name.town(),
                            at % 11 == 10 ? "NL" : "IE",
                            at % 11 == 10 ? "NL8%08dB01".formatted(12_345_678 + at) : "",
                            at % 6 == 5
                                    ? ""
                                    : "office@%s.example".formatted(name.code().toLowerCase(java.util.Locale.ROOT)),
                            at == 25 ? BigDecimal.valueOf(30) : BigDecimal.ZERO));
        }
        approvals.askAbove(
                Map.of(Level.CONTROLLER, BigDecimal.valueOf(10_000), Level.LEAD, BigDecimal.valueOf(25_000)));
        for (var stocked : DemoCatalogue.items()) {
            entities.clear();
            masterData.add(stocked.item());
            if (stocked.onHand() > 0) {
                goods.receive(
                        context("warehouse", Role.WAREHOUSE, start, ""),
                        null,
                        stocked.item().code(),
                        Quantity.of((long) stocked.onHand() * scale(lived)),
                        stocked.unitCost());
            }
        }
    }

    /** A larger company has more on its shelves and lends more. */
    private static long scale(int count) {
        return Math.max(1, count / 400);
    }

    /** A command of the day that the clock shows, dated as it is told to be. */
    private CommandContext context(String username, Role role, LocalDate on, String reason) {
        return new CommandContext(new Person(username, role), clock.today(), reason).dated(on);
    }

    /** Buying, shipping, billing and paying from day to day. */
    private final class Trade {

        private final Random random;
        private final LocalDate today;
        private final List<DemoCatalogue.Name> customers = DemoCatalogue.customers();
        private final List<DemoCatalogue.Stocked> items = DemoCatalogue.items().stream()
                .filter(i -> i.item().regulated().isEmpty() && !i.item().code().equals("MS-01"))
                .toList();
        private final Map<LocalDate, Deque<Runnable>> agenda = new HashMap<>();
        private final boolean whole;
        private int reference = 1000;

        /** @param whole it is not to be copied, so that it may have of everything */
        private Trade(Random random, LocalDate today, boolean whole) {
            this.whole = whole;
            this.random = random;
            this.today = today;
        }

        private CommandContext clerk(LocalDate on) {
            return context(random.nextInt(3) == 0 ? "clerk2" : "clerk", Role.CLERK, on, "");
        }

        private String submit(
                LocalDate on,
                String customer,
                String po,
                OrderKind kind,
                LocalDate requested,
                OrderDraft.Line... lines) {
            return orders.submit(
                            clerk(on),
                            new OrderDraft(
                                    customer, po, kind, null, on, requested, "", "SK-" + ++reference, List.of(lines)))
                    .number();
        }

        private OrderDraft.Line line(String item, String quantity) {
            return line(item, quantity, null, null);
        }

        private OrderDraft.Line line(String item, String quantity, String price, String discount) {
            return new OrderDraft.Line(
                    null,
                    item,
                    new BigDecimal(quantity),
                    price == null ? null : new BigDecimal(price),
                    discount == null ? null : new BigDecimal(discount),
                    null);
        }

        /** Puts something off to its day; what lies after today does not happen. */
        private void on(LocalDate day, Runnable what) {
            if (!day.isAfter(today)) {
                agenda.computeIfAbsent(day, d -> new ArrayDeque<>()).add(what);
            }
        }

        /**
         * Day by day: new orders, then whatever was put off to the day. Documents are numbered in the order of their
         * dates.
         */
        void live(LocalDate start, int ordinary) {
            stories();
            for (int at = 0; at < ordinary; at++) {
                var day = start.plusDays((long) at * (DAYS + 1) / ordinary);
                on(day, () -> ordinary(day));
            }
            for (var day = start; !day.isAfter(today); day = day.plusDays(1)) {
                clock.set(day);
                var deeds = agenda.getOrDefault(day, new ArrayDeque<>());
                while (!deeds.isEmpty()) {
                    commands.retrying(() -> transactions.execute(status -> {
                        for (int at = 0; at < TOGETHER && !deeds.isEmpty(); at++) {
                            deeds.remove().run();
                            // what is done with is let go of, or every later query would look through all of it for
                            // changes
                            entities.flush();
                            entities.clear();
                        }
                        return null;
                    }));
                }
                agenda.remove(day);
                if (ordinary > 2_000 && day.getDayOfMonth() % 5 == 0) {
                    LOG.info("The demo company has come to {}.", day);
                }
            }
        }

        /** An order of the day, which goes as far on its way as its age allows. */
        private void ordinary(LocalDate on) {
            var customer = customers.get(random.nextInt(customers.size()));
            var lines = new ArrayList<OrderDraft.Line>();
            for (int at = 0; at <= random.nextInt(4); at++) {
                var item = items.get(random.nextInt(items.size())).item();
                var dear = item.price().compareTo(BigDecimal.valueOf(100)) > 0;
                lines.add(line(
                        item.code(),
                        String.valueOf(dear ? 1 + random.nextInt(2) : 2 + random.nextInt(12)),
                        null,
                        random.nextInt(6) == 0 ? "5" : null));
            }
            var number = submit(
                    on,
                    customer.code(),
                    "%s-%04d/%02d".formatted(initials(customer.name()), reference, on.getYear() % 100),
                    OrderKind.STANDARD,
                    on.plusDays(2 + random.nextInt(12)),
                    lines.toArray(OrderDraft.Line[]::new));
            if (state(number) == OrderState.CLEARED) {
                goOn(number, on);
            } else if (on.isBefore(today.minusDays(12))) {
                on(on.plusDays(1), () -> {
                    if (state(number) == OrderState.HELD) {
                        checks.waive(
                                context("controller", Role.CONTROLLER, on.plusDays(1), "known and agreed by telephone"),
                                number,
                                version(number),
                                checks.openOf(number));
                    }
                    goOn(number, on.plusDays(1));
                });
            }
        }

        private String initials(String name) {
            var words = name.split(" ", -1);
            return ("" + words[0].charAt(0) + words[words.length - 1].charAt(0)).toUpperCase(Locale.ROOT);
        }

        /** Ships, bills and is paid, each on its day. */
        private void goOn(String number, LocalDate from) {
            var leaves = from.plusDays(1 + random.nextInt(4));
            var rests = leaves.isAfter(today.minusDays(2)) && random.nextInt(2) == 0;
            var billed = leaves.plusDays(1 + random.nextInt(3));
            on(leaves, () -> {
                var staged = state(number) == OrderState.CLEARED ? stage(number, leaves, List.of()) : null;
                if (staged == null || rests) {
                    return;
                }
                goods.depart(context("warehouse", Role.WAREHOUSE, leaves, ""), staged, 0);
                on(billed, () -> bill(number, billed));
            });
        }

        private void bill(String number, LocalDate on) {
            var invoice = billing.bill(
                    context("receivables", Role.RECEIVABLES, on, ""), List.of(number), List.of(), "", false);
            var paid = on.plusDays(8 + random.nextInt(40));
            if (random.nextInt(15) > 0) {
                on(paid, () -> pay(number, invoice, paid));
            }
        }

        private void pay(String number, String invoice, LocalDate on) {
            var chain = chains.chain(number);
            var gross = chain.invoices().stream()
                    .filter(i -> i.number().equals(invoice))
                    .findFirst()
                    .orElseThrow()
                    .totals()
                    .gross();
            var part = random.nextInt(12) == 0
                    ? Money.rounded(gross.amount().divide(BigDecimal.valueOf(2)), gross.currency())
                    : gross;
            if (part.isPositive()) {
                billing.receive(
                        context("receivables", Role.RECEIVABLES, on, ""),
                        chain.order().customer(),
                        part,
                        List.of(new Settlement(invoice, part)),
                        invoice);
            }
        }

        private String stage(String number, LocalDate on, List<Pick> picks) {
            var chain = chains.chain(number);
            if (chain.flows().stream().noneMatch(flow -> flow.reserved().isPositive())) {
                return null;
            }
            return goods.stage(context("warehouse", Role.WAREHOUSE, on, ""), number, version(number), picks);
        }

        private OrderState state(String number) {
            return chains.chain(number).order().state();
        }

        private long version(String number) {
            return orders.view(number).version();
        }

        /** One of everything that can be met. */
        private void stories() {
            var yesterday = today.minusDays(1);
            twoSpellings();
            licences();
            overTheLimit(customers.get(0).code(), "AN-3501", today.minusDays(5), today);
            overTheLimit(customers.get(7).code(), "AN-3502", today.minusDays(2), today.plusDays(2));
            overTheLimit(customers.get(20).code(), "AN-3503", yesterday, today.plusDays(6));
            prices();
            rationed();
            agreedBeforehand();
            approvalStories();
            shortOfStock();
            nobodyWantsTheRest();
            cancelledAndDeclined();
            if (whole) {
                money();
                undone();
                cameBack();
            }
            on(
                    today.minusDays(6),
                    () -> submit(
                            today.minusDays(6),
                            customers.get(22).code(),
                            "ST-rig",
                            OrderKind.STANDARD,
                            today.minusDays(3),
                            line("SV-01", "14.5"),
                            line("SV-03", "1")));
            on(
                    today.minusDays(3),
                    () -> billing.receive(
                            context("receivables", Role.RECEIVABLES, today.minusDays(3), ""),
                            customers.get(23).code(),
                            Money.of("750.00", company.currency().getCurrencyCode()),
                            List.of(),
                            "on account, spring fitting-out"));
            on(
                    yesterday,
                    () -> orders.keep(
                            clerk(yesterday),
                            new OrderDraft(
                                    customers.get(4).code(),
                                    "",
                                    OrderKind.STANDARD,
                                    null,
                                    yesterday,
                                    today.plusDays(9),
                                    "waits for the yard to name the colour",
                                    null,
                                    List.of(line("PT-02", "6")))));
        }

        private CommandContext receivables(LocalDate on, String why) {
            return context("receivables", Role.RECEIVABLES, on, why);
        }

        private Money euros(String amount) {
            return Money.of(amount, company.currency().getCurrencyCode());
        }

        /**
         * Deposits in every state, goods billed ahead, a payment that bounced, credit refunded, lamps that a count did
         * not find.
         */
        private void money() {
            var day = today.minusDays(24);
            on(day, () -> {
                var order = submit(
                        day,
                        customers.get(25).code(),
                        "MOOR-7",
                        OrderKind.STANDARD,
                        day.plusDays(40),
                        line("MS-01", "1"));
                on(day.plusDays(1), () -> decided(order, day.plusDays(1)));
                on(day.plusDays(2), () -> billing.deposit(receivables(day.plusDays(2), ""), order, euros("1200.00")));
            });
            on(today.minusDays(16), () -> {
                var order = submit(
                        today.minusDays(16),
                        customers.get(26).code(),
                        "LAMP-31",
                        OrderKind.STANDARD,
                        today.minusDays(2),
                        line("SF-05", "12"));
                billing.deposit(receivables(today.minusDays(16), ""), order, euros("150.00"));
                on(today.minusDays(9), () -> {
                    ship(order, today.minusDays(9), List.of(new Pick(1, Quantity.of(4))));
                    billing.bill(
                            receivables(today.minusDays(9), ""), List.of(order), List.of(), "The rest follows.", false);
                });
            });
            on(today.minusDays(11), () -> {
                var order = submit(
                        today.minusDays(11),
                        customers.get(27).code(),
                        "SEASON-2",
                        OrderKind.STANDARD,
                        today.plusDays(3),
                        line("RP-110", "80"),
                        line("FT-210", "20"));
                decided(order, today.minusDays(11));
                on(
                        today.minusDays(8),
                        () -> billing.bill(
                                receivables(today.minusDays(8), ""),
                                List.of(order),
                                List.of(),
                                "Billed ahead as agreed for the season.",
                                true));
                on(today.minusDays(4), () -> ship(order, today.minusDays(4), List.of(new Pick(1, Quantity.of(50)))));
            });
            on(today.minusDays(7), () -> {
                var bounced = billing.receive(
                        receivables(today.minusDays(7), ""),
                        customers.get(28).code(),
                        euros("310.00"),
                        List.of(),
                        "autumn bill");
                on(
                        today.minusDays(5),
                        () -> billing.reverse(
                                receivables(today.minusDays(5), "returned by the bank, account closed"), bounced, 0));
            });
            on(today.minusDays(6), () -> {
                var twice = billing.receive(
                        receivables(today.minusDays(6), ""),
                        customers.get(29).code(),
                        euros("88.40"),
                        List.of(),
                        "paid twice by mistake");
                on(
                        today.minusDays(2),
                        () -> billing.refund(
                                context("controller", Role.CONTROLLER, today.minusDays(2), "paid twice by mistake"),
                                twice,
                                0,
                                Optional.empty()));
            });
            on(
                    today.minusDays(3),
                    () -> goods.count(
                            context("warehouse", Role.WAREHOUSE, today.minusDays(3), "a box of lamps was broken"),
                            null,
                            "SF-06",
                            goods.onHand("SF-06").minus(Quantity.of(6)),
                            Optional.empty()));
        }

        /** Lets an order go that something holds. */
        private void decided(String order, LocalDate on) {
            if (state(order) == OrderState.HELD) {
                checks.waive(
                        context("controller", Role.CONTROLLER, on, "agreed with the yard"),
                        order,
                        version(order),
                        checks.openOf(order));
            }
        }

        /** An order on its day, wanted so many days from today. */
        private void order(int daysAgo, int customer, String po, int wantedIn, OrderDraft.Line... lines) {
            var day = today.minusDays(daysAgo);
            on(
                    day,
                    () -> submit(
                            day,
                            customers.get(customer).code(),
                            po,
                            OrderKind.STANDARD,
                            today.plusDays(wantedIn),
                            lines));
        }

        private void twoSpellings() {
            on(
                    today.minusDays(30),
                    () -> goOn(
                            submit(
                                    today.minusDays(30),
                                    customers.get(5).code(),
                                    "PO 04417-B",
                                    OrderKind.STANDARD,
                                    today.minusDays(20),
                                    line("RP-112", "60"),
                                    line("FT-112", "24")),
                            today.minusDays(30)));
            order(2, 5, "4417/b", 1, line("RP-112", "60"), line("FT-112", "24"));
            order(3, 14, "WS-2051", 6, line("RP-208", "30"));
            order(1, 14, "WS-2O51", 7, line("RP-208", "45"));
            order(1, 11, "SN-118", 3, line("SF-05", "12"));
            order(0, 11, "SN-118", 3, line("SF-05", "12"));
        }

        /** Lapsed, not given, not found in the register, and a register that does not answer. */
        private void licences() {
            on(today.minusDays(20), () -> {
                masterData.register("pyro", "PY-2206", today.minusDays(12), true);
                masterData.register("biocide", "BI-713", null, false);
            });
            order(4, 6, "HP-771", 0, line("FL-01", "12"), line("RP-208", "40"));
            order(6, 2, "flares for the spring course", 5, line("FL-02", "20"));
            order(3, 10, "TB-50", 8, line("AF-01", "6"));
            order(1, 13, "CQ-2031", 4, line("AF-02", "10"));
        }

        /** Enough of a dear item to pass the customer's limit by itself. */
        private void overTheLimit(String customer, String item, LocalDate day, LocalDate wanted) {
            on(day, () -> {
                var limit = masterData.customer(customer).rules().creditLimit().orElse(Money.of("20000.00", "EUR"));
                var gross = masterData.item(item).price().multiply(new BigDecimal("1.21"));
                var pieces = limit.amount().divide(gross, 0, RoundingMode.CEILING);
                submit(
                        day,
                        customer,
                        "season " + day.getYear() + " " + customer.substring(1),
                        OrderKind.STANDARD,
                        wanted,
                        line(item, pieces.toPlainString()),
                        line("SV-01", "6"),
                        line("CH-10", "30"));
            });
        }

        /**
         * Customers without a limit: one order waits for a controller, one is past the controller, one was sent back.
         */
        private void approvalStories() {
            order(2, 26, "HT-CHAIN-27", 12, line("CH-10", "1300"));
            on(today.minusDays(3), () -> {
                var large = submit(
                        today.minusDays(3),
                        customers.get(8).code(),
                        "BI-FLEET-27",
                        OrderKind.STANDARD,
                        today.plusDays(15),
                        line("AN-3501", "90"));
                on(today.minusDays(2), () -> {
                    if (state(large) == OrderState.AWAITING_APPROVAL) {
                        approvals.approve(
                                context(
                                        "controller",
                                        Role.CONTROLLER,
                                        today.minusDays(2),
                                        "three boats, agreed with sales"),
                                large,
                                version(large));
                    }
                });
            });
            on(today.minusDays(2), () -> {
                var back = submit(
                        today.minusDays(2),
                        customers.get(17).code(),
                        "SP-YARD-3",
                        OrderKind.STANDARD,
                        today.plusDays(9),
                        line("AN-3501", "40"));
                on(
                        today.minusDays(1),
                        () -> approvals.sendBack(
                                context(
                                        "controller2",
                                        Role.CONTROLLER,
                                        today.minusDays(1),
                                        "ask for a deposit of a third first"),
                                back,
                                version(back)));
            });
        }

        /** Hand-laid hemp is rationed by region; a yard wants more than is left of it. */
        private void rationed() {
            on(
                    today.minusDays(140),
                    () -> quotas.set(
                            Quota.Scope.REGION,
                            REGIONS[0],
                            "RP-420",
                            today.minusDays(140),
                            today.plusDays(200),
                            Quantity.of(400)));
            order(25, 12, "BW-HEMP-1", -20, line("RP-420", "360"));
            order(1, 15, "PL-HEMP-7", 6, line("RP-420", "120"));
        }

        private SalesAgreements.Written written(
                int customer,
                String po,
                LocalDate from,
                LocalDate until,
                String ceiling,
                Recurrence recurrence,
                List<SalesAgreement.Call> schedule,
                OrderDraft.Line... lines) {
            return new SalesAgreements.Written(
                    new OrderDraft(
                            customers.get(customer).code(), po, null, null, null, null, "", null, List.of(lines)),
                    from,
                    until,
                    Optional.ofNullable(ceiling).map(c -> Money.of(c, "EUR")),
                    Optional.ofNullable(recurrence),
                    schedule);
        }

        /** Quotes, a harbour trust's chain for the year, and a school's rope of every month. */
        private void agreedBeforehand() {
            var spring = today.minusDays(60);
            on(spring, () -> {
                prices.set(
                        "RP-208",
                        List.of(
                                new PriceList.Break("", Quantity.of(100), new BigDecimal("2.10")),
                                new PriceList.Break(
                                        customers.get(14).code(), Quantity.of(20), new BigDecimal("2.20"))));
                var chain = agreements.write(
                        clerk(spring),
                        SalesAgreement.Kind.BLANKET_ORDER,
                        written(
                                1,
                                "GS-CHAIN-YEAR",
                                spring,
                                spring.plusDays(364),
                                "9000.00",
                                null,
                                List.of(
                                        new SalesAgreement.Call(spring.plusDays(30), 1, Quantity.of(150)),
                                        new SalesAgreement.Call(today.minusDays(1), 1, Quantity.of(150)),
                                        new SalesAgreement.Call(today.plusDays(29), 1, Quantity.of(150))),
                                line("CH-10", "800")));
                on(
                        spring.plusDays(30),
                        () -> goOn(
                                agreements
                                        .make(clerk(spring.plusDays(30)), chain, 0, Map.of(), null, true)
                                        .number(),
                                spring.plusDays(30)));
                agreements.write(
                        clerk(spring),
                        SalesAgreement.Kind.RECURRING_ORDER,
                        written(
                                2,
                                "term rope",
                                today.minusMonths(1),
                                today.plusMonths(10),
                                null,
                                new Recurrence(1, Recurrence.Unit.MONTH),
                                List.of(),
                                line("RP-112", "40")));
            });
            on(
                    today.minusDays(12),
                    () -> agreements.write(
                            clerk(today.minusDays(12)),
                            SalesAgreement.Kind.QUOTE,
                            written(
                                    8,
                                    "",
                                    today.minusDays(12),
                                    today.plusDays(18),
                                    null,
                                    null,
                                    List.of(),
                                    line("AN-2002", "12", "180", null),
                                    line("CH-10", "240"))));
            on(today.minusDays(50), () -> {
                agreements.write(
                        clerk(today.minusDays(50)),
                        SalesAgreement.Kind.QUOTE,
                        written(
                                9,
                                "",
                                today.minusDays(50),
                                today.minusDays(20),
                                null,
                                null,
                                List.of(),
                                line("SF-05", "30")));
                var lost = agreements.write(
                        clerk(today.minusDays(50)),
                        SalesAgreement.Kind.QUOTE,
                        written(
                                21,
                                "",
                                today.minusDays(50),
                                today.plusDays(10),
                                null,
                                null,
                                List.of(),
                                line("PT-02", "24")));
                on(
                        today.minusDays(31),
                        () -> agreements.close(
                                context("clerk", Role.CLERK, today.minusDays(31), "bought from another company"),
                                lost,
                                0));
            });
        }

        private void prices() {
            order(1, 9, "KD-9", 2, line("FT-316", "40", "0", null), line("RP-416", "25"));
            on(today.minusDays(9), () -> {
                var sample = submit(
                        today.minusDays(9),
                        customers.get(14).code(),
                        "",
                        OrderKind.SAMPLE,
                        today.minusDays(5),
                        line("CC-01", "20", "0", null));
                on(today.minusDays(7), () -> ship(sample, today.minusDays(7), List.of()));
            });
            on(
                    today,
                    () -> submit(
                            today,
                            customers.get(15).code(),
                            "",
                            OrderKind.SAMPLE,
                            today.plusDays(4),
                            line("CC-01", "10")));
        }

        private void shortOfStock() {
            order(3, 1, "GS-MOOR-26", 20, line("MS-01", "3"));
            order(1, 8, "BI-88", 10, line("MS-01", "4"));
        }

        private void nobodyWantsTheRest() {
            partShipped(70, 16, "RH-300", 120, null, line("CH-08", "200"), line("FT-210", "60"));
            partShipped(80, 17, "SP-51", 180, "the yard has changed to another line", line("RP-310", "300"));
        }

        /** Some of the first line leaves and is billed; the rest waits, or is given up for a reason. */
        private void partShipped(
                int daysAgo, int customer, String po, int leaves, String givenUp, OrderDraft.Line... lines) {
            var day = today.minusDays(daysAgo);
            on(day, () -> {
                var number =
                        submit(day, customers.get(customer).code(), po, OrderKind.STANDARD, day.plusDays(12), lines);
                on(day.plusDays(4), () -> ship(number, day.plusDays(4), List.of(new Pick(1, Quantity.of(leaves)))));
                on(
                        day.plusDays(6),
                        () -> billing.bill(
                                context("receivables", Role.RECEIVABLES, day.plusDays(6), ""),
                                List.of(number),
                                List.of(),
                                "",
                                false));
                if (givenUp != null) {
                    on(
                            day.plusDays(30),
                            () -> undo(number, day.plusDays(30), "cancel-rest", "customer-asked", givenUp));
                }
            });
        }

        private void ship(String number, LocalDate on, List<Pick> picks) {
            if (state(number) != OrderState.CLEARED) {
                checks.waive(
                        context("controller", Role.CONTROLLER, on, "known and agreed by telephone"),
                        number,
                        version(number),
                        checks.openOf(number));
            }
            goods.depart(context("warehouse", Role.WAREHOUSE, on, ""), stage(number, on, picks), 0);
        }

        private void undo(String order, LocalDate on, String intent, String reasonCode, String reason) {
            undo(AskedUnwind.of(DocumentKind.ORDER, order, intent), on, reasonCode, reason);
        }

        private void undo(AskedUnwind asked, LocalDate on, String reasonCode, String reason) {
            var context = context("controller", Role.CONTROLLER, on, reason);
            unwind.carryOut(context, asked, reasonCode, unwind.fingerprintOf(context, asked, reasonCode));
        }

        /**
         * Billed to the wrong yard, sent off on paper only, lamps that arrived broken, what was not wanted, and money
         * for an order that is dead.
         */
        private void undone() {
            gone(
                    14,
                    30,
                    "GT-12",
                    line("FT-210", "24"),
                    (order, dispatch, invoice) -> on(
                            today.minusDays(10),
                            () -> undo(
                                    new AskedUnwind(
                                            DocumentKind.INVOICE,
                                            invoice,
                                            "take-back-invoice",
                                            List.of(),
                                            null,
                                            false,
                                            null),
                                    today.minusDays(10),
                                    "billed-in-error",
                                    "billed to the wrong yard")));
            on(today.minusDays(7), () -> {
                var order = submit(
                        today.minusDays(7),
                        customers.get(31).code(),
                        "HW-9",
                        OrderKind.STANDARD,
                        today.plusDays(4),
                        line("RP-208", "30"));
                decided(order, today.minusDays(7));
                var dispatch = stage(order, today.minusDays(6), List.of());
                goods.depart(context("warehouse", Role.WAREHOUSE, today.minusDays(6), ""), dispatch, 0);
                on(
                        today.minusDays(5),
                        () -> undo(
                                AskedUnwind.of(DocumentKind.DISPATCH, dispatch, "take-back-dispatch"),
                                today.minusDays(5),
                                "never-left",
                                "the van was full"));
            });
            gone(15, 32, "LAMPS-3", line("SF-05", "10"), (order, dispatch, invoice) -> {
                on(today.minusDays(8), () -> {
                    var open = chains.chain(order).invoices().get(0).totals().gross();
                    billing.receive(
                            receivables(today.minusDays(8), ""),
                            customers.get(32).code(),
                            open,
                            List.of(new Settlement(invoice, open)),
                            invoice);
                });
                on(
                        today.minusDays(4),
                        () -> undo(
                                new AskedUnwind(
                                        DocumentKind.ORDER,
                                        order,
                                        "take-goods-back",
                                        List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(3))),
                                        "refund",
                                        false,
                                        null),
                                today.minusDays(4),
                                "damaged",
                                "three arrived broken"));
            });
            gone(18, 33, "SV-77", line("SF-06", "6"), (order, dispatch, invoice) -> {
                on(
                        today.minusDays(9),
                        () -> undo(
                                new AskedUnwind(
                                        DocumentKind.INVOICE,
                                        invoice,
                                        "take-goods-back",
                                        List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(2))),
                                        null,
                                        false,
                                        null),
                                today.minusDays(9),
                                "wrong-item",
                                "ordered the red ones"));
                on(
                        today.minusDays(1),
                        () -> returns.receive(
                                context("warehouse", Role.WAREHOUSE, today.minusDays(1), ""),
                                returnOf(order),
                                null,
                                List.of()));
            });
            gone(26, 34, "CH-5", line("FT-112", "40"), (order, dispatch, invoice) -> {
                on(
                        today.minusDays(19),
                        () -> undo(
                                new AskedUnwind(
                                        DocumentKind.DISPATCH,
                                        dispatch,
                                        "take-goods-back",
                                        List.of(new AskedUnwind.Line(1, BigDecimal.valueOf(8))),
                                        null,
                                        false,
                                        BigDecimal.TEN),
                                today.minusDays(19),
                                "unwanted",
                                "ordered too many"));
                on(
                        today.minusDays(13),
                        () -> returns.receive(
                                context("warehouse", Role.WAREHOUSE, today.minusDays(13), ""),
                                returnOf(order),
                                null,
                                List.of()));
                on(
                        today.minusDays(12),
                        () -> returns.inspect(
                                context("warehouse", Role.WAREHOUSE, today.minusDays(12), ""),
                                returnOf(order),
                                null,
                                List.of(
                                        new InspectionLine(1, Return.Outcome.Kind.RESTOCK, Quantity.of(7), "", ""),
                                        new InspectionLine(1, Return.Outcome.Kind.SCRAP, Quantity.of(1), "", "bent"))));
            });
            on(today.minusDays(60), () -> {
                var dead = submit(
                        today.minusDays(60),
                        customers.get(35).code(),
                        "REFIT-1",
                        OrderKind.STANDARD,
                        today.minusDays(30),
                        line("MS-01", "1"));
                decided(dead, today.minusDays(60));
                on(
                        today.minusDays(58),
                        () -> billing.deposit(receivables(today.minusDays(58), ""), dead, euros("400.00")));
            });
        }

        /**
         * What came back over the last weeks, what did not come although it was credited, and what came that nobody had
         * allowed.
         */
        private void cameBack() {
            sentBack(48, 3, "OL-31", line("RP-112", "20"), "unwanted", 6, true);
            sentBack(41, 6, "PO 5521", line("SF-05", "4"), "faulty", 1, true);
            sentBack(33, 9, "K-118", line("FT-210", "16"), "wrong-item", 16, true);
            sentBack(27, 12, "TB-9", line("SF-06", "5"), "damaged", 2, true);
            sentBack(22, 3, "OL-37", line("RP-208", "25"), "too-many", 5, false);
            gone(
                    31,
                    22,
                    "BW-4",
                    line("SF-05", "3"),
                    (order, dispatch, invoice) -> on(today.minusDays(20), () -> {
                        var goods = returns.authorise(
                                context(
                                        "clerk",
                                        Role.CLERK,
                                        today.minusDays(20),
                                        "both dead out of the box; wants the credit at once"),
                                List.of(dispatched(dispatch, 2)),
                                List.of(),
                                "faulty",
                                "");
                        returns.creditReturn(receivables(today.minusDays(19), ""), goods, true);
                    }));
            gone(24, 24, "ST-88", line("FT-112", "12"), (order, dispatch, invoice) -> {
                on(
                        today.minusDays(20),
                        () -> billing.receive(
                                receivables(today.minusDays(20), ""),
                                customers.get(24).code(),
                                gross(order),
                                List.of(new Settlement(invoice, gross(order))),
                                invoice));
                on(
                        today.minusDays(6),
                        () -> returns.wish(
                                receivables(today.minusDays(6), ""),
                                returns.creditInvoice(
                                        receivables(
                                                today.minusDays(6),
                                                "galvanising thin, they keep them for a tenth less"),
                                        invoice,
                                        List.of(Crediting.Share.of(1, euros("6.50")))),
                                CreditWish.REFUND));
            });
            gone(
                    17,
                    25,
                    "NQ-2",
                    line("SF-06", "2"),
                    (order, dispatch, invoice) -> on(
                            today.minusDays(2),
                            () -> unexpected.takeIn(
                                    context("warehouse", Role.WAREHOUSE, today.minusDays(2), ""),
                                    new UnexpectedService.Came(
                                            Optional.of(customers.get(25).code()),
                                            "",
                                            "",
                                            "SF-06",
                                            Quantity.of(1),
                                            "",
                                            "no slip; glass cracked, serial 0417"))));
            on(
                    today.minusDays(1),
                    () -> unexpected.takeIn(
                            context("warehouse", Role.WAREHOUSE, today.minusDays(1), ""),
                            new UnexpectedService.Came(
                                    Optional.empty(),
                                    "yard at the north pier, no name",
                                    "",
                                    "RP-112",
                                    Quantity.of(3),
                                    "",
                                    "one of the three is cut")));
        }

        private Money gross(String order) {
            return chains.chain(order).invoices().get(0).totals().gross();
        }

        private static Returning.OfDispatch dispatched(String dispatch, int quantity) {
            return new Returning.OfDispatch(new LineRef(dispatch, 1), Quantity.of(quantity));
        }

        /** Sold, sent back a week later, restocked and, unless someone forgot, credited. */
        private void sentBack(
                int daysAgo,
                int customer,
                String po,
                OrderDraft.Line line,
                String reason,
                int quantity,
                boolean credited) {
            gone(daysAgo, customer, po, line, (order, dispatch, invoice) -> {
                var back = today.minusDays(daysAgo - 12);
                on(
                        today.minusDays(daysAgo - 9),
                        () -> returns.authorise(
                                context("clerk", Role.CLERK, today.minusDays(daysAgo - 9), ""),
                                List.of(dispatched(dispatch, quantity)),
                                List.of(),
                                reason,
                                ""));
                on(
                        back,
                        () -> returns.receive(
                                context("warehouse", Role.WAREHOUSE, back, ""), returnOf(order), null, List.of()));
                on(
                        back.plusDays(1),
                        () -> returns.inspect(
                                context("warehouse", Role.WAREHOUSE, back.plusDays(1), ""),
                                returnOf(order),
                                null,
                                List.of(new InspectionLine(
                                        1, Return.Outcome.Kind.RESTOCK, Quantity.of(quantity), "", ""))));
                if (credited) {
                    on(
                            back.plusDays(2),
                            () -> returns.creditReturn(receivables(back.plusDays(2), ""), returnOf(order), false));
                }
            });
        }

        private String returnOf(String order) {
            return chains.chain(order).returns().get(0).number();
        }

        /** What became of an order that left and was billed. */
        private interface Told {
            void then(String order, String dispatch, String invoice);
        }

        /** One line that left whole on the second day and was billed on the third. */
        private void gone(int daysAgo, int customer, String po, OrderDraft.Line line, Told told) {
            var day = today.minusDays(daysAgo);
            on(day, () -> {
                var order = submit(day, customers.get(customer).code(), po, OrderKind.STANDARD, day.plusDays(5), line);
                decided(order, day);
                var dispatch = stage(order, day.plusDays(1), List.of());
                goods.depart(context("warehouse", Role.WAREHOUSE, day.plusDays(1), ""), dispatch, 0);
                var invoice = billing.bill(receivables(day.plusDays(2), ""), List.of(order), List.of(), "", false);
                told.then(order, dispatch, invoice);
            });
        }

        private void cancelledAndDeclined() {
            on(today.minusDays(10), () -> {
                var cancelled = submit(
                        today.minusDays(10),
                        customers.get(18).code(),
                        "MS-17",
                        OrderKind.STANDARD,
                        today.minusDays(2),
                        line("SF-01", "8"));
                on(
                        today.minusDays(8),
                        () -> undo(
                                cancelled, today.minusDays(8), "cancel-order", "customer-asked", "ordered elsewhere"));
            });
            on(today.minusDays(8), () -> {
                var declined = submit(
                        today.minusDays(8),
                        customers.get(19).code(),
                        "LH-2",
                        OrderKind.STANDARD,
                        today,
                        line("SF-02", "4", "0", null));
                on(
                        today.minusDays(7),
                        () -> checks.decline(
                                context(
                                        "controller",
                                        Role.CONTROLLER,
                                        today.minusDays(7),
                                        "nothing is given away without a sample order"),
                                declined,
                                version(declined)));
            });
            on(today.minusDays(4), () -> {
                var staged = submit(
                        today.minusDays(4),
                        customers.get(21).code(),
                        "BM-70",
                        OrderKind.STANDARD,
                        today,
                        line("AN-2002", "3"));
                on(today.minusDays(1), () -> {
                    if (state(staged) == OrderState.CLEARED) {
                        stage(staged, today.minusDays(1), List.of());
                    }
                });
            });
        }
    }
}
