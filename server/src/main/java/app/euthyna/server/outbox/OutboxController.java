package app.euthyna.server.outbox;

import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Commands;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What would have been sent, over HTTP. */
@RestController
@RequestMapping("/api/outbox")
class OutboxController {

    private final Outbox outbox;
    private final Commands commands;

    OutboxController(Outbox outbox, Commands commands) {
        this.commands = commands;
        this.outbox = outbox;
    }

    /** Whose messages alone are read; empty for whoever reads all that have to do with customers. */
    private String reader() {
        var person = commands.context().person();
        return person.role() == Role.WAREHOUSE || person.role() == Role.ADMIN ? person.username() : "";
    }

    @GetMapping
    Outbox.MessagePage page(
            @RequestParam(defaultValue = "") String recipient, @RequestParam(required = false) String after) {
        return outbox.page(recipient, reader(), after);
    }

    /** A message as a file that every mail program opens. */
    @GetMapping(path = "/{id}/eml", produces = "message/rfc822")
    ResponseEntity<byte[]> eml(@PathVariable long id) {
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("message/rfc822"))
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"message-" + id + ".eml\"")
                .body(outbox.eml(id, reader()));
    }

    /** The file of a message. */
    @GetMapping(path = "/{id}/attachment", produces = MediaType.APPLICATION_PDF_VALUE)
    ResponseEntity<byte[]> attachment(@PathVariable long id) {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_PDF)
                .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"message-" + id + ".pdf\"")
                .body(outbox.attachment(id, reader()));
    }
}
