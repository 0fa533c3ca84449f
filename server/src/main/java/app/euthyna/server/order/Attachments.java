package app.euthyna.server.order;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Person;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/**
 * Files kept with an order, a return, unexpected goods or a write-off. What they are is read from their first bytes;
 * they are handed out to be saved, never to be shown or run.
 */
@RestController
@RequestMapping("/api/{owner:orders|returns|unexpected-goods|write-offs}/{number}/attachments")
class Attachments {

    static final int LARGEST = 5 * 1024 * 1024;
    private static final int MOST = 40;
    private static final int PART = 1_000_000;
    private static final Map<String, byte[]> BEGINNINGS = Map.of(
            "application/pdf",
            "%PDF-".getBytes(StandardCharsets.US_ASCII),
            "image/png",
            new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'},
            "image/jpeg",
            new byte[] {(byte) 0xff, (byte) 0xd8, (byte) 0xff});

    private final AttachmentQueries queries;
    private final Commands commands;
    private final History history;
    private final DocumentOrders documentOrders;
    private final Clock clock;
    private final Ids ids;

    Attachments(
            AttachmentQueries queries,
            Commands commands,
            History history,
            DocumentOrders documentOrders,
            Clock clock,
            Ids ids) {
        this.ids = ids;
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.commands = commands;
        this.history = history;
        this.clock = clock;
    }

    /** A file kept with an order; its size in bytes. */
    record AttachmentView(long id, String name, String mediaType, int size, String by, Instant at) {}

    record AttachmentList(List<AttachmentView> attachments) {}

    /** What files may be kept with, by its place in the API. */
    private enum Owner {
        ORDERS(DocumentKind.ORDER),
        RETURNS(DocumentKind.RETURN),
        UNEXPECTED_GOODS(DocumentKind.UNEXPECTED_GOODS),
        WRITE_OFFS(DocumentKind.WRITE_OFF);

        private final DocumentKind kind;

        Owner(DocumentKind kind) {
            this.kind = kind;
        }

        static Owner of(String place) {
            return valueOf(place.toUpperCase(Locale.ROOT).replace('-', '_'));
        }
    }

    private long id(Owner owner, String number) {
        return switch (owner) {
            case ORDERS -> ids.order(number);
            case RETURNS -> ids.goodsReturn(number);
            case UNEXPECTED_GOODS -> ids.unexpectedGoods(number);
            case WRITE_OFFS -> ids.writeOff(number);
        };
    }

    /** Tells it in the history of the orders that the owner belongs to. */
    private void note(CommandContext context, Owner owner, String number, String sentence) {
        var orders = switch (owner) {
            case ORDERS -> List.of(number);
            case RETURNS, WRITE_OFFS -> documentOrders.of(owner.kind, number);
            case UNEXPECTED_GOODS -> List.<String>of();
        };
        history.note(context, orders, owner.kind, number, "attached", sentence);
    }

    @GetMapping
    AttachmentList attachments(@PathVariable String owner, @PathVariable String number) {
        return attachments(Owner.of(owner), number);
    }

    private AttachmentList attachments(Owner owner, String number) {
        var id = id(owner, number);
        var kept = switch (owner) {
            case ORDERS -> queries.ofOrder(id);
            case RETURNS -> queries.ofReturn(id);
            case UNEXPECTED_GOODS -> queries.ofUnexpectedGoods(id);
            case WRITE_OFFS -> queries.ofPayment(id);
        };
        return new AttachmentList(kept.stream()
                .map(one -> new AttachmentView(
                        one.id, one.name, one.mediaType, one.sizeBytes, one.attachedBy, one.attachedAt))
                .toList());
    }

    /** Keeps a PDF, a PNG or JPEG picture or a plain text of at most 5 MB. */
    @Permissions.Propose
    @PostMapping(consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    AttachmentList attach(
            @PathVariable String owner,
            @PathVariable String number,
            @RequestPart("file") MultipartFile file,
            HttpServletRequest http)
            throws IOException {
        if (file.getSize() == 0 || file.getSize() > LARGEST) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("file", "a file that is not empty, of at most 5 MB"));
        }
        var content = file.getBytes();
        var type = typeOf(content);
        var name = plain(file.getOriginalFilename());
        return commands.run(http, List.of(name, Hashes.sha256(content)), AttachmentList.class, context -> {
            var of = Owner.of(owner);
            if (attachments(of, number).attachments().size() >= MOST) {
                throw new RefusedException(
                        CommonRefusal.Incomplete.of("file", "at most " + MOST + " files with a document"));
            }
            var attachment = new AttachmentEntity();
            switch (of) {
                case ORDERS -> attachment.orderId = id(of, number);
                case RETURNS -> attachment.returnId = id(of, number);
                case UNEXPECTED_GOODS -> attachment.unexpectedId = id(of, number);
                case WRITE_OFFS -> attachment.paymentId = id(of, number);
            }
            attachment.name = name;
            attachment.mediaType = type;
            attachment.sizeBytes = content.length;
            attachment.attachedBy = context.person().username();
            attachment.attachedAt = clock.instant();
            queries.session().insert(attachment);
            for (int from = 0; from < content.length; from += PART) {
                var row = new AttachmentPartEntity();
                row.attachmentId = attachment.id;
                row.partNo = from / PART;
                row.content = Arrays.copyOfRange(content, from, Math.min(from + PART, content.length));
                queries.session().insert(row);
            }
            note(context, of, number, "attached " + name);
            return attachments(of, number);
        });
    }

    @Permissions.Propose
    @DeleteMapping("/{id}")
    AttachmentList remove(
            @PathVariable String owner, @PathVariable String number, @PathVariable long id, HttpServletRequest http) {
        return commands.run(http, List.of(id), AttachmentList.class, context -> {
            var of = Owner.of(owner);
            var name = name(of, number, id);
            var by = queries.attachedBy(id);
            if (!by.equals(context.person().username()) && !context.person().decides()) {
                throw new RefusedException(new CommonRefusal.NotAuthorised(
                        "remove a file that " + by + " attached",
                        context.person().role(),
                        Person.DECIDING));
            }
            queries.removeParts(id);
            queries.remove(id);
            note(context, of, number, "removed the attached " + name);
            return attachments(of, number);
        });
    }

    private String name(Owner owner, String number, long id) {
        return attachments(owner, number).attachments().stream()
                .filter(one -> one.id() == id)
                .map(AttachmentView::name)
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("attachment", String.valueOf(id))));
    }

    @GetMapping("/{id}")
    ResponseEntity<byte[]> file(@PathVariable String owner, @PathVariable String number, @PathVariable long id) {
        var name = name(Owner.of(owner), number, id);
        var content = new ByteArrayOutputStream();
        queries.file(id).forEach(content::writeBytes);
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .header("X-Content-Type-Options", "nosniff")
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(name, StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .body(content.toByteArray());
    }

    private static String typeOf(byte[] content) {
        return BEGINNINGS.entrySet().stream()
                .filter(b -> content.length >= b.getValue().length
                        && Arrays.equals(Arrays.copyOf(content, b.getValue().length), b.getValue()))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElseGet(() -> {
                    if (isText(content)) {
                        return "text/plain";
                    }
                    throw new RefusedException(
                            CommonRefusal.Incomplete.of("file", "a PDF, a PNG or JPEG picture, or a plain text"));
                });
    }

    private static boolean isText(byte[] content) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(content))
                    .chars()
                    .noneMatch(c -> Character.isISOControl(c) && c != '\n' && c != '\r' && c != '\t');
        } catch (CharacterCodingException binary) {
            return false;
        }
    }

    /** The last part of a name, without what file systems don't take; its ending says nothing here. */
    private static String plain(String given) {
        var name = given == null
                ? ""
                : given.substring(Math.max(given.lastIndexOf('/'), given.lastIndexOf('\\')) + 1)
                        .replaceAll("[\\p{Cntrl}<>:\"|?*]", "")
                        .strip();
        var kept = name.isEmpty() || name.toLowerCase(Locale.ROOT).startsWith(".") ? "file" + name : name;
        return kept.length() > 200 ? kept.substring(kept.length() - 200) : kept;
    }
}
