package app.euthyna.server.outbox;

import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What would have been sent, over HTTP. */
@RestController
@RequestMapping("/api/outbox")
class OutboxController {

    private final Outbox outbox;

    OutboxController(Outbox outbox) {
        this.outbox = outbox;
    }

    @GetMapping("/{id}")
    Outbox.MessageView message(@PathVariable long id) {
        return outbox.message(id);
    }

    /** A message as a file that every mail program opens. */
    @GetMapping(path = "/{id}/eml", produces = "message/rfc822")
    ResponseEntity<byte[]> eml(@PathVariable long id) {
        return ResponseEntity.ok()
                .contentType(MediaType.parseMediaType("message/rfc822"))
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"message-" + id + ".eml\"")
                .body(outbox.eml(id));
    }

    /** The file of a message. */
    @GetMapping(path = "/{id}/attachment", produces = MediaType.APPLICATION_PDF_VALUE)
    ResponseEntity<byte[]> attachment(@PathVariable long id) {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_PDF)
                .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"message-" + id + ".pdf\"")
                .body(outbox.attachment(id));
    }
}
