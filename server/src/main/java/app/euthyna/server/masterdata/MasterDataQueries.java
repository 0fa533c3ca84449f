package app.euthyna.server.masterdata;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface MasterDataQueries {
    StatelessSession session();

    record CurrentRow(long versionNo, String rules) {}

    record ChangesRow(long versionNo, LocalDate changedOn, String changedBy, String reason) {}

    @HQL("""
            select cr.versionNo, cr.rules
            from CompanyRulesEntity cr
            order by cr.versionNo desc fetch first 1 rows only
            """)
    Optional<CurrentRow> current();

    @HQL("""
            select cr.versionNo, cr.changedOn, cr.changedBy, cr.reason
            from CompanyRulesEntity cr
            order by cr.versionNo desc fetch first 50 rows only
            """)
    List<ChangesRow> changes();

    record FirstSite(long id, String code) {}

    @HQL("select s.id, s.code from SiteEntity s order by s.id fetch first 1 rows only")
    FirstSite defaultSite();

    @HQL("select count(*) from SiteEntity s where s.code = :code")
    long sitesNamed(String code);

    @HQL("select c.version from CustomerEntity c where c.code = :code")
    long versionOf(String code);

    @HQL("select i.version from ItemEntity i where i.code = :code")
    long versionOfItem(String code);

    record AddressRow(
            String customer,
            String name,
            String street,
            String postcode,
            String town,
            String country,
            String vatId,
            String email,
            String contact,
            String phone,
            BigDecimal depositPercent) {}

    record FreeRow(String item, String site, BigDecimal free) {}

    record SiteRow(String site, String name) {}

    @HQL("""
            select c.code, c.name, c.street, c.postcode, c.town, c.country, c.vatId, c.email,
                c.contact, c.phone, c.depositPercent
            from CustomerEntity c
            where c.code = :code
            """)
    Optional<AddressRow> address(String code);

    @HQL("""
            select i.code, t.code, s.onHand - s.reserved
            from ShelfEntity s
            join ItemEntity i on i.id = s.itemId
            join SiteEntity t on t.id = s.siteId
            where :items contains i.code and t.code <> :site and s.onHand > s.reserved
            order by t.id
            """)
    List<FreeRow> freeElsewhere(String[] items, String site);

    @HQL("select s.code, s.name from SiteEntity s order by s.id")
    List<SiteRow> sites();

    record BreakRow(String item, String customer, BigDecimal fromQuantity, BigDecimal unitPrice) {}

    record ItemBreakRow(String customer, BigDecimal fromQuantity, BigDecimal unitPrice) {}

    @HQL("""
            select i.code, coalesce(c.code, ''), b.fromQuantity, b.unitPrice
            from PriceBreakEntity b
            join ItemEntity i on i.id = b.itemId
            left join CustomerEntity c on c.id = b.customerId
            where :items contains i.code and (b.customerId is null or c.code = :customer)
            """)
    List<BreakRow> breaks(String[] items, String customer);

    @HQL("""
            select coalesce(c.code, ''), b.fromQuantity, b.unitPrice
            from PriceBreakEntity b
            left join CustomerEntity c on c.id = b.customerId
            where b.itemId = (select i.id from ItemEntity i where i.code = :code)
            order by coalesce(c.code, ''), b.fromQuantity
            """)
    List<ItemBreakRow> breaksOf(String code);

    @HQL("delete from PriceBreakEntity pb where pb.itemId = :item")
    int removeBreaks(long item);

    @HQL("select c from CustomerEntity c where c.code = :code")
    Optional<CustomerEntity> customer(String code);

    @HQL("select l from CustomerLicenceEntity l where l.customerId = :customer")
    List<CustomerLicenceEntity> licences(long customer);

    @HQL("delete from CustomerLicenceEntity l where l.customerId = :customer")
    int removeLicences(long customer);

    @HQL("select i from ItemEntity i where :codes contains i.code")
    List<ItemEntity> items(String[] codes);

    record CustomerRow(
            String code,
            String name,
            String town,
            BigDecimal creditLimit,
            int termsDays,
            boolean poRequired,
            String blockedWhy,
            long version) {}

    /** Customers whose search key has all of these patterns; those first whose key matches {@code first}. */
    default List<CustomerRow> customersLike(List<String> patterns, String first, int most) {
        var listing = Listing.of(session(), CustomerRow.class, """
                select c.code, c.name, c.town, c.creditLimit, c.termsDays, c.poRequired, c.blockedWhy, c.version
                from CustomerEntity c
                """);
        for (int at = 0; at < patterns.size(); at++) {
            listing.where("c.searchKey like :word" + at + " escape '!'", patterns.get(at));
        }
        return listing.with("first", first)
                .then("order by case when c.searchKey like :first escape '!' then 0 else 1 end, c.name")
                .first(most);
    }

    record ItemRow(
            String code,
            String name,
            LineKind kind,
            String unit,
            BigDecimal price,
            Vat.Category vatCategory,
            BigDecimal vatRate,
            String regulated,
            BigDecimal free) {}

    /** The same of items, with what is free at a store. */
    default List<ItemRow> itemsLike(String site, List<String> patterns, String first, int most) {
        var listing = Listing.of(session(), ItemRow.class, """
                select i.code, i.name, i.kind, i.unit, i.price, i.vatCategory, i.vatRate, i.regulated,
                    coalesce((select s.onHand - s.reserved from ShelfEntity s
                    join SiteEntity t on t.id = s.siteId and t.code = :site where s.itemId = i.id), 0)
                from ItemEntity i
                """);
        for (int at = 0; at < patterns.size(); at++) {
            listing.where("i.searchKey like :word" + at + " escape '!'", patterns.get(at));
        }
        return listing.with("site", site)
                .with("first", first)
                .then("order by case when i.searchKey like :first escape '!' then 0 else 1 end, i.name")
                .first(most);
    }

    @HQL("update CustomerEntity c set c.ownApproval = :own where c.code = :customer")
    int letHaveOwnApproval(boolean own, String customer);
}
