package app.euthyna.demo;

import app.euthyna.core.approval.Level;
import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckFigures;
import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.CompanyField;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.VatTreatment;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.approval.ApprovalService;
import app.euthyna.server.goods.StockService;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Limits;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.OnPaper;
import app.euthyna.server.masterdata.ReceivablesRules;
import app.euthyna.server.masterdata.UnwindRules;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.standin.SimulatedRegister;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The rules, customers, licences, items and shelves of Skerrywick Chandlery, on the day before its story begins. */
@Component
class DemoMasterData {

    static final String[] REGIONS = {"north", "islands", "firth"};

    private final MasterData masterData;
    private final SimulatedRegister register;
    private final StockService stock;
    private final ApprovalService approvals;
    private final CompanyRulesStore companyRules;
    private final CompanyClock clock;

    DemoMasterData(
            MasterData masterData,
            SimulatedRegister register,
            StockService stock,
            ApprovalService approvals,
            CompanyRulesStore companyRules,
            CompanyClock clock) {
        this.masterData = masterData;
        this.register = register;
        this.stock = stock;
        this.approvals = approvals;
        this.companyRules = companyRules;
        this.clock = clock;
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
    @Transactional
    public void found(LocalDate start, LocalDate today, int count) {
        var random = new Random(DemoCompany.SEED);
        var names = DemoCatalogue.customers();
        companyRules.publish(
                Story.context(clock, "lead", Role.LEAD, start, "the rules of the company"), 0, rules(count));
        for (int at = 0; at < names.size(); at++) {
            var name = names.get(at);
            customer(at, name, random, today, count);
        }
        approvals.askAbove(
                Map.of(Level.CONTROLLER, BigDecimal.valueOf(10_000), Level.LEAD, BigDecimal.valueOf(25_000)));
        for (var stocked : DemoCatalogue.items()) {
            masterData.add(stocked.item());
            if (stocked.onHand() > 0) {
                stock.receive(
                        Story.context(clock, "warehouse", Role.WAREHOUSE, start, ""),
                        null,
                        stocked.item().code(),
                        Quantity.of((long) stocked.onHand() * scale(count)),
                        stocked.unitCost());
            }
        }
    }

    private static CompanyRules rules(int count) {
        return new CompanyRules(
                new CheckPolicy(
                        Map.of(Check.DATES, Map.of(OrderKind.SAMPLE, Severity.OFF)),
                        new CheckFigures(
                                Optional.of(new CustomerRules.Overdue(45, Money.of(500 * scale(count) + ".00", "EUR"))),
                                Optional.of(BigDecimal.valueOf(15)),
                                Map.of(Role.CLERK, BigDecimal.valueOf(25), Role.CONTROLLER, BigDecimal.valueOf(40)),
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
                new UnwindRules(UnwindRules.STANDARD.reasons(), BigDecimal.ZERO, true),
                returns(),
                Limits.OF_A_NEW_COMPANY,
                ReceivablesRules.STANDARD,
                null,
                null);
    }

    private void customer(int at, DemoCatalogue.Name name, Random random, LocalDate today, int count) {
        var own = at % 7 == 3;
        var limit = at % 9 == 8
                ? Optional.<Money>empty()
                : Optional.of(Money.of((5 + random.nextInt(30)) * 1000L * scale(count) + ".00", "EUR"));
        var po = Optional.of(new PoPolicy(
                        true, Severity.STOP, Severity.STOP, Severity.CAUTION, Optional.empty(), PoPolicy.Barred.HOLD))
                .filter(p -> own);
        var licences = new HashMap<String, String>();
        if (at % 3 == 0) {
            licences.put("pyro", "PY-%d".formatted(2200 + at));
            register.enter("pyro", "PY-%d".formatted(2200 + at), today.plusDays(200 + at), true);
        }
        if (at % 4 == 1) {
            licences.put("biocide", "BI-%d".formatted(700 + at));
            register.enter("biocide", "BI-%d".formatted(700 + at), today.plusDays(90 + at), true);
        }
        masterData.add(
                new Customer(
                        name.code(),
                        name.name(),
                        name.town(),
                        at % 11 == 10 ? "abroad" : "",
                        REGIONS[at % REGIONS.length],
                        at % 5 == 0 ? 14 : 30,
                        Optional.of(new EarlyPaymentTerms(BigDecimal.valueOf(2), 10))
                                .filter(terms -> at % 6 == 2),
                        at % 11 == 10 ? VatTreatment.REVERSE_CHARGE : VatTreatment.DOMESTIC,
                        new CustomerRules(name.code(), limit, PoPolicy.STANDARD, Optional.empty(), Optional.empty()),
                        po,
                        Optional.empty(),
                        licences),
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
                        DemoCatalogue.contact(at),
                        DemoCatalogue.phone(at),
                        at == 25 ? BigDecimal.valueOf(30) : BigDecimal.ZERO));
    }

    /** A larger company has more on its shelves and lends more. */
    private static long scale(int count) {
        return Math.max(1, count / 400);
    }
}
