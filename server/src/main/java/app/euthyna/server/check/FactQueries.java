package app.euthyna.server.check;

import app.euthyna.core.check.PoNumber;
import app.euthyna.core.order.OrderState;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface FactQueries {
    StatelessSession session();

    record ShelvesRow(String item, BigDecimal onHand, BigDecimal reserved, BigDecimal stockValue) {}

    record FreeElsewhereRow(String site, BigDecimal onHand) {}

    record UsualRow(String itemCode, BigDecimal quantity) {}

    record DueInvoiceRow(String number, LocalDate dueOn, BigDecimal openAmount) {}

    record StandingRow(Long family, Long blanket, Long poTaken) {}

    record BilledRow(String order, String invoice) {}

    @HQL("""
            select i.code, s.onHand, s.reserved, s.stockValue
            from ShelfEntity s
            join ItemEntity i on i.id = s.itemId
            join SiteEntity t on t.id = s.siteId
            where :items contains i.code and t.code = :site
            """)
    List<ShelvesRow> shelves(String[] items, String site);

    @HQL("""
            select t.code, s.onHand - s.reserved
            from ShelfEntity s
            join ItemEntity i on i.id = s.itemId
            join SiteEntity t on t.id = s.siteId
            where i.code = :item and t.code <> :site and s.onHand > s.reserved
            """)
    List<FreeElsewhereRow> freeElsewhere(String item, String site);

    @HQL("""
            select sol.itemCode, sum(sol.quantity)
            from OrderLineEntity sol
            where :orders contains sol.orderId and :items contains sol.itemCode and sol.removed = false
            group by sol.itemCode, sol.orderId
            """)
    List<UsualRow> usualQuantities(Long[] orders, String[] items);

    @HQL("""
            select i.number, i.dueOn, i.openAmount - case when i.disputed = true and :aside = true then
                coalesce((select least(coalesce(d.amount, i.openAmount), i.openAmount) from DisputeEntity d
                where d.invoiceId = i.id and d.state = 'OPEN'), 0) else 0 end
            from InvoiceEntity i
            where i.customerId = :customerId and i.dueOn < :dueOn and i.openAmount >= 0.0001bd
            and not (:aside = true and i.disputed = true and exists (select 1 from DisputeEntity e
                where e.invoiceId = i.id and e.state = 'OPEN' and (e.amount is null or e.amount >= i.openAmount)))
            order by i.customerId, i.dueOn, i.openAmount fetch first 40 rows only
            """)
    List<DueInvoiceRow> dueInvoices(long customerId, LocalDate dueOn, boolean aside);

    @HQL("""
            select coalesce(o.splitOf, o.id), q.id, o.poTaken
            from OrderEntity o
            left join SalesAgreementEntity q on q.id = o.agreementId and q.kind = 'BLANKET_ORDER'
            where o.number = :number
            """)
    Optional<StandingRow> standing(String number);

    @HQL("""
            select distinct o.number, i.number
            from InvoiceLineEntity l
            join InvoiceEntity i on i.id = l.invoiceId
            join OrderEntity o on o.id = l.rootOrderId
            where :orders contains o.number and i.reversedOn is null
            order by o.number, i.number
            """)
    List<BilledRow> invoicesOf(String[] orders);

    @HQL("""
            select o.number
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where :orders contains o.number and x.billable = true
            """)
    List<String> billable(String[] orders);

    record EarlierRow(long id, BigDecimal net) {}

    /** The latest orders before one, so many of which say what is usual. */
    @HQL("""
            select o.id, o.net
            from (select w.id as id, w.net as net, w.state as state, w.number as number
                from OrderEntity w
                where w.customerId = :customer
                order by w.id desc
                fetch first 200 rows only) o
            where o.state not in ('DRAFT', 'CANCELLED', 'DECLINED') and o.number <> :number
            and o.id < coalesce((select m.id from OrderEntity m where m.number = :number), 9223372036854775807L)
            order by o.id desc
            fetch first :most rows only
            """)
    List<EarlierRow> earlier(long customer, String number, int most);

    /** What counts towards a customer's exposure. */
    record PositionRow(
            BigDecimal unpaid, BigDecimal unbilled, BigDecimal cleared, BigDecimal credit, BigDecimal deposits) {}

    /** The sums of a customer's position, beside an order. */
    @HQL("""
            select
                coalesce((select sum(i.openAmount) from InvoiceEntity i
                    where i.customerId = c.id and i.openAmount >= 0.0001bd), 0),
                coalesce((select sum(x.unbilledGross) from OpenOrderEntity x
                    where x.customerId = c.id and x.unbilledGross > 0), 0),
                coalesce((select sum(x.openGross) from OpenOrderEntity x join OrderEntity o on o.id = x.orderId
                    where x.customerId = c.id and x.openGross > 0 and x.cleared = true and o.number <> :beside), 0),
                coalesce((select sum(p.leftAmount) from PaymentEntity p
                    where p.customerId = c.id and p.leftAmount >= 0.0001bd), 0),
                coalesce((select sum(d.leftAmount) from DepositEntity d
                    where d.customerId = c.id and d.leftAmount >= 0.0001bd), 0)
            from CustomerEntity c
            where c.code = :customer
            """)
    PositionRow position(String customer, String beside);

    /** A document of a position, with its share. */
    record ShareRow(String number, BigDecimal amount) {}

    @HQL("""
            select i.number, i.openAmount
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where c.code = :customer and i.openAmount >= 0.0001bd
            order by i.openAmount desc, i.number
            fetch first 40 rows only
            """)
    List<ShareRow> unpaid(String customer);

    @HQL("""
            select o.number, x.unbilledGross
            from OpenOrderEntity x
            join CustomerEntity c on c.id = x.customerId
            join OrderEntity o on o.id = x.orderId
            where c.code = :customer and x.unbilledGross > 0
            order by x.unbilledGross desc, o.number
            fetch first 40 rows only
            """)
    List<ShareRow> unbilled(String customer);

    @HQL("""
            select o.number, x.openGross
            from OpenOrderEntity x
            join CustomerEntity c on c.id = x.customerId
            join OrderEntity o on o.id = x.orderId
            where c.code = :customer and x.openGross > 0 and x.cleared = true and o.number <> :beside
            order by x.openGross desc, o.number
            fetch first 40 rows only
            """)
    List<ShareRow> clearedNotShipped(String customer, String beside);

    @HQL("""
            select p.number, p.leftAmount
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where c.code = :customer and p.leftAmount >= 0.0001bd
            order by p.leftAmount desc, p.number
            fetch first 40 rows only
            """)
    List<ShareRow> credit(String customer);

    @HQL("""
            select d.number, d.leftAmount
            from DepositEntity d
            join CustomerEntity c on c.id = d.customerId
            where c.code = :customer and d.leftAmount >= 0.0001bd
            order by d.leftAmount desc, d.number
            fetch first 40 rows only
            """)
    List<ShareRow> deposits(String customer);

    /** An order that may stand under the same PO. */
    record LikeOrderRow(
            long id,
            String number,
            String po,
            LocalDate on,
            BigDecimal net,
            OrderState state,
            Long family,
            Long blanket,
            Long taken) {}

    /** The latest rows {@code w} of the same value; those {@code v} of them whose number is about as long. */
    String OF_SAME_VALUE = """
            where w.customerId = :customer and w.net = :net
            order by w.customerId desc, w.net desc, w.id desc
            fetch first 500 rows only) v
            where length(v.poNormal) between :length - 1 and :length + 1
            """;

    /** An order {@code v} that may stand under the same PO. */
    String AN_ORDER = """
            select v.id, v.number, v.po, v.orderedOn, v.net, v.state, coalesce(v.splitOf, v.id), v.agreementId, v.poTaken
            from\s""";

    /** One that took the number and did not give it back, other than the one that is looked at. */
    String THAT_TOOK_IT = """
            and v.poTaken is not null and v.state not in ('CANCELLED', 'DECLINED') and v.number <> :number
            """;

    @HQL(AN_ORDER + "OrderEntity v where v.customerId = :customer and v.poNormal = :po " + THAT_TOOK_IT)
    List<LikeOrderRow> ordersOfNormal(long customer, String po, String number);

    @HQL(AN_ORDER + "OrderEntity v where v.customerId = :customer and v.poFolded = :folded " + THAT_TOOK_IT)
    List<LikeOrderRow> ordersOfFolded(long customer, String folded, String number);

    @HQL(AN_ORDER + """
            (select w.id as id, w.number as number, w.po as po, w.orderedOn as orderedOn, w.net as net,
                w.state as state, w.splitOf as splitOf, w.agreementId as agreementId, w.poTaken as poTaken,
                w.poNormal as poNormal
            from OrderEntity w
            """ + OF_SAME_VALUE + THAT_TOOK_IT)
    List<LikeOrderRow> ordersOfSameValue(long customer, BigDecimal net, int length, String number);

    /**
     * Orders with the same normal or folded form, and of those of the same value the ones whose number is about as
     * long. Three questions, since H2 would think one of three parts through anew each time.
     */
    default Stream<LikeOrderRow> ordersLike(long customer, PoNumber po, BigDecimal net, String number) {
        return Stream.of(
                        ordersOfNormal(customer, po.normal(), number),
                        ordersOfFolded(customer, po.folded(), number),
                        ordersOfSameValue(customer, net, po.normal().length(), number))
                .flatMap(List::stream);
    }

    /** An invoice from before that may stand under the same PO. */
    record LikeInvoiceRow(long id, String number, String po, LocalDate on, BigDecimal net) {}

    /** An invoice from before. */
    String AN_INVOICE = """
            select v.id, v.number, v.po, v.invoicedOn, v.net
            from\s""";

    @HQL(AN_INVOICE + "PastInvoiceEntity v where v.customerId = :customer and v.poNormal = :po")
    List<LikeInvoiceRow> invoicesOfNormal(long customer, String po);

    @HQL(AN_INVOICE + "PastInvoiceEntity v where v.customerId = :customer and v.poFolded = :folded")
    List<LikeInvoiceRow> invoicesOfFolded(long customer, String folded);

    @HQL(AN_INVOICE + """
            (select w.id as id, w.number as number, w.po as po, w.invoicedOn as invoicedOn, w.net as net,
                w.poNormal as poNormal
            from PastInvoiceEntity w
            """ + OF_SAME_VALUE)
    List<LikeInvoiceRow> invoicesOfSameValue(long customer, BigDecimal net, int length);

    /** Invoices from before, found as the orders are. */
    default Stream<LikeInvoiceRow> pastInvoicesLike(long customer, PoNumber po, BigDecimal net) {
        return Stream.of(
                        invoicesOfNormal(customer, po.normal()),
                        invoicesOfFolded(customer, po.folded()),
                        invoicesOfSameValue(customer, net, po.normal().length()))
                .flatMap(List::stream);
    }
}
