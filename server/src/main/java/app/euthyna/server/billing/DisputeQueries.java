package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What customers do not agree with. */
@Transactional
interface DisputeQueries {
    StatelessSession session();

    @HQL("select d from DisputeEntity d where d.id = :id")
    Optional<DisputeEntity> dispute(long id);

    @HQL("select d from DisputeEntity d where d.invoiceId = :invoice and d.state = 'OPEN'")
    Optional<DisputeEntity> openOf(long invoice);

    @HQL("select i from InvoiceEntity i where i.number = :number")
    InvoiceEntity invoice(String number);

    @HQL("select i from InvoiceEntity i where i.id = :id")
    InvoiceEntity invoice(long id);

    record DisputeRow(
            long id,
            String invoice,
            String customer,
            String customerName,
            BigDecimal amount,
            BigDecimal open,
            LocalDate dueOn,
            String reason,
            String owner,
            LocalDate lookOn,
            LocalDate openedOn,
            String openedBy,
            Disputing.State state,
            LocalDate endedOn,
            String endedBy,
            String endedWhy,
            long version) {}

    String DISPUTES = """
            select d.id, i.number, c.code, c.name, d.amount, i.openAmount, i.dueOn, d.reason, d.owner, d.lookOn,
                d.openedOn, d.openedBy, d.state, d.endedOn, d.endedBy, d.endedWhy, d.version
            from DisputeEntity d
            join InvoiceEntity i on i.id = d.invoiceId
            join CustomerEntity c on c.id = i.customerId
            """;

    /** Open disputes, those to look at longest first; what is null does not matter. */
    default List<DisputeRow> open(String owner, LocalDate lookBy, LocalDate since, Long after) {
        return Listing.of(session(), DisputeRow.class, DISPUTES)
                .where("d.state = 'OPEN'")
                .where("d.owner = :owner", owner)
                .where("d.lookOn <= :lookBy", lookBy)
                .where("d.lookOn >= :since", since)
                .where("d.lookOn > :since or d.id > :after", since)
                .withIfAsked("after", after)
                .then("order by d.state, d.lookOn, d.id")
                .page();
    }

    /** All disputes of an invoice, or one of them, newest first. */
    default List<DisputeRow> of(String invoice, Long id) {
        return Listing.of(session(), DisputeRow.class, DISPUTES)
                .where("i.number = :invoice", invoice)
                .where("d.id = :id", id)
                .then("order by d.id desc")
                .first(50);
    }
}
