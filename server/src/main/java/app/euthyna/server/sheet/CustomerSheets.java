package app.euthyna.server.sheet;

import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.PoNumber;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.server.masterdata.Licences;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.PersonToCall;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Likes;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All that is known of a customer. */
@RestController
@RequestMapping("/api")
class CustomerSheets {

    private final SheetQueries queries;
    private final MasterData masterData;
    private final Licences licenceRegister;
    private final Company company;
    private final Ids ids;

    CustomerSheets(SheetQueries queries, MasterData masterData, Licences licenceRegister, Company company, Ids ids) {
        this.queries = queries;
        this.masterData = masterData;
        this.licenceRegister = licenceRegister;
        this.company = company;
        this.ids = ids;
    }

    /** A licence as the register knows it now. */
    record LicenceView(
            String licenceClass,
            String number,
            LicenceFact.Answer answer,
            @Nullable LocalDate validTo,
            boolean valid) {}

    record PolicyView(
            boolean own,
            boolean required,
            Severity same,
            Severity alike,
            Severity near,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal ceiling,
            PoPolicy.Barred barred) {}

    record DecisionView(LocalDate on, String by, String order, String sentence) {}

    /**
     * A customer.
     *
     * @param overdueDays and the amount: what holds for it; {@code overdueOwn} says whether it is agreed with it alone
     */
    record CustomerSheet(
            String code,
            String name,
            String town,
            String customerClass,
            String region,
            int termsDays,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal earlyPercent,
            @Nullable Integer earlyDays,
            String vatTreatment,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal limit,
            @Nullable Integer overdueDays,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal overdueAbove,
            boolean overdueOwn,
            @Nullable String blocked,
            @Nullable String blockedBy,
            @Nullable LocalDate blockedOn,
            PolicyView po,
            List<LicenceView> licences,
            PersonToCall call,
            @Nullable @ReadBy(ReadBy.Group.SELLING) List<DecisionView> decisions,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal pastDue,
            long version) {}

    @GetMapping("/customers/{code}/sheet")
    CustomerSheet sheet(@PathVariable String code) {
        var customer = masterData.customer(code);
        var rules = customer.rules();
        var po = rules.po();
        var today = company.today();
        var licences = new TreeMap<>(customer.licences())
                .entrySet().stream()
                        .map(l -> {
                            var fact = licenceRegister.ask(l.getKey(), l.getValue(), today);
                            return new LicenceView(
                                    l.getKey(),
                                    l.getValue(),
                                    fact.answer(),
                                    fact.validTo(),
                                    fact.answer() == LicenceFact.Answer.FOUND
                                            && !fact.validTo().isBefore(today));
                        })
                        .toList();
        var id = ids.customer(code);
        var decisions = queries.decisions(id).stream()
                .map(row -> new DecisionView(row.happenedOn(), row.byUser(), row.order(), row.sentence()))
                .toList();
        var pastDue = company.money(queries.pastDue(id, today)).amount();
        return new CustomerSheet(
                customer.code(),
                customer.name(),
                customer.town(),
                customer.customerClass(),
                customer.region(),
                customer.termsDays(),
                customer.earlyPayment().map(EarlyPaymentTerms::percent).orElse(null),
                customer.earlyPayment().map(EarlyPaymentTerms::days).orElse(null),
                customer.vatTreatment().name(),
                rules.creditLimit().map(l -> l.amount()).orElse(null),
                rules.overdue().map(CustomerRules.Overdue::days).orElse(null),
                rules.overdue().map(o -> o.above().amount()).orElse(null),
                customer.ownOverdue().isPresent(),
                rules.block().map(CustomerRules.Block::why).orElse(null),
                rules.block().map(CustomerRules.Block::by).orElse(null),
                rules.block().map(CustomerRules.Block::on).orElse(null),
                new PolicyView(
                        customer.ownPo().isPresent(),
                        po.required(),
                        po.same(),
                        po.alike(),
                        po.near(),
                        po.ceiling().map(c -> c.amount()).orElse(null),
                        po.barred()),
                licences,
                masterData.personToCall(code),
                decisions,
                pastDue,
                masterData.versionOf(code));
    }

    /**
     * A use of a PO number.
     *
     * @param kind ORDER, or PAST_INVOICE for what was imported from before
     */
    record PoRow(
            String po,
            String normal,
            String kind,
            String number,
            @Nullable String state,
            LocalDate on,
            BigDecimal net,
            List<String> invoices) {}

    record PoPage(List<PoRow> rows, @Nullable String next) {}

    /**
     * PO numbers that a customer used, the newest first; with {@code q}, those that read like it from the beginning.
     */
    @GetMapping("/customers/{code}/po-numbers")
    PoPage poNumbers(
            @PathVariable String code,
            @RequestParam(defaultValue = "") String q,
            @RequestParam(required = false) String after) {
        var id = ids.customer(code);
        var normal = q.isBlank() ? "" : PoNumber.of(q).normal();
        var like = Likes.from(normal);
        var page = Pages.of(
                queries.poNumbers(
                        id,
                        like,
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        var invoices = new HashMap<String, List<String>>();
        var numbers = page.rows().stream().map(SheetQueries.PoRow::number).toList();
        if (!numbers.isEmpty()) {
            queries.invoicesOf(Many.names(numbers))
                    .forEach(row -> invoices.computeIfAbsent(row.order(), o -> new ArrayList<>())
                            .add(row.invoice()));
        }
        var rows = new ArrayList<>(page.rows().stream()
                .map(row -> new PoRow(
                        row.po(),
                        row.poNormal(),
                        "ORDER",
                        row.number(),
                        row.state().name(),
                        row.orderedOn(),
                        company.money(row.net()).amount(),
                        invoices.getOrDefault(row.number(), List.of())))
                .toList());
        if (page.next() == null) {
            queries.pastPoNumbers(id, like)
                    .forEach(row -> rows.add(new PoRow(
                            row.po(),
                            row.poNormal(),
                            "PAST_INVOICE",
                            row.number(),
                            null,
                            row.invoicedOn(),
                            company.money(row.net()).amount(),
                            List.of())));
        }
        return new PoPage(rows, page.next());
    }
}
