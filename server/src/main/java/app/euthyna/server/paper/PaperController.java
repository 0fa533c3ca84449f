package app.euthyna.server.paper;

import app.euthyna.core.shared.Dating;
import app.euthyna.server.billing.Statements;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Paper, statements and reminders over HTTP. */
@RestController
@RequestMapping("/api")
class PaperController {

    private final Printing printing;
    private final Statements statements;
    private final Commands commands;
    private final Company company;
    private final Mailing mailing;

    PaperController(Printing printing, Statements statements, Commands commands, Company company, Mailing mailing) {
        this.mailing = mailing;
        this.printing = printing;
        this.statements = statements;
        this.commands = commands;
        this.company = company;
    }

    /** Documents to be put on paper, in the sequence given; a statement by customer, or customer|from|to. */
    record WrittenPrint(
            @NotNull Paper paper, @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 60) String> numbers) {}

    record PrintedView(Paper paper, String number, int copy) {}

    /** Under which number the file is kept, and what is a copy in it. */
    record PrintView(long id, List<PrintedView> sheets) {}

    @Permissions.Propose
    @PostMapping("/prints")
    PrintView print(@Valid @RequestBody WrittenPrint request, HttpServletRequest http) {
        return commands.run(http, request, PrintView.class, context -> {
            var run = printing.print(context, request.paper(), request.numbers());
            return new PrintView(
                    run,
                    printing.sheets(run).stream()
                            .map(s -> new PrintedView(s.paper(), s.number(), s.copy()))
                            .toList());
        });
    }

    /** The file of what was put on paper together. */
    @GetMapping(path = "/prints/{id}/pdf", produces = MediaType.APPLICATION_PDF_VALUE)
    ResponseEntity<byte[]> pdf(@PathVariable long id) {
        return file("print-" + id, printing.file(id, commands.context().person()));
    }

    /** Documents as they would be on paper, to be looked at: nothing is printed, and no copy is counted. */
    @GetMapping(path = "/papers/{paper}", produces = MediaType.APPLICATION_PDF_VALUE)
    ResponseEntity<byte[]> look(
            @PathVariable Paper paper,
            @RequestParam @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 60) String> number) {
        return file("papers", printing.look(commands.context(), paper, number));
    }

    private static ResponseEntity<byte[]> file(String name, byte[] pdf) {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_PDF)
                .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"" + name + ".pdf\"")
                .body(pdf);
    }

    record WrittenMail(
            @NotNull Paper paper,
            @NotBlank @Size(max = 60) String number,
            @Email @Size(max = 200) String to) {}

    record MailedView(long message) {}

    /**
     * Sends a document with its file attached; it goes to the Outbox. Another address than the customer's record holds
     * is for a controller or the finance lead, and stays in the history.
     */
    @Permissions.Propose
    @PostMapping("/mails")
    MailedView mail(@Valid @RequestBody WrittenMail request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                MailedView.class,
                context -> new MailedView(
                        mailing.mail(context, request.paper(), request.number(), Texts.given(request.to()))));
    }

    /** What a customer owes at a day, and how it came to that. */
    @GetMapping("/customers/{code}/statement")
    Statements.AccountStatementView statement(
            @PathVariable String code,
            @RequestParam(required = false) LocalDate from,
            @RequestParam(required = false) LocalDate to) {
        var until = to == null ? company.today() : to;
        var since = from == null ? until.minusMonths(3) : from;
        RefusedException.where(Dating.span("from", since, "to", until));
        return statements.of(code, since, until);
    }
}
