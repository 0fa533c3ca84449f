package app.euthyna.server.outbox;

import app.euthyna.server.platform.Listing;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Messages; an empty reader reads all, anyone else what was sent to or by them. */
@Transactional
interface OutboxQueries {
    StatelessSession session();

    record MessageRow(
            long id,
            String recipient,
            String subject,
            String body,
            String aboutKind,
            String aboutNumber,
            String byUser,
            Instant at,
            String attachmentName) {}

    /** Newest first; what is null does not matter. */
    default List<MessageRow> page(String recipient, String reader, Long before) {
        return Listing.of(session(), MessageRow.class, """
                        select m.id, m.recipient, m.subject, m.body, m.aboutKind, m.aboutNumber, m.byUser, m.at,
                            m.attachmentName
                        from OutboxMessageEntity m
                        """)
                .where("m.recipient = :recipient", recipient)
                .where("m.recipient = :reader or m.byUser = :reader", reader)
                .where("m.id < :before", before)
                .then("order by m.id desc")
                .page();
    }

    @HQL("""
            select m.id, m.recipient, m.subject, m.body, m.aboutKind, m.aboutNumber, m.byUser, m.at, m.attachmentName
            from OutboxMessageEntity m
            where m.id = :id and (:reader = '' or m.recipient = :reader or m.byUser = :reader)
            """)
    Optional<MessageRow> message(long id, String reader);

    @HQL("""
            select m.attachment
            from OutboxMessageEntity m
            where m.id = :id and m.attachment is not null
            and (:reader = '' or m.recipient = :reader or m.byUser = :reader)
            """)
    Optional<byte[]> attachment(long id, String reader);
}
