package app.euthyna.server.masterdata;

import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.text.Normalizer;
import java.time.LocalDate;
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
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Customers, items and stores. */
@Service
@Transactional
public class MasterData {

    private final EntityManager entities;
    private final JdbcClient jdbc;
    private final Company company;
    private final TransactionCache<String, Customer> customers = TransactionCache.readThrough();
    private final TransactionCache<String, Item> items = TransactionCache.readThrough();

    private final Locks locks;
    private final CompanyRulesStore rules;
    private final ObjectProvider<EffectWriter> writer;

    MasterData(
            EntityManager entities,
            JdbcClient jdbc,
            Company company,
            Locks locks,
            CompanyRulesStore rules,
            ObjectProvider<EffectWriter> writer) {
        this.rules = rules;
        this.locks = locks;
        this.writer = writer;
        this.entities = entities;
        this.jdbc = jdbc;
        this.company = company;
    }

    public Customer customer(String code) {
        return customers.get(
                code,
                c -> findCustomer(c)
                        .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", c))));
    }

    public Optional<Customer> findCustomer(String code) {
        return entities.createQuery(
                        "select c from CustomerEntity c left join fetch c.licences where c.code = :code",
                        CustomerEntity.class)
                .setParameter("code", code)
                .getResultStream()
                .findFirst()
                .map(this::toCustomer);
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
                c.vatTreatment,
                agreed,
                ownPo,
                ownOverdue,
                c.licences.stream()
                        .collect(Collectors.toMap(
                                CustomerEntity.LicenceNumber::licenceClass, CustomerEntity.LicenceNumber::number)));
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
            entities.createQuery("select i from ItemEntity i where i.code in :codes", ItemEntity.class)
                    .setParameter("codes", unknown)
                    .getResultStream()
                    .map(MasterData::toItem)
                    .forEach(item -> {
                        items.put(item.code(), item);
                        found.put(item.code(), item);
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
                i.regulated);
    }

    public Item item(String code) {
        return Optional.ofNullable(items(List.of(code)).get(code))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("item", code)));
    }

    /** The store that orders ship from unless they say otherwise: the first that was set up. */
    public String defaultSite() {
        return jdbc.sql("select code from site order by id fetch first 1 rows only")
                .query(String.class)
                .single();
    }

    public boolean hasSite(String code) {
        return jdbc.sql("select count(*) from site where code = ?")
                        .param(code)
                        .query(Long.class)
                        .single()
                > 0;
    }

    /** Sets up a store, unless it is there. */
    public void foundSite(String code, String name) {
        if (hasSite(code)) {
            return;
        }
        jdbc.sql("insert into site (code, name) values (?, ?)")
                .params(code, name)
                .update();
    }

    /** Enters what the simulated register is to answer for a licence; silent unless {@code answers}. */
    public void register(String licenceClass, String number, LocalDate validTo, boolean answers) {
        jdbc.sql("delete from simulated_register where licence_class = ? and number = ?")
                .params(licenceClass, number)
                .update();
        jdbc.sql("insert into simulated_register (licence_class, number, valid_to, answers) values (?, ?, ?, ?)")
                .param(licenceClass)
                .param(number)
                .param(validTo)
                .param(answers)
                .update();
    }

    public void add(Customer customer) {
        var entity = new CustomerEntity();
        entity.code = customer.code();
        entity.name = customer.name();
        entity.town = customer.town();
        entity.searchKey = searchKey(customer.name() + " " + customer.town() + " " + customer.code());
        entity.customerClass = customer.customerClass();
        entity.termsDays = customer.termsDays();
        entity.vatTreatment = customer.vatTreatment();
        entity.region = customer.region();
        policy(entity, customer.ownPo());
        agree(entity, customer.rules(), customer.ownOverdue());
        customer.licences()
                .forEach((licenceClass, number) ->
                        entity.licences.add(new CustomerEntity.LicenceNumber(licenceClass, number)));
        entities.persist(entity);
        entities.flush();
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

    /** Changes the limit, the block and when invoices count as overdue; orders that it concerns are checked again. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void agree(CommandContext context, String code, long version, CustomerRules rules) {
        change(context, code, version, entity -> agree(entity, rules, rules.overdue()));
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

    /** Keeps it for a customer that this very command has added. */
    public void onPaper(String code, OnPaper given) {
        onPaper(
                entities.createQuery("select c from CustomerEntity c where c.code = :code", CustomerEntity.class)
                        .setParameter("code", code)
                        .getSingleResult(),
                given);
        entities.flush();
    }

    private static void onPaper(CustomerEntity entity, OnPaper given) {
        entity.street = given.street();
        entity.postcode = given.postcode();
        entity.town = given.town().isBlank() ? entity.town : given.town();
        entity.country = given.country();
        entity.vatId = given.vatId();
        entity.email = given.email();
        entity.depositPercent = given.depositPercent();
    }

    /** Keeps the numbers of a customer's licences by class; orders that it concerns are checked again. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setLicences(CommandContext context, String code, long version, Map<String, String> licences) {
        change(context, code, version, entity -> {
            entity.licences.clear();
            entities.flush();
            licences.forEach((licenceClass, number) ->
                    entity.licences.add(new CustomerEntity.LicenceNumber(licenceClass, number)));
        });
    }

    private void change(CommandContext context, String code, long version, Consumer<CustomerEntity> change) {
        locks.customer(code);
        var entity = entities.createQuery("select c from CustomerEntity c where c.code = :code", CustomerEntity.class)
                .setParameter("code", code)
                .getSingleResult();
        entities.refresh(entity);
        if (entity.version != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("Customer " + code, version, entity.version));
        }
        change.accept(entity);
        entities.lock(entity, LockModeType.OPTIMISTIC_FORCE_INCREMENT);
        entities.flush();
        customers.put(code, toCustomer(entity));
        writer.getObject().write(context, List.of(new Effect.CustomerChanged(code)));
    }

    /** The version of a customer, for whoever wants to change it. */
    public long versionOf(String code) {
        return jdbc.sql("select version from customer where code = ?")
                .param(code)
                .query(Long.class)
                .single();
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
        entities.persist(entity);
        entities.flush();
    }

    /** Folded for searching: no accents, no case. */
    public static String searchKey(String text) {
        return Normalizer.normalize(text, Normalizer.Form.NFKD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT)
                .strip();
    }
}
