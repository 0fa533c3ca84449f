package app.euthyna.server.platform;

import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** The rows that carry a number or a code. */
@Transactional
interface IdQueries {
    StatelessSession session();

    @HQL("select o.id from OrderEntity o where o.number = :number")
    Optional<Long> order(String number);

    @HQL("select c.id from CustomerEntity c where c.code = :code")
    Optional<Long> customer(String code);

    @HQL("select i.id from ItemEntity i where i.code = :code")
    Optional<Long> item(String code);

    @HQL("select s.id from SiteEntity s where s.code = :code")
    Optional<Long> site(String code);

    @HQL("select d.id from DispatchEntity d where d.number = :number")
    Optional<Long> dispatch(String number);

    @HQL("select i.id from InvoiceEntity i where i.number = :number")
    Optional<Long> invoice(String number);

    @HQL("select i.customerId from InvoiceEntity i where i.number = :number")
    Optional<Long> customerOfInvoice(String number);

    @HQL("select d.id from DepositEntity d where d.number = :number")
    Optional<Long> deposit(String number);

    @HQL("select p.id from PaymentEntity p where p.number = :number")
    Optional<Long> payment(String number);

    @HQL("select p.id from PaymentEntity p where p.number = :number and p.kind = 'WRITE_OFF'")
    Optional<Long> writeOff(String number);

    @HQL("select g.id from ReturnEntity g where g.number = :number")
    Optional<Long> goodsReturn(String number);

    @HQL("select u.id from UnexpectedGoodsEntity u where u.number = :number")
    Optional<Long> unexpectedGoods(String number);

    record Numbered(long id, String number) {}

    @HQL("select o.id, o.number from OrderEntity o where :ids contains o.id")
    List<Numbered> orderNumbers(Long[] ids);

    @HQL("select c.code from CustomerEntity c where c.id = :id")
    String customerCode(long id);

    @HQL("select i.code from ItemEntity i where i.id = :id")
    String itemCode(long id);

    @HQL("select s.code from SiteEntity s where s.id = :id")
    String siteCode(long id);

    @HQL("select o.customerId from OrderEntity o where o.number = :number")
    Optional<Long> customerOfOrder(String number);

    @HQL("select distinct o.customerId from OrderEntity o where :numbers contains o.number")
    List<Long> customersOfOrders(String[] numbers);

    @HQL("select o.id from OrderEntity o where :numbers contains o.number order by o.id")
    List<Long> orders(String[] numbers);

    @HQL(
            "select q.id from QuotaEntity q join ItemEntity i on i.id = q.itemId where :items contains i.code order by q.id")
    List<Long> quotas(String[] items);

    @HQL("""
            select s.id from ShelfEntity s join ItemEntity i on i.id = s.itemId
            where :items contains i.code order by s.itemId, s.siteId
            """)
    List<Long> shelves(String[] items);

    @HQL("select d.orderId from DispatchEntity d where d.number = :number")
    List<Long> ordersOfDispatch(String number);

    @HQL("select d.orderId from DepositEntity d where d.number = :number")
    List<Long> ordersOfDeposit(String number);

    @HQL("""
            select distinct l.rootOrderId from InvoiceEntity i join InvoiceLineEntity l on l.invoiceId = i.id
            where i.number = :number
            """)
    List<Long> ordersOfInvoice(String number);

    @HQL("""
            select distinct l.rootOrderId from ReturnEntity g join ReturnLineEntity l on l.returnId = g.id
            where g.number = :number
            """)
    List<Long> ordersOfReturn(String number);

    @HQL("""
            select distinct l.rootOrderId from CreditNoteEntity k join CreditNoteLineEntity l on l.creditNoteId = k.id
            where k.number = :number
            """)
    List<Long> ordersOfCreditNote(String number);

    @HQL("""
            select distinct l.rootOrderId from ReductionEntity r join PaymentEntity p on p.id = r.paymentId
            join InvoiceLineEntity l on l.invoiceId = r.invoiceId
            where p.number = :number and p.kind = 'WRITE_OFF'
            """)
    List<Long> ordersOfWriteOff(String number);
}
