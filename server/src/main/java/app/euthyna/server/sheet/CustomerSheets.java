package app.euthyna.server.sheet;

import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.PoNumber;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.server.masterdata.Likes;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.SimulatedLicenceRegister;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The list of customers, and all that is known of one. */
@RestController
@RequestMapping("/api")
class CustomerSheets {

    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final SimulatedLicenceRegister register;
    private final Company company;
    private final Ids ids;
    private final Clock clock;

    CustomerSheets(
            JdbcClient jdbc,
            MasterData masterData,
            SimulatedLicenceRegister register,
            Company company,
            Ids ids,
            Clock clock) {
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.register = register;
        this.company = company;
        this.ids = ids;
        this.clock = clock;
    }

    /**
     * A customer in the list.
     *
     * @param exposure without what is held
     */
    record CustomerRow(
            String code,
            String name,
            String town,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal exposure,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal limit,
            @Nullable @ReadBy(ReadBy.Group.SELLING) Long open,
            @Nullable @ReadBy(ReadBy.Group.SELLING) Long held,
            boolean blocked) {}

    record CustomerPage(List<CustomerRow> rows, @Nullable String next) {}

    /** Customers by name, those with a word in name, town or code. */
    @GetMapping("/customer-list")
    CustomerPage list(@RequestParam(defaultValue = "") String q, @RequestParam(required = false) String after) {
        record Keyed(String name, CustomerRow row) {}
        var start = after == null ? "" : Pages.key(after).text(0);
        var code = after == null ? "" : Pages.key(after).text(1);
        var rows = jdbc.sql("""
            select p.code, p.name, p.town, p.credit_limit, p.blocked_why,
                coalesce((select sum(i.open_amount) from invoice i where i.customer_id = p.id and i.open_amount > 0),
                    0)
                + coalesce((select sum(x.unbilled_gross) + sum(case when x.cleared then x.open_gross else 0 end)
                from open_order x where x.customer_id = p.id), 0)
                - coalesce((select sum(m.left_amount) from payment m where m.customer_id = p.id
                    and m.left_amount > 0), 0),
                (select count(*) from open_order x where x.customer_id = p.id),
                (select count(*) from open_order x join sales_order o on o.id = x.order_id
                where x.customer_id = p.id and o.state = 'HELD')
            from (select id, code, name, town, credit_limit, blocked_why from customer
                where search_key like :like escape '!' and (name > :start or (name = :start and code > :code))
                order by name, code fetch first SIZE rows only) p order by p.name, p.code\
            """.replace("SIZE", String.valueOf(Pages.SIZE + 1)))
                .param("like", Likes.anywhere(q))
                .param("start", start)
                .param("code", code)
                .query((r, n) -> new Keyed(
                        r.getString(2),
                        new CustomerRow(
                                r.getString(1),
                                r.getString(2),
                                r.getString(3),
                                company.money(r.getBigDecimal(6)).amount(),
                                r.getBigDecimal(4) == null
                                        ? null
                                        : company.money(r.getBigDecimal(4)).amount(),
                                r.getLong(7),
                                r.getLong(8),
                                r.getString(5) != null)))
                .list();
        var page = Pages.of(rows, row -> List.of(row.name(), row.row().code()));
        return new CustomerPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    /** A licence as the register knows it now. */
    record LicenceView(
            String licenceClass, String number, LicenceFact.Answer answer, LocalDate validTo, boolean valid) {}

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
            @Nullable @ReadBy(ReadBy.Group.SELLING) List<DecisionView> decisions,
            @Nullable @ReadBy(ReadBy.Group.SELLING) BigDecimal pastDue,
            long version) {}

    @GetMapping("/customers/{code}/sheet")
    CustomerSheet sheet(@PathVariable String code) {
        var customer = masterData.customer(code);
        var rules = customer.rules();
        var po = rules.po();
        var today = LocalDate.now(clock);
        var licences = new TreeMap<>(customer.licences())
                .entrySet().stream()
                        .map(l -> {
                            var fact = register.ask(l.getKey(), l.getValue(), today);
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
        var decisions = jdbc.sql("""
            select h.happened_on, h.by_user, o.number, h.sentence from history h
            join sales_order o on o.id = h.order_id
            where h.order_id in (select id from sales_order where customer_id = ? order by id desc
                fetch first 400 rows only)
              and (h.event in ('waived', 'approved', 'sent-back', 'recalled', 'cancelled') or h.state_to = 'DECLINED')
            order by h.moment desc fetch first 40 rows only\
            """)
                .param(id)
                .query((r, n) -> new DecisionView(
                        r.getObject(1, LocalDate.class), r.getString(2), r.getString(3), r.getString(4)))
                .list();
        var pastDue = jdbc.sql(
                        "select coalesce(sum(open_amount), 0) from invoice where customer_id = ? and open_amount > 0"
                                + " and due_on < ?")
                .params(id, today)
                .query((r, n) -> company.money(r.getBigDecimal(1)).amount())
                .single();
        return new CustomerSheet(
                customer.code(),
                customer.name(),
                customer.town(),
                customer.customerClass(),
                customer.region(),
                customer.termsDays(),
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

    private record KeyedPo(long id, PoRow row) {}

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
        var parameters = Map.of(
                "customer",
                id,
                "like",
                Likes.from(normal),
                "before",
                after == null ? Long.MAX_VALUE : Pages.key(after).number(0));
        var found = new ArrayList<>(jdbc.sql("""
            select id, po, po_normal, number, state, ordered_on, net from sales_order
            where customer_id = :customer and po_normal <> '' and po_normal like :like escape '!' and id < :before
            order by id desc fetch first SIZE rows only\
            """.replace("SIZE", String.valueOf(Pages.SIZE + 1)))
                .params(parameters)
                .query((r, n) -> new KeyedPo(
                        r.getLong(1),
                        new PoRow(
                                r.getString(2),
                                r.getString(3),
                                "ORDER",
                                r.getString(4),
                                r.getString(5),
                                r.getObject(6, LocalDate.class),
                                company.money(r.getBigDecimal(7)).amount(),
                                List.of())))
                .list());
        var page = Pages.of(found, row -> List.of(String.valueOf(row.id())));
        var invoices = new HashMap<String, List<String>>();
        var numbers = page.rows().stream().map(row -> row.row().number()).toList();
        if (!numbers.isEmpty()) {
            jdbc.sql("""
                select distinct o.number, i.number from invoice_line l join invoice i on i.id = l.invoice_id
                join sales_order o on o.id = l.root_order_id where o.number in (:orders) and i.reversed_on is null\
                """)
                    .param("orders", numbers)
                    .query((r, n) -> invoices.computeIfAbsent(r.getString(1), o -> new ArrayList<>())
                            .add(r.getString(2)))
                    .list();
        }
        var rows = new ArrayList<>(page.rows().stream()
                .map(KeyedPo::row)
                .map(r -> new PoRow(
                        r.po(),
                        r.normal(),
                        r.kind(),
                        r.number(),
                        r.state(),
                        r.on(),
                        r.net(),
                        invoices.getOrDefault(r.number(), List.of())))
                .toList());
        if (page.next() == null) {
            rows.addAll(jdbc.sql("""
                select po, po_normal, number, invoiced_on, net from past_invoice
                where customer_id = :customer and po_normal like :like escape '!'
                order by id desc fetch first 500 rows only\
                """)
                    .params(parameters)
                    .query((r, n) -> new PoRow(
                            r.getString(1),
                            r.getString(2),
                            "PAST_INVOICE",
                            r.getString(3),
                            null,
                            r.getObject(4, LocalDate.class),
                            company.money(r.getBigDecimal(5)).amount(),
                            List.of()))
                    .list());
        }
        return new PoPage(rows, page.next());
    }
}
