package app.euthyna.server.outbox;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "outbox_message")
public class OutboxMessageEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String recipient;
    String subject;
    String body;
    String aboutKind;
    String aboutNumber;
    String byUser;
    Instant at;
    String attachmentName;
    byte[] attachment;
}
