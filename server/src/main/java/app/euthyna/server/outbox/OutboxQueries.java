package app.euthyna.server.outbox;

import java.time.Instant;
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

    /** True of messages to or by somebody. */
    String OWN = "m.recipient = :me or m.byUser = :me";

    @HQL("""
            select m.id, m.recipient, m.subject, m.body, m.aboutKind, m.aboutNumber, m.byUser, m.at, m.attachmentName
            from OutboxMessageEntity m
            where m.id = :id and (:me = '' or\s""" + OWN + ")")
    Optional<MessageRow> message(long id, String me);

    @HQL("""
            select m.attachment
            from OutboxMessageEntity m
            where m.id = :id and m.attachment is not null and (:me = '' or\s""" + OWN + ")")
    Optional<byte[]> attachment(long id, String me);
}
