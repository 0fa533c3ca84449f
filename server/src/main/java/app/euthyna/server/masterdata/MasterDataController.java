package app.euthyna.server.masterdata;

import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.flow.OrderFigures;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.VatTreatment;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Likes;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Digits;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Positive;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
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

    /** So many are offered while somebody types. */
    private static final int MOST_FOUND = 12;

    private final MasterData masterData;
    private final Commands commands;
    private final Company company;
    private final MasterDataQueries queries;

    MasterDataController(MasterData masterData, Commands commands, Company company, MasterDataQueries queries) {
        this.masterData = masterData;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
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
            @Valid PayingEarly earlyPayment,
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

    /** So many per cent less for paying within so many days of the invoice. */
    record PayingEarly(
            @NotNull @Positive @Max(99) @Digits(integer = 2, fraction = 2)
            BigDecimal percent,

            @NotNull @Positive @Max(365) Integer days) {
        static Optional<EarlyPaymentTerms> agreed(PayingEarly given) {
            return Optional.ofNullable(given).map(one -> new EarlyPaymentTerms(one.percent(), one.days()));
        }

        static PayingEarly of(Optional<EarlyPaymentTerms> agreed) {
            return agreed.map(one -> new PayingEarly(one.percent(), one.days())).orElse(null);
        }
    }

    /** What is agreed with a customer; what is left out is not agreed: no limit, nothing overdue, not blocked. */
    record Terms(
            @NotNull Long version,
            @PositiveOrZero BigDecimal creditLimit,
            @Valid OverdueRule overdue,
            @Valid PayingEarly earlyPayment,
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
            String regulated,
            @Valid Measures measures) {}

    /** What a unit of an item weighs, in kilograms, and fills, in cubic metres; unknown where it is left out. */
    record Measures(
            @PositiveOrZero @Digits(integer = 9, fraction = OrderFigures.WEIGHT_DECIMALS)
            BigDecimal weight,

            @PositiveOrZero @Digits(integer = 9, fraction = OrderFigures.VOLUME_DECIMALS)
            BigDecimal volume) {
        static OrderFigures.Measures given(Measures given) {
            return given == null
                    ? OrderFigures.Measures.UNKNOWN
                    : new OrderFigures.Measures(
                            Optional.ofNullable(given.weight()), Optional.ofNullable(given.volume()));
        }
    }

    record WrittenMeasures(
            @NotNull Long version, @NotNull @Valid Measures measures) {}

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
                    PayingEarly.agreed(request.earlyPayment()),
                    or(request.vatTreatment(), VatTreatment.DOMESTIC),
                    rules,
                    own,
                    overdue,
                    or(request.licences(), List.<Licence>of()).stream()
                            .collect(Collectors.toMap(Licence::licenceClass, Licence::number)));
            masterData.add(customer, or(request.address(), Address.NONE).with(request.depositPercent()));
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
                            block),
                    PayingEarly.agreed(request.earlyPayment()));
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
     * What stands on paper for a customer, and the person to call there.
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
            @Size(max = 200) @Email String email,
            @Size(max = 120) String contact,
            @Size(max = 60) String phone) {
        static final Address NONE = new Address("", "", "", "", "", "", "", "");

        OnPaper with(BigDecimal depositPercent) {
            return new OnPaper(
                    or(street, "").strip(),
                    or(postcode, "").strip(),
                    or(town, "").strip(),
                    or(country, ""),
                    or(vatId, "").strip(),
                    or(email, "").strip(),
                    or(contact, "").strip(),
                    or(phone, "").strip(),
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
            String contact,
            String phone,
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
        return queries.address(code)
                .map(row -> new AddressView(
                        row.customer(),
                        row.name(),
                        row.street(),
                        row.postcode(),
                        row.town(),
                        row.country(),
                        row.vatId(),
                        row.email(),
                        row.contact(),
                        row.phone(),
                        row.depositPercent().stripTrailingZeros()))
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
                    or(request.regulated(), ""),
                    Measures.given(request.measures())));
            return new CodeView(request.code());
        });
    }

    /** Changes what a unit of an item weighs and fills. */
    @Permissions.KeepMasterData
    @PutMapping("/items/{code}/measures")
    CodeView setMeasures(
            @PathVariable String code, @Valid @RequestBody WrittenMeasures request, HttpServletRequest http) {
        return commands.run(http, request, CodeView.class, context -> {
            masterData.setMeasures(code, request.version(), Measures.given(request.measures()));
            return new CodeView(code);
        });
    }

    @GetMapping("/customers")
    List<CustomerView> customers(@RequestParam(defaultValue = "") String q) {
        var words = patterns(q);
        return queries.customersLike(words, beginning(words), MOST_FOUND).stream()
                .map(row -> new CustomerView(
                        row.code(),
                        row.name(),
                        row.town(),
                        row.creditLimit(),
                        row.termsDays(),
                        row.poRequired(),
                        row.blockedWhy(),
                        row.version()))
                .toList();
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
        var store = site.isEmpty() ? masterData.defaultSite() : site;
        var words = patterns(q);
        var found = queries.itemsLike(store, words, beginning(words), MOST_FOUND);
        if (found.isEmpty()) {
            return List.of();
        }
        var elsewhere =
                queries
                        .freeElsewhere(
                                Many.names(found.stream()
                                        .map(MasterDataQueries.ItemRow::code)
                                        .toList()),
                                store)
                        .stream()
                        .collect(Collectors.groupingBy(
                                MasterDataQueries.FreeRow::item,
                                Collectors.mapping(row -> new FreeView(row.site(), row.free()), Collectors.toList())));
        return found.stream()
                .map(i -> new ItemView(
                        i.code(),
                        i.name(),
                        i.kind(),
                        i.unit(),
                        i.price(),
                        i.vatCategory().name(),
                        i.vatRate(),
                        i.regulated(),
                        i.free(),
                        elsewhere.getOrDefault(i.code(), List.of())))
                .toList();
    }

    @GetMapping("/sites")
    List<SiteView> sites() {
        return queries.sites().stream()
                .map(row -> new SiteView(row.site(), row.name()))
                .toList();
    }

    private static List<String> patterns(String q) {
        return List.of(MasterData.searchKey(q).split("\\s+")).stream()
                .map(Likes::containing)
                .toList();
    }

    /** The first word at the beginning of the name: such hits come first. */
    private static String beginning(List<String> patterns) {
        return patterns.get(0).substring(1);
    }

    private Optional<Money> amount(String field, BigDecimal given) {
        return Optional.ofNullable(given).map(amount -> company.given(field, amount));
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
