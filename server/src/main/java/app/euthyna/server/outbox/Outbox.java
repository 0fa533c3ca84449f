package app.euthyna.server.outbox;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Pages;
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
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.Date;
import java.util.List;
import java.util.Properties;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Service;

/** Stands in for mail: keeps what would have been sent, and gives it out as RFC 5322 messages. */
@Service
public class Outbox {

    private static final String COLUMNS =
            "id, recipient, subject, body, about_kind, about_number, by_user, at, attachment_name from outbox_message ";

    private static final String THEIRS = " and (:reader = '' or recipient = :reader or by_user = :reader)";

    private final JdbcClient jdbc;
    private final People people;
    private final Clock clock;

    Outbox(JdbcClient jdbc, People people, Clock clock) {
        this.jdbc = jdbc;
        this.people = people;
        this.clock = clock;
    }

    /** A message, and the document that it is about. */
    public record MessageView(
            long id,
            String recipient,
            String subject,
            String body,
            String aboutKind,
            String aboutNumber,
            String by,
            OffsetDateTime at,
            @Nullable String attachment) {}

    public record MessagePage(
            List<MessageView> rows, @Nullable String next) {}

    /** Keeps a message to a user about a document. */
    public void send(String from, String to, String subject, String body, String aboutKind, String aboutNumber) {
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
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into outbox_message (recipient, subject, body, about_kind, about_number, by_user, at,"
                        + " attachment_name, attachment) values (?, ?, ?, ?, ?, ?, ?, ?, ?)")
                .param(to)
                .param(Texts.cut(subject, 200))
                .param(Texts.cut(body, 8000))
                .param(aboutKind)
                .param(aboutNumber)
                .param(from)
                .param(Timestamp.from(clock.instant()))
                .param(fileName)
                .param(file)
                .update(key, "id");
        return key.getKeyAs(Long.class);
    }

    /**
     * Messages newest first, to everybody or to one user.
     *
     * @param reader whose own alone may be read; empty for all
     */
    MessagePage page(String recipient, String reader, String after) {
        var rows = jdbc.sql("select " + COLUMNS
                        + "where (:to = '' or recipient = :to)" + THEIRS
                        + " and id < :before order by id desc fetch first "
                        + (Pages.SIZE + 1) + " rows only")
                .param("to", recipient)
                .param("reader", reader)
                .param(
                        "before",
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0))
                .query(Outbox::view)
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new MessagePage(page.rows(), page.next());
    }

    private static MessageView view(ResultSet r, int n) throws SQLException {
        return new MessageView(
                r.getLong(1),
                r.getString(2),
                r.getString(3),
                r.getString(4),
                r.getString(5),
                r.getString(6),
                r.getString(7),
                r.getObject(8, OffsetDateTime.class),
                r.getString(9));
    }

    /**
     * A message as it would have gone over the wire (RFC 5322); addresses end in a domain that never exists (RFC 2606).
     */
    byte[] eml(long id, String reader) {
        var kept = jdbc.sql("select " + COLUMNS + "where id = :id" + THEIRS)
                .param("id", id)
                .param("reader", reader)
                .query(Outbox::view)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("message", String.valueOf(id))));
        try {
            var message = new MimeMessage(Session.getInstance(new Properties()));
            message.setFrom(address(kept.by()));
            message.setRecipient(Message.RecipientType.TO, address(kept.recipient()));
            message.setSubject(kept.subject(), StandardCharsets.UTF_8.name());
            message.setSentDate(Date.from(kept.at().toInstant()));
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
        file.setDataHandler(new DataHandler(new ByteArrayDataSource(attachment(kept.id(), ""), "application/pdf")));
        file.setFileName(kept.attachment());
        return new MimeMultipart(text, file);
    }

    /** The file of a message. */
    byte[] attachment(long id, String reader) {
        return jdbc.sql("select attachment from outbox_message where id = :id and attachment is not null" + THEIRS)
                .param("id", id)
                .param("reader", reader)
                .query(byte[].class)
                .optional()
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
