package app.euthyna.server.outbox;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.activation.DataHandler;
import jakarta.annotation.Nullable;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.AddressException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jakarta.mail.util.ByteArrayDataSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Date;
import java.util.Properties;
import java.util.Set;
import org.springframework.stereotype.Service;

/** Stands in for mail: keeps what would have been sent, and gives it out as RFC 5322 messages. */
@Service
public class Outbox {

    /** Roles that read what was sent to or by themselves, and nothing else. */
    static final Set<Role> READ_THEIR_OWN = Set.of(Role.WAREHOUSE, Role.ADMIN);

    private final OutboxQueries queries;
    private final People people;
    private final Clock clock;

    Outbox(OutboxQueries queries, People people, Clock clock) {
        this.queries = queries;
        this.people = people;
        this.clock = clock;
    }

    /** A message, and the document that it is about; a reminder of all that waits for somebody is about none. */
    public record MessageView(
            long id,
            String recipient,
            String subject,
            String body,
            @Nullable String aboutKind,
            @Nullable String aboutNumber,
            String by,
            Instant at,
            @Nullable String attachment) {}

    /** Keeps a message to a user about a document, or about none. */
    public void send(
            String from,
            String to,
            String subject,
            String body,
            @Nullable String aboutKind,
            @Nullable String aboutNumber) {
        send(from, to, subject, body, aboutKind, aboutNumber, null, null);
    }

    /**
     * Keeps a message with a file; answers its number.
     *
     * @param to a user, or an address
     */
    public long send(
            String from,
            String to,
            String subject,
            String body,
            String aboutKind,
            String aboutNumber,
            String fileName,
            byte[] file) {
        var row = new OutboxMessageEntity();
        row.recipient = to;
        row.subject = Texts.cut(subject, 200);
        row.body = Texts.cut(body, 8000);
        row.aboutKind = aboutKind;
        row.aboutNumber = aboutNumber;
        row.byUser = from;
        row.at = clock.instant();
        row.attachmentName = fileName;
        row.attachment = file;
        queries.session().insert(row);
        return row.id;
    }

    /** A message to whoever may read it. */
    MessageView message(long id) {
        return queries.message(id, reader())
                .map(Outbox::view)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("message", String.valueOf(id))));
    }

    /** Whose messages alone are read; empty for whoever reads all that have to do with customers. */
    private static String reader() {
        return Reading.isOneOf(READ_THEIR_OWN) ? Reading.me() : "";
    }

    private static MessageView view(OutboxQueries.MessageRow row) {
        return new MessageView(
                row.id(),
                row.recipient(),
                row.subject(),
                row.body(),
                row.aboutKind(),
                row.aboutNumber(),
                row.byUser(),
                row.at(),
                row.attachmentName());
    }

    /**
     * A message as it would have gone over the wire (RFC 5322); addresses end in a domain that never exists (RFC 2606).
     */
    byte[] eml(long id) {
        var kept = message(id);
        try {
            var message = new MimeMessage(Session.getInstance(new Properties()));
            message.setFrom(address(kept.by()));
            message.setRecipient(Message.RecipientType.TO, address(kept.recipient()));
            message.setSubject(kept.subject(), StandardCharsets.UTF_8.name());
            message.setSentDate(Date.from(kept.at()));
            if (kept.attachment() == null) {
                message.setText(kept.body(), StandardCharsets.UTF_8.name());
            } else {
                message.setContent(withFile(kept));
            }
            message.saveChanges();
            message.setHeader("Message-ID", "<%d@euthyna.invalid>".formatted(kept.id()));
            var bytes = new ByteArrayOutputStream();
            message.writeTo(bytes);
            return bytes.toByteArray();
        } catch (MessagingException | IOException impossible) {
            throw new IllegalStateException("message " + id + " could not be written", impossible);
        }
    }

    private MimeMultipart withFile(MessageView kept) throws MessagingException {
        var text = new MimeBodyPart();
        text.setText(kept.body(), StandardCharsets.UTF_8.name());
        var file = new MimeBodyPart();
        file.setDataHandler(new DataHandler(new ByteArrayDataSource(attachment(kept.id()), "application/pdf")));
        file.setFileName(kept.attachment());
        return new MimeMultipart(text, file);
    }

    /** The file of a message. */
    byte[] attachment(long id) {
        return queries.attachment(id, reader())
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("file of message", String.valueOf(id))));
    }

    private InternetAddress address(String username) throws UnsupportedEncodingException, AddressException {
        if (username.contains("@")) {
            return new InternetAddress(username);
        }
        // names were not always as strict as they are
        return new InternetAddress(
                username.replaceAll("[^A-Za-z0-9._-]", "-") + "@euthyna.invalid",
                people.displayName(username).replaceAll("\\p{Cntrl}", " "),
                StandardCharsets.UTF_8.name());
    }
}
