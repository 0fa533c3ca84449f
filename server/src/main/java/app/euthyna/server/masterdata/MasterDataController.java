package app.euthyna.server.masterdata;

import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.VatTreatment;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Customers, items, stores, and the simulated register, over HTTP. */
@RestController
@RequestMapping("/api")
class MasterDataController {

    private final MasterData masterData;
    private final Commands commands;
    private final Company company;
    private final JdbcClient jdbc;

    MasterDataController(MasterData masterData, Commands commands, Company company, JdbcClient jdbc) {
        this.masterData = masterData;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
    }

    record PoRules(
            Boolean required,
            Severity same,
            Severity alike,
            Severity near,
            BigDecimal ceiling,
            PoPolicy.Barred barred) {}

    record Licence(@NotBlank String licenceClass, @NotBlank String number) {}

    record NewCustomer(
            @NotBlank @Size(max = 40) String code,
            @NotBlank @Size(max = 200) String name,
            @Size(max = 120) String town,
            String customerClass,
            @Size(max = 60) String region,
            @PositiveOrZero BigDecimal creditLimit,
            @PositiveOrZero @Max(3650) Integer termsDays,
            VatTreatment vatTreatment,
            PoRules po,
            List<@Valid Licence> licences,
            @Valid OverdueRule overdue,
            @Size(max = 500) String blocked,
            @PositiveOrZero @Max(100) BigDecimal depositPercent,
            @Valid Address address) {}

    /** Invoices hold orders when they are more than so many days past due, with more than an amount open. */
    record OverdueRule(
            @NotNull @PositiveOrZero @Max(3650) Integer days,
            @PositiveOrZero BigDecimal above) {}

    /** What is agreed with a customer; what is left out is not agreed: no limit, nothing overdue, not blocked. */
    record Terms(
            @NotNull Long version,
            @PositiveOrZero BigDecimal creditLimit,
            @Valid OverdueRule overdue,
            @Size(max = 500) String blocked) {}

    record NewItem(
            @NotBlank @Size(max = 40) String code,
            @NotBlank @Size(max = 200) String name,
            @NotNull LineKind kind,
            String itemClass,
            String unit,
            @NotNull @PositiveOrZero BigDecimal price,
            @PositiveOrZero BigDecimal floorPrice,
            @NotNull Vat.Category vatCategory,
            @NotNull @PositiveOrZero @Max(100) BigDecimal vatRate,
            @PositiveOrZero BigDecimal minStock,
            @PositiveOrZero @Max(999) Integer leadDays,
            String regulated) {}

    /** What the simulated register answers for a licence; silent when {@code answers} is false. */
    record RegisterAnswer(
            @NotBlank String licenceClass, @NotBlank String number, LocalDate validTo, boolean answers) {}

    record CodeView(String code) {}

    record CustomerView(
            String code,
            String name,
            String town,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal creditLimit,
            int termsDays,
            boolean poRequired,
            @Nullable String blocked,
            long version) {}

    record ItemView(
            String code,
            String name,
            LineKind kind,
            String unit,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal price,
            String vatCategory,
            BigDecimal vatRate,
            String regulated,
            BigDecimal free,
            List<FreeView> elsewhere) {}

    /** Free stock of an item at another store. */
    record FreeView(String site, BigDecimal free) {}

    record SiteView(String code, String name) {}

    @Permissions.KeepMasterData
    @PostMapping("/customers")
    CodeView addCustomer(@Valid @RequestBody NewCustomer request, HttpServletRequest http) {
        return commands.run(http, request, CodeView.class, context -> {
            if (masterData.findCustomer(request.code()).isPresent()) {
                throw new RefusedException(CommonRefusal.Incomplete.of("code", "an unused customer code"));
            }
            var own = policy(request.po());
            var overdue = overdue(request.overdue());
            var rules = new CustomerRules(
                    request.code(),
                    amount("creditLimit", request.creditLimit()),
                    own.orElse(PoPolicy.STANDARD),
                    overdue,
                    block(context, request.blocked()));
            var customer = new Customer(
                    request.code(),
                    request.name(),
                    or(request.town(), ""),
                    or(request.customerClass(), ""),
                    or(request.region(), ""),
                    or(request.termsDays(), 30),
                    or(request.vatTreatment(), VatTreatment.DOMESTIC),
                    rules,
                    own,
                    overdue,
                    or(request.licences(), List.<Licence>of()).stream()
                            .collect(Collectors.toMap(Licence::licenceClass, Licence::number)));
            masterData.add(customer);
            masterData.onPaper(
                    customer.code(), or(request.address(), Address.NONE).with(request.depositPercent()));
            return new CodeView(customer.code());
        });
    }

    /** Changes what is agreed with a customer. Orders that it concerns are held or let go at once. */
    @Permissions.KeepMasterData
    @PutMapping("/customers/{code}/terms")
    CustomerView agree(@PathVariable String code, @Valid @RequestBody Terms request, HttpServletRequest http) {
        return commands.run(http, request, CustomerView.class, context -> {
            var before = masterData.customer(code).rules();
            var block = block(context, request.blocked())
                    .map(now -> before.block()
                            .filter(b -> b.why().equals(now.why()))
                            .orElse(now));
            masterData.agree(
                    context,
                    code,
                    request.version(),
                    new CustomerRules(
                            code,
                            amount("creditLimit", request.creditLimit()),
                            before.po(),
                            overdue(request.overdue()),
                            block));
            return customer(code);
        });
    }

    /** A customer's own PO policy in place of the company's; none gives it the company's again. */
    record OwnPolicy(@NotNull Long version, @Valid PoRules own) {}

    @Permissions.KeepMasterData
    @PutMapping("/customers/{code}/po-policy")
    CustomerView setPolicy(@PathVariable String code, @Valid @RequestBody OwnPolicy request, HttpServletRequest http) {
        return commands.run(http, request, CustomerView.class, context -> {
            masterData.setPolicy(context, code, request.version(), policy(request.own()));
            return customer(code);
        });
    }

    /**
     * What stands on paper for a customer.
     *
     * @param country by its two letters (ISO 3166)
     */
    record Address(
            @Size(max = 200) String street,
            @Size(max = 20) String postcode,
            @Size(max = 120) String town,

            @Pattern(regexp = "|[A-Z]{2}", message = "a two-letter country code such as IE")
            String country,

            @Size(max = 40) String vatId,
            @Size(max = 200) @Email String email) {
        static final Address NONE = new Address("", "", "", "", "", "");

        OnPaper with(BigDecimal depositPercent) {
            return new OnPaper(
                    or(street, "").strip(),
                    or(postcode, "").strip(),
                    or(town, "").strip(),
                    or(country, ""),
                    or(vatId, "").strip(),
                    or(email, "").strip(),
                    or(depositPercent, BigDecimal.ZERO));
        }
    }

    /** Address of a customer, and the share of an order that is asked for ahead, in per cent. */
    record WrittenAddress(
            @NotNull Long version,
            @NotNull @Valid Address address,
            @PositiveOrZero @Max(100) BigDecimal depositPercent) {}

    record AddressView(
            String code,
            String name,
            String street,
            String postcode,
            String town,
            String country,
            String vatId,
            String email,
            @Nullable @ReadBy(ReadBy.Group.TERMS) BigDecimal depositPercent) {}

    @Permissions.KeepMasterData
    @PutMapping("/customers/{code}/address")
    AddressView setAddress(
            @PathVariable String code, @Valid @RequestBody WrittenAddress request, HttpServletRequest http) {
        return commands.run(http, request, AddressView.class, context -> {
            masterData.setOnPaper(
                    context, code, request.version(), request.address().with(request.depositPercent()));
            return address(code);
        });
    }

    @GetMapping("/customers/{code}/address")
    AddressView address(@PathVariable String code) {
        return jdbc.sql("select code, name, street, postcode, town, country, vat_id, email, deposit_percent from"
                        + " customer where code = ?")
                .param(code)
                .query((r, n) -> new AddressView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        r.getString(7),
                        r.getString(8),
                        r.getBigDecimal(9).stripTrailingZeros()))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)));
    }

    /** All licences that a customer gave. */
    record Licences(
            @NotNull Long version, @NotNull @Size(max = 50) List<@Valid Licence> licences) {}

    @Permissions.KeepMasterData
    @PutMapping("/customers/{code}/licences")
    CustomerView setLicences(@PathVariable String code, @Valid @RequestBody Licences request, HttpServletRequest http) {
        if (request.licences().stream().map(Licence::licenceClass).distinct().count()
                < request.licences().size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("licences", "one licence for each class"));
        }
        return commands.run(http, request, CustomerView.class, context -> {
            masterData.setLicences(
                    context,
                    code,
                    request.version(),
                    request.licences().stream().collect(Collectors.toMap(Licence::licenceClass, Licence::number)));
            return customer(code);
        });
    }

    private Optional<PoPolicy> policy(PoRules given) {
        if (given != null && given.near() == Severity.STOP) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("po.near", "CAUTION or OFF; a near match never stops an order"));
        }
        return Optional.ofNullable(given)
                .map(po -> new PoPolicy(
                        or(po.required(), false),
                        or(po.same(), Severity.STOP),
                        or(po.alike(), Severity.STOP),
                        or(po.near(), Severity.CAUTION),
                        amount("po.ceiling", po.ceiling()),
                        or(po.barred(), PoPolicy.Barred.HOLD)));
    }

    private Optional<CustomerRules.Overdue> overdue(OverdueRule rule) {
        return Optional.ofNullable(rule)
                .map(r -> new CustomerRules.Overdue(
                        r.days(), company.given("overdue.above", or(r.above(), BigDecimal.ZERO))));
    }

    private static Optional<CustomerRules.Block> block(CommandContext context, String why) {
        return why == null || why.isBlank()
                ? Optional.empty()
                : Optional.of(new CustomerRules.Block(context.person().username(), context.date(), why.strip()));
    }

    @Permissions.KeepMasterData
    @PostMapping("/items")
    CodeView addItem(@Valid @RequestBody NewItem request, HttpServletRequest http) {
        return commands.run(http, request, CodeView.class, context -> {
            if (!masterData.items(List.of(request.code())).isEmpty()) {
                throw new RefusedException(CommonRefusal.Incomplete.of("code", "an unused item code"));
            }
            if (request.vatCategory() != Vat.Category.S && request.vatRate().signum() != 0) {
                throw new RefusedException(CommonRefusal.Incomplete.of("vatRate", "zero, unless the category is S"));
            }
            masterData.add(new Item(
                    request.code(),
                    request.name(),
                    request.kind(),
                    or(request.itemClass(), request.kind() == LineKind.STOCK ? "" : "service"),
                    or(request.unit(), "pc"),
                    request.price(),
                    or(request.floorPrice(), BigDecimal.ZERO),
                    new Vat(request.vatCategory(), request.vatRate()),
                    or(request.minStock(), BigDecimal.ZERO),
                    or(request.leadDays(), 0),
                    or(request.regulated(), "")));
            return new CodeView(request.code());
        });
    }

    @Permissions.KeepMasterData
    @PostMapping("/simulated-register")
    CodeView register(@Valid @RequestBody RegisterAnswer request, HttpServletRequest http) {
        return commands.run(http, request, CodeView.class, context -> {
            masterData.register(request.licenceClass(), request.number(), request.validTo(), request.answers());
            return new CodeView(request.number());
        });
    }

    @GetMapping("/customers")
    List<CustomerView> customers(@RequestParam(defaultValue = "") String q) {
        return jdbc.sql("select code, name, town, credit_limit, terms_days, po_required, blocked_why, version from"
                        + " customer where "
                        + words(q)
                        + " order by case when search_key like ? escape '!' then 0 else 1 end, name fetch"
                        + " first 12 rows only")
                .params(ranked(patterns(q)))
                .query((r, n) -> new CustomerView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getBigDecimal(4),
                        r.getInt(5),
                        r.getBoolean(6),
                        r.getString(7),
                        r.getLong(8)))
                .list();
    }

    @GetMapping("/customers/{code}")
    CustomerView customer(@PathVariable String code) {
        var customer = masterData.customer(code);
        return new CustomerView(
                customer.code(),
                customer.name(),
                customer.town(),
                customer.rules().creditLimit().map(limit -> limit.amount()).orElse(null),
                customer.termsDays(),
                customer.rules().po().required(),
                customer.rules().block().map(CustomerRules.Block::why).orElse(null),
                masterData.versionOf(code));
    }

    /** Items by several words of their name or code, with what is free at the store asked for. */
    @GetMapping("/items")
    List<ItemView> items(@RequestParam(defaultValue = "") String q, @RequestParam(defaultValue = "") String site) {
        var parameters = new ArrayList<Object>();
        parameters.add(site.isEmpty() ? masterData.defaultSite() : site);
        parameters.addAll(ranked(patterns(q)));
        var found = jdbc.sql("select i.code, i.name, i.kind, i.unit, i.price, i.vat_category, i.vat_rate, i.regulated,"
                        + " coalesce((select s.on_hand - s.reserved from shelf s join site t on t.id = s.site_id"
                        + " and t.code = ? where s.item_id = i.id), 0) from item i where " + words(q)
                        + " order by case when search_key like ? escape '!' then 0 else 1 end, i.name fetch"
                        + " first 12 rows only")
                .params(parameters)
                .query((r, n) -> new ItemView(
                        r.getString(1),
                        r.getString(2),
                        LineKind.valueOf(r.getString(3)),
                        r.getString(4),
                        r.getBigDecimal(5),
                        r.getString(6),
                        r.getBigDecimal(7),
                        r.getString(8),
                        r.getBigDecimal(9),
                        List.of()))
                .list();
        if (found.isEmpty()) {
            return found;
        }
        record There(String item, FreeView free) {}
        var elsewhere = jdbc
                .sql("""
                    select i.code, t.code, s.on_hand - s.reserved from shelf s join item i on i.id = s.item_id
                    join site t on t.id = s.site_id
                    where i.code in (:items) and t.code <> :site and s.on_hand > s.reserved order by t.id\
                    """)
                .param("items", found.stream().map(ItemView::code).toList())
                .param("site", parameters.get(0))
                .query((r, n) -> new There(r.getString(1), new FreeView(r.getString(2), r.getBigDecimal(3))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(There::item, Collectors.mapping(There::free, Collectors.toList())));
        return found.stream()
                .map(i -> new ItemView(
                        i.code(),
                        i.name(),
                        i.kind(),
                        i.unit(),
                        i.price(),
                        i.vatCategory(),
                        i.vatRate(),
                        i.regulated(),
                        i.free(),
                        elsewhere.getOrDefault(i.code(), List.of())))
                .toList();
    }

    @GetMapping("/sites")
    List<SiteView> sites() {
        return jdbc.sql("select code, name from site order by id")
                .query((r, n) -> new SiteView(r.getString(1), r.getString(2)))
                .list();
    }

    private static String words(String q) {
        var count = q.isBlank() ? 1 : q.strip().split("\\s+").length;
        return String.join(" and ", Collections.nCopies(count, "search_key like ? escape '!'"));
    }

    private static List<String> patterns(String q) {
        return List.of(MasterData.searchKey(q).split("\\s+")).stream()
                .map(Likes::containing)
                .toList();
    }

    /** Beside the words themselves, the first of them at the beginning of the name: such hits come first. */
    private static List<String> ranked(List<String> patterns) {
        var ranked = new ArrayList<>(patterns);
        ranked.add(patterns.get(0).substring(1));
        return ranked;
    }

    private Optional<Money> amount(String field, BigDecimal given) {
        return Optional.ofNullable(given).map(amount -> company.given(field, amount));
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
