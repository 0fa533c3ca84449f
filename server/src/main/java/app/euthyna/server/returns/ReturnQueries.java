package app.euthyna.server.returns;

import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ReturnQueries {
    StatelessSession session();

    record StoryRow(long moment, LocalDate happenedOn, String byUser, String event, String sentence) {}

    record HeaderRow(
            String customer,
            String customerName,
            String remark,
            boolean expects,
            boolean inspecting,
            long version,
            int reminders,
            LocalDate remindedOn) {}

    @HQL("""
            select distinct h.moment, h.happenedOn, h.byUser, h.event, h.sentence
            from HistoryEntity h
            where h.documentKind = 'RETURN' and h.documentNumber = :documentNumber
            order by h.moment
            """)
    List<StoryRow> story(String documentNumber);

    @HQL("""
            select distinct o.number
            from OrderLineEntity l
            join OrderEntity o on o.id = l.orderId
            where l.sourceKind = 'RETURN' and l.sourceNumber = :sourceNumber
            order by o.number
            """)
    List<String> replacements(String sourceNumber);

    @HQL("""
            select c.code, c.name, g.remark, g.expects, g.inspecting, g.version, g.reminders, g.remindedOn
            from ReturnEntity g
            join CustomerEntity c on c.id = g.customerId
            where g.number = :number
            """)
    HeaderRow header(String number);

    @HQL("select gr.version from ReturnEntity gr where gr.number = :number")
    Long version(String number);

    @HQL("""
            update CreditNoteEntity cn
            set cn.reversedOn = :on, cn.reversedMoment = :moment, cn.version = cn.version + 1
            where cn.number = :number
            """)
    int reverseCreditNote(LocalDate on, Long moment, String number);

    @HQL("""
            update CreditNoteEntity cn
            set cn.wish = :wish, cn.version = cn.version + 1
            where cn.number = :number
            """)
    int wish(String wish, String number);

    @HQL("""
            update ReturnEntity gr
            set gr.creditDue = :creditDue, gr.creditedAhead = :creditedAhead
            where gr.number = :number
            """)
    int noteOwed(BigDecimal creditDue, BigDecimal creditedAhead, String number);

    @HQL("""
            update ReturnEntity gr
            set gr.withdrawn = true, gr.expects = false, gr.version = gr.version + 1
            where gr.number = :number
            """)
    int withdraw(String number);

    /** What lists ask for: more to come, something in inspection, and since when. */
    @HQL("""
            update ReturnEntity g
            set g.version = g.version + 1,
                g.expects = case when g.withdrawn = false and exists (select 1 from ReturnLineEntity l
                where l.returnId = g.id and l.authorised > coalesce((select sum(p.quantity) from ReturnPartEntity p
                where p.returnLineId = l.id), 0)) then true else false end,
                g.inspecting = case when exists (select 1 from ReturnLineEntity l
                join ReturnPartEntity p on p.returnLineId = l.id where l.returnId = g.id
                and p.reversed = false and p.quantity > coalesce((select sum(o.quantity) from ReturnOutcomeEntity o
                where o.partId = p.id), 0)) then true else false end,
                g.receivedOn = (select max(p.receivedOn) from ReturnLineEntity l
                join ReturnPartEntity p on p.returnLineId = l.id where l.returnId = g.id and p.reversed = false)
            where g.id = :goods
            """)
    int settle(long goods);

    @HQL("""
            select p
            from ReturnPartEntity p
            join ReturnLineEntity l on l.id = p.returnLineId
            where l.returnId = :goods and p.reversed = false
            order by p.id
            """)
    List<ReturnPartEntity> received(long goods);

    @HQL("select l.id from ReturnLineEntity l where l.returnId = :goods and l.lineNo = :line")
    long line(long goods, int line);

    @HQL("""
            select p.id
            from ReturnPartEntity p
            join ReturnLineEntity l on l.id = p.returnLineId
            where l.returnId = :goods and l.lineNo = :line and p.partNo = :part
            """)
    long part(long goods, int line, int part);

    record ListedRow(
            long id,
            String number,
            String customer,
            String customerName,
            LocalDate authorisedOn,
            String reasonCode,
            LocalDate receivedOn,
            boolean withdrawn,
            boolean expects,
            boolean inspecting,
            BigDecimal creditDue,
            BigDecimal creditedAhead,
            int reminders,
            LocalDate remindedOn) {}

    private Listing<ListedRow> listed(String customer) {
        return Listing.of(session(), ListedRow.class, """
                        select g.id, g.number, c.code, c.name, g.authorisedOn, g.reasonCode, g.receivedOn, g.withdrawn,
                            g.expects, g.inspecting, g.creditDue, g.creditedAhead, g.reminders, g.remindedOn
                        from ReturnEntity g
                        join CustomerEntity c on c.id = g.customerId
                        """).where("c.code = :customer", customer);
    }

    /** All returns, newest first. */
    default List<ListedRow> page(String customer, Long before) {
        return listed(customer)
                .where("g.id < :before", before)
                .then("order by g.id desc")
                .page();
    }

    /** Those of a lane, the longest waiting first. */
    default List<ListedRow> lane(ReturnListController.ReturnLane lane, String customer, LocalDate since, Long after) {
        var key = "g." + lane.since;
        return listed(customer)
                .where(lane.which)
                .where(key + " >= :since and (" + key + " > :since or g.id > :after)", since)
                .with("after", after)
                .then("order by " + key + ", g.id")
                .page();
    }

    record OwnerRow(long id, String customer, String customerName) {}

    @HQL("""
            select c.id, c.code, c.name
            from OrderEntity o
            join CustomerEntity c on c.id = o.customerId
            where o.number = :number
            """)
    Optional<OwnerRow> ownerOfOrder(String number);

    @HQL("""
            select c.id, c.code, c.name
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = o.customerId
            where d.number = :number
            """)
    Optional<OwnerRow> ownerOfDispatch(String number);

    @HQL("""
            select c.id, c.code, c.name
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where i.number = :number
            """)
    Optional<OwnerRow> ownerOfInvoice(String number);

    @HQL("select c.id, c.code, c.name from CustomerEntity c where c.code = :code")
    Optional<OwnerRow> owner(String code);

    record NoteRow(long id, String number, String order) {}

    /** Notes whose goods left for a customer, newest first; what is null does not matter. */
    default List<NoteRow> departed(
            long customer, String order, String dispatch, String invoice, String itemLike, Long before, int most) {
        return Listing.of(session(), NoteRow.class, """
                        select d.id, d.number, o.number
                        from DispatchEntity d
                        join OrderEntity o on o.id = d.orderId
                        """)
                .where("o.customerId = :customer", customer)
                .where("d.state = 'DEPARTED'")
                .where("d.id < :before", before)
                .where("o.number = :order", order)
                .where("d.number = :dispatch", dispatch)
                .where("""
                        d.id in (select s.dispatchId from InvoiceEntity i join InvoiceLineEntity l on l.invoiceId = i.id
                        join InvoiceLineSourceEntity s on s.invoiceLineId = l.id where i.number = :invoice)""", invoice)
                .where("""
                        exists (select 1 from DispatchLineEntity l join ItemEntity t on t.id = l.itemId
                        where l.dispatchId = d.id and (lower(t.code) like :item or lower(t.name) like :item))""", itemLike)
                .then("order by d.id desc")
                .first(most);
    }

    @HQL("update ReturnEntity g set g.reminders = g.reminders + 1, g.remindedOn = :on where g.number = :number")
    int reminded(LocalDate on, String number);
}
