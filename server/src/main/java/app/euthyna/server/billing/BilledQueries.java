package app.euthyna.server.billing;

import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What is billed of orders. */
@Transactional
interface BilledQueries {
    StatelessSession session();

    @HQL("select distinct l.invoiceId from InvoiceLineEntity l where :orders contains l.rootOrderId")
    List<Long> invoicesOf(Long[] orders);

    record SourceRow(InvoiceLineSourceEntity source, String dispatch) {}

    @HQL("""
            select s, d.number
            from InvoiceLineEntity l
            join InvoiceLineSourceEntity s on s.invoiceLineId = l.id
            join DispatchEntity d on d.id = s.dispatchId
            where :invoices contains l.invoiceId
            order by s.id
            """)
    List<SourceRow> sources(Long[] invoices);

    record BilledRow(InvoiceEntity invoice, InvoiceLineEntity line, String customer, String order) {}

    @HQL("""
            select i, l, c.code, o.number
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            join InvoiceLineEntity l on l.invoiceId = i.id
            join OrderEntity o on o.id = l.rootOrderId
            where :invoices contains i.id
            order by i.id, l.lineNo
            """)
    List<BilledRow> billed(Long[] invoices);

    record DepositedRow(DepositEntity deposit, String order) {}

    @HQL("""
            select d, o.number
            from DepositEntity d
            join OrderEntity o on o.id = d.orderId
            where :orders contains d.orderId
            order by d.orderId, d.id
            """)
    List<DepositedRow> deposits(Long[] orders);

    /** The orders of some dispatches that have something to bill. */
    @HQL("""
            select o.number
            from DispatchEntity d
            join OpenOrderEntity x on x.orderId = d.orderId
            join OrderEntity o on o.id = d.orderId
            where :dispatches contains d.number and x.billable = true
            group by o.id, o.number
            order by o.id
            """)
    List<String> toBill(String[] dispatches);
}
