package app.euthyna.server.find;

import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/**
 * The first rows of ranges over what things are called. They are cut off before anything is joined: joined first, H2
 * would go through whole tables.
 */
@Transactional
interface FindQueries {
    StatelessSession session();

    /** What was found; {@code detail} can be nothing. */
    record Found(String number, String title, String detail) {}

    /** The end of a range {@code w} of documents: the first by their number. */
    String BY_NUMBER = """
            where w.number >= :from and w.number < :to
            order by w.number
            fetch first 6 rows only) h
            """;

    /** The customer of a document that names it. */
    String OF_CUSTOMER = """
            join CustomerEntity c on c.id = h.customerId
            order by h.number
            """;

    /** The order of a document, and its customer. */
    String OF_ORDER = """
            join OrderEntity o on o.id = h.orderId
            join CustomerEntity c on c.id = o.customerId
            order by h.number
            """;

    @HQL("""
            select h.number, c.name, h.po
            from (select w.number as number, w.customerId as customerId, w.po as po
                from OrderEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> orders(String from, String to);

    @HQL("""
            select h.number, c.name, o.number
            from (select w.number as number, w.orderId as orderId
                from DispatchEntity w
            """ + BY_NUMBER + OF_ORDER)
    List<Found> dispatches(String from, String to);

    @HQL("""
            select h.number, c.name, ''
            from (select w.number as number, w.customerId as customerId
                from InvoiceEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> invoices(String from, String to);

    @HQL("""
            select h.number, c.name, ''
            from (select w.number as number, w.customerId as customerId
                from ReturnEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> returns(String from, String to);

    @HQL("""
            select h.number, c.name, ''
            from (select w.number as number, w.customerId as customerId
                from CreditNoteEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> creditNotes(String from, String to);

    @HQL("""
            select h.number, c.name, ''
            from (select w.number as number, w.customerId as customerId
                from PaymentEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> payments(String from, String to);

    @HQL("""
            select h.number, c.name, h.sourceNumber
            from (select w.number as number, w.customerId as customerId, w.sourceNumber as sourceNumber
                from RefundEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> refunds(String from, String to);

    @HQL("""
            select h.number, coalesce(c.name, h.sender), ''
            from (select w.number as number, w.customerId as customerId, w.sender as sender
                from UnexpectedGoodsEntity w
            """ + BY_NUMBER + """
            left join CustomerEntity c on c.id = h.customerId
            order by h.number
            """)
    List<Found> unexpectedGoods(String from, String to);

    @HQL("""
            select h.number, c.name, o.number
            from (select w.number as number, w.orderId as orderId
                from CancellationEntity w
            """ + BY_NUMBER + OF_ORDER)
    List<Found> cancellations(String from, String to);

    @HQL("""
            select h.number, c.name, h.po
            from (select w.number as number, w.customerId as customerId, w.po as po
                from SalesAgreementEntity w
            """ + BY_NUMBER + OF_CUSTOMER)
    List<Found> agreements(String from, String to);

    @HQL("""
            select h.number, c.name, h.po
            from (select w.poNormal as poNormal, w.id as id, w.number as number, w.customerId as customerId, w.po as po
                from OrderEntity w
                where w.poNormal >= :from and w.poNormal < :to
                order by w.poNormal, w.id
                fetch first 6 rows only) h
            join CustomerEntity c on c.id = h.customerId
            order by h.poNormal, h.id
            """)
    List<Found> ordersByPo(String from, String to);

    @HQL("""
            select h.number, c.name, h.externalReference
            from (select w.externalReference as externalReference, w.id as id, w.number as number, w.customerId as customerId
                from OrderEntity w
                where w.externalReference >= :from and w.externalReference < :to
                order by w.externalReference, w.id
                fetch first 6 rows only) h
            join CustomerEntity c on c.id = h.customerId
            order by h.externalReference, h.id
            """)
    List<Found> ordersByReference(String from, String to);

    @HQL("""
            select h.number, h.event, h.documentNumber
            from JournalEntryEntity h
            where h.number >= :from and h.number < :to
            order by h.number
            fetch first 6 rows only
            """)
    List<Found> entries(String from, String to);

    @HQL("""
            select h.code, h.name, ''
            from ItemEntity h
            where h.code >= :from and h.code < :to
            order by h.code
            fetch first 6 rows only
            """)
    List<Found> items(String from, String to);

    @HQL("""
            select h.code, h.name, h.town
            from CustomerEntity h
            where h.searchKey >= :from and h.searchKey < :to
            order by h.searchKey
            fetch first 6 rows only
            """)
    List<Found> customers(String from, String to);
}
