package app.euthyna.server.outbox;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
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
import org.springframework.stereotype.Service;

/** Stands in for mail: keeps what would have been sent, and gives it out as RFC 5322 messages. */
@Service
public class Outbox {

    private static final String COLUMNS = "id, recipient, subject, body, about_kind, about_number, by_user, at from outbox_message ";

    private final JdbcClient jdbc;
    private final People people;
    private final Clock clock;

    Outbox(JdbcClient jdbc, People people, Clock clock) {
        this.jdbc = jdbc;
        this.people = people;
        this.clock = clock;
    }

    /** A message, and the document that it is about. */
    public record MessageView(long id, String recipient, String subject, String body, String aboutKind, String aboutNumber, String by, OffsetDateTime at) {
    }

    public record MessagePage(List<MessageView> rows, String next) {
    }

    /** Keeps a message to a user about a document. */
    public void send(String from, String to, String subject, String body, String aboutKind, String aboutNumber) {
        jdbc.sql("insert into outbox_message (recipient, subject, body, about_kind, about_number, by_user, at) values (?, ?, ?, ?, ?, ?, ?)")
                .param(to).param(subject.length() > 200 ? subject.substring(0, 200) : subject).param(body.length() > 8000 ? body.substring(0, 8000) : body)
                .param(aboutKind).param(aboutNumber).param(from).param(Timestamp.from(clock.instant())).update();
    }

    /** Messages newest first, to everybody or to one user. */
    MessagePage page(String recipient, String after) {
        var rows = jdbc.sql("select " + COLUMNS + "where (:to = '' or recipient = :to) and id < :before order by id desc fetch first " + (Pages.SIZE + 1) + " rows only")
                .param("to", recipient).param("before", after == null ? Long.MAX_VALUE : Pages.key(after).number(0)).query(Outbox::view).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new MessagePage(page.rows(), page.next());
    }

    private static MessageView view(ResultSet r, int n) throws SQLException {
        return new MessageView(r.getLong(1), r.getString(2), r.getString(3), r.getString(4), r.getString(5), r.getString(6), r.getString(7),
                r.getObject(8, OffsetDateTime.class));
    }

    /** A message as it would have gone over the wire (RFC 5322); addresses end in a domain that never exists (RFC 2606). */
    byte[] eml(long id) {
        var kept = jdbc.sql("select " + COLUMNS + "where id = ?").param(id).query(Outbox::view).optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("message", String.valueOf(id))));
        try {
            var message = new MimeMessage(Session.getInstance(new Properties()));
            message.setFrom(address(kept.by()));
            message.setRecipient(Message.RecipientType.TO, address(kept.recipient()));
            message.setSubject(kept.subject(), StandardCharsets.UTF_8.name());
            message.setSentDate(Date.from(kept.at().toInstant()));
            message.setText(kept.body(), StandardCharsets.UTF_8.name());
            message.saveChanges();
            message.setHeader("Message-ID", "<%d@euthyna.invalid>".formatted(kept.id()));
            var bytes = new ByteArrayOutputStream();
            message.writeTo(bytes);
            return bytes.toByteArray();
        } catch (MessagingException | IOException impossible) {
            throw new IllegalStateException("message " + id + " could not be written", impossible);
        }
    }

    private InternetAddress address(String username) throws UnsupportedEncodingException {
        return new InternetAddress(username + "@euthyna.invalid", people.displayName(username), StandardCharsets.UTF_8.name());
    }
}
