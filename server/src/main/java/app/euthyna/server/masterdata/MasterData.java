package app.euthyna.server.masterdata;

import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.OrderFigures;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.math.BigDecimal;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Customers, items and stores. */
@Service
@Transactional
public class MasterData {

    private final MasterDataQueries queries;
    private final Company company;
    private final TransactionCache<String, Customer> customers = TransactionCache.readThrough();
    private final TransactionCache<String, CustomerEntity> rows = TransactionCache.readThrough();
    private final TransactionCache<String, Item> items = TransactionCache.readThrough();

    private final Locks locks;
    private final CompanyRulesStore rules;
    private final Ids ids;
    private final ObjectProvider<EffectWriter> writer;

    MasterData(
            MasterDataQueries queries,
            Company company,
            Locks locks,
            CompanyRulesStore rules,
            Ids ids,
            ObjectProvider<EffectWriter> writer) {
        this.rules = rules;
        this.ids = ids;
        this.locks = locks;
        this.writer = writer;
        this.queries = queries;
        this.company = company;
    }

    public Customer customer(String code) {
        return customers.get(code, c -> toCustomer(row(c)));
    }

    private CustomerEntity row(String code) {
        return rows.get(code, c -> {
            var row = queries.customer(c)
                    .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", c)));
            ids.customerIs(c, row.id);
            return row;
        });
    }

    /** What of an order's gross a customer is always asked for as a deposit, in percent; 0 for nothing. */
    public BigDecimal depositPercent(String customer) {
        return row(customer).depositPercent;
    }

    /** Whom to call at a customer. */
    public PersonToCall personToCall(String customer) {
        var row = row(customer);
        return new PersonToCall(row.contact, row.phone, row.email);
    }

    /** Whether a customer has rules of approval of its own. */
    public boolean hasOwnApproval(String customer) {
        return row(customer).ownApproval;
    }

    public Optional<Customer> findCustomer(String code) {
        return queries.customer(code).map(this::toCustomer);
    }

    private Customer toCustomer(CustomerEntity c) {
        var ownPo = c.poOwn
                ? Optional.of(new PoPolicy(
                        c.poRequired,
                        c.poSame,
                        c.poAlike,
                        c.poNear,
                        Optional.ofNullable(c.poCeiling).map(company::money),
                        c.poBarred))
                : Optional.<PoPolicy>empty();
        var ownOverdue = Optional.ofNullable(c.overdueDays)
                .map(days -> new CustomerRules.Overdue(days, company.money(c.overdueAbove)));
        var agreed = new CustomerRules(
                c.code,
                Optional.ofNullable(c.creditLimit).map(company::money),
                PoPolicy.STANDARD,
                ownOverdue,
                Optional.ofNullable(c.blockedWhy).map(why -> new CustomerRules.Block(c.blockedBy, c.blockedOn, why)));
        var customer = new Customer(
                c.code,
                c.name,
                c.town,
                c.customerClass,
                c.region,
                c.termsDays,
                Optional.ofNullable(c.earlyPercent).map(percent -> new EarlyPaymentTerms(percent, c.earlyDays)),
                c.vatTreatment,
                agreed,
                ownPo,
                ownOverdue,
                queries.licences(c.id).stream()
                        .collect(Collectors.toMap(licence -> licence.licenceClass, licence -> licence.number)));
        return customer.withRules(customer.under(rules.inForce()));
    }

    /** Items by code; a code that does not exist is missing from the result. */
    public Map<String, Item> items(Collection<String> codes) {
        var found = new HashMap<String, Item>();
        var unknown = new ArrayList<String>();
        for (var code : codes) {
            items.known(code).ifPresentOrElse(item -> found.put(code, item), () -> unknown.add(code));
        }
        if (!unknown.isEmpty()) {
            queries.items(Many.names(unknown)).forEach(row -> {
                var item = toItem(row);
                ids.itemIs(row.code, row.id);
                items.put(row.code, item);
                found.put(row.code, item);
            });
        }
        return found;
    }

    private static Item toItem(ItemEntity i) {
        return new Item(
                i.code,
                i.name,
                i.kind,
                i.itemClass,
                i.unit,
                i.price,
                i.floorPrice,
                new Vat(i.vatCategory, i.vatRate),
                i.minStock,
                i.leadDays,
                i.regulated,
                new OrderFigures.Measures(Optional.ofNullable(i.weight), Optional.ofNullable(i.volume)));
    }

    public Item item(String code) {
        return Optional.ofNullable(items(List.of(code)).get(code))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("item", code)));
    }

    /** The store that orders ship from unless they say otherwise: the first that was set up. */
    public String defaultSite() {
        var site = queries.defaultSite();
        ids.siteIs(site.code(), site.id());
        return site.code();
    }

    public boolean hasSite(String code) {
        return queries.sitesNamed(code) > 0;
    }

    /** Sets up a store, unless it is there. */
    public void foundSite(String code, String name) {
        if (hasSite(code)) {
            return;
        }
        var row = new SiteEntity();
        row.code = code;
        row.name = name;
        queries.session().insert(row);
    }

    /** Keeps a new customer, with what stands on paper for it. */
    public void add(Customer customer, OnPaper paper) {
        var entity = new CustomerEntity();
        entity.code = customer.code();
        entity.name = customer.name();
        entity.town = customer.town();
        entity.searchKey = searchKey(customer.name() + " " + customer.town() + " " + customer.code());
        entity.customerClass = customer.customerClass();
        entity.termsDays = customer.termsDays();
        payingEarly(entity, customer.earlyPayment());
        entity.vatTreatment = customer.vatTreatment();
        entity.region = customer.region();
        policy(entity, customer.ownPo());
        agree(entity, customer.rules(), customer.ownOverdue());
        onPaper(entity, paper);
        queries.session().insert(entity);
        insert(entity, customer.licences());
    }

    private void insert(CustomerEntity customer, Map<String, String> licences) {
        licences.forEach((licenceClass, number) -> {
            var licence = new CustomerLicenceEntity();
            licence.customerId = customer.id;
            licence.licenceClass = licenceClass;
            licence.number = number;
            queries.session().insert(licence);
        });
    }

    private static void policy(CustomerEntity entity, Optional<PoPolicy> own) {
        var po = own.orElse(PoPolicy.STANDARD);
        entity.poOwn = own.isPresent();
        entity.poRequired = po.required();
        entity.poSame = po.same();
        entity.poAlike = po.alike();
        entity.poNear = po.near();
        entity.poCeiling = po.ceiling().map(Money::amount).orElse(null);
        entity.poBarred = po.barred();
    }

    private static void agree(CustomerEntity entity, CustomerRules rules, Optional<CustomerRules.Overdue> ownOverdue) {
        entity.creditLimit = rules.creditLimit().map(Money::amount).orElse(null);
        entity.overdueDays = ownOverdue.map(CustomerRules.Overdue::days).orElse(null);
        entity.overdueAbove = ownOverdue.map(o -> o.above().amount()).orElse(null);
        entity.blockedBy = rules.block().map(CustomerRules.Block::by).orElse(null);
        entity.blockedOn = rules.block().map(CustomerRules.Block::on).orElse(null);
        entity.blockedWhy = rules.block().map(CustomerRules.Block::why).orElse(null);
    }

    /**
     * Changes the limit, the block, when invoices count as overdue and what is agreed for paying early; orders that it
     * concerns are checked again, and invoices stay as they were posted.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void agree(
            CommandContext context,
            String code,
            long version,
            CustomerRules rules,
            Optional<EarlyPaymentTerms> earlyPayment) {
        change(context, code, version, entity -> {
            agree(entity, rules, rules.overdue());
            payingEarly(entity, earlyPayment);
        });
    }

    private static void payingEarly(CustomerEntity entity, Optional<EarlyPaymentTerms> agreed) {
        entity.earlyPercent = agreed.map(EarlyPaymentTerms::percent).orElse(null);
        entity.earlyDays = agreed.map(EarlyPaymentTerms::days).orElse(null);
    }

    /** Gives a customer its own PO policy, or the company's again; orders that it concerns are checked again. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setPolicy(CommandContext context, String code, long version, Optional<PoPolicy> own) {
        change(context, code, version, entity -> policy(entity, own));
    }

    /** Keeps what stands on paper for a customer. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setOnPaper(CommandContext context, String code, long version, OnPaper given) {
        change(context, code, version, entity -> onPaper(entity, given));
    }

    private static void onPaper(CustomerEntity entity, OnPaper given) {
        entity.street = given.street();
        entity.postcode = given.postcode();
        entity.town = given.town().isBlank() ? entity.town : given.town();
        entity.country = given.country();
        entity.vatId = given.vatId();
        entity.email = given.email();
        entity.contact = given.contact();
        entity.phone = given.phone();
        entity.depositPercent = given.depositPercent();
    }

    /** Notes whether a customer has rules of approval of its own. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void letHaveOwnApproval(String customer, boolean own) {
        queries.letHaveOwnApproval(own, customer);
        rows.forget(customer);
    }

    /** Keeps the numbers of a customer's licences by class; orders that it concerns are checked again. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setLicences(CommandContext context, String code, long version, Map<String, String> licences) {
        change(context, code, version, entity -> {
            queries.removeLicences(entity.id);
            insert(entity, licences);
        });
    }

    private void change(CommandContext context, String code, long version, Consumer<CustomerEntity> change) {
        locks.customer(code);
        var entity = queries.customer(code)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)));
        if (entity.version != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Customer " + code, version, entity.version));
        }
        change.accept(entity);
        queries.session().update(entity);
        rows.put(code, entity);
        customers.put(code, toCustomer(entity));
        writer.getObject().write(context, List.of(new Effect.CustomerChanged(code)));
    }

    /** The version of a customer, for whoever wants to change it. */
    public long versionOf(String code) {
        return queries.versionOf(code);
    }

    public void add(Item item) {
        var entity = new ItemEntity();
        entity.code = item.code();
        entity.name = item.name();
        entity.searchKey = searchKey(item.name() + " " + item.code());
        entity.kind = item.kind();
        entity.itemClass = item.itemClass();
        entity.unit = item.unit();
        entity.price = item.price();
        entity.floorPrice = item.floor();
        entity.vatCategory = item.vat().category();
        entity.vatRate = item.vat().ratePercent();
        entity.minStock = item.minStock();
        entity.leadDays = item.leadDays();
        entity.regulated = item.regulated();
        measure(entity, item.measures());
        queries.session().insert(entity);
    }

    private static void measure(ItemEntity entity, OrderFigures.Measures measures) {
        entity.weight = measures.weight().orElse(null);
        entity.volume = measures.volume().orElse(null);
    }

    /** Keeps what a unit of an item weighs and fills. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setMeasures(String code, long version, OrderFigures.Measures measures) {
        var entity = queries.items(Many.names(List.of(code))).stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("item", code)));
        if (entity.version != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Item " + code, version, entity.version));
        }
        measure(entity, measures);
        queries.session().update(entity);
        items.put(code, toItem(entity));
    }

    /** The version of an item, for whoever wants to change it. */
    public long versionOfItem(String code) {
        return queries.versionOfItem(code);
    }

    /** Folded for searching: no accents, no case. */
    public static String searchKey(String text) {
        return Normalizer.normalize(text, Normalizer.Form.NFKD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT)
                .strip();
    }
}
