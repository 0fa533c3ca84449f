package app.euthyna.server.paper;

import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.outbox.Outbox;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts documents on paper, one file for a selection, and sends them; whatever was on paper before is marked as a copy.
 */
@Service
class Printing implements BatchWork {

    private final PaperQueries queries;
    private final Papers papers;
    private final Pdf pdf;
    private final Outbox outbox;
    private final InvoiceReminders reminders;
    private final Company company;
    private final History history;
    private final DocumentOrders documentOrders;

    Printing(
            PaperQueries queries,
            Papers papers,
            Pdf pdf,
            Outbox outbox,
            InvoiceReminders reminders,
            Company company,
            History history,
            DocumentOrders documentOrders) {
        this.history = history;
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.papers = papers;
        this.pdf = pdf;
        this.outbox = outbox;
        this.reminders = reminders;
        this.company = company;
    }

    /** Nobody knows where to send it. */
    @Code("incomplete")
    record NoAddress(String customer) implements Refusal {

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }
    }

    /** A document on paper; the first time it is no copy. */
    record Sheet(Paper paper, String number, int copy) {}

    /**
     * Notes that documents are put on paper together, in the sequence given; answers under which number their file is
     * kept.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public long print(CommandContext context, Paper paper, List<String> numbers) {
        paper.requireReader(context.person().role());
        var run = new PrintRunEntity();
        run.paper = paper.name();
        run.printedAt = company.now();
        run.printedBy = context.person().username();
        queries.session().insert(run);
        for (var number : numbers) {
            // whatever can't be put on paper is found before it is noted
            papers.of(paper, number, 0, context.date());
            var before = Math.toIntExact(queries.printed(paper.name(), number));
            var row = new PrintingEntity();
            row.runId = run.id;
            row.paper = paper.name();
            row.documentNumber = number;
            row.copyNo = before;
            queries.session().insert(row);
        }
        return run.id;
    }

    List<Sheet> sheets(long run) {
        var sheets = queries.sheets(run).stream()
                .map(row -> new Sheet(Paper.valueOf(row.paper()), row.documentNumber(), row.copyNo()))
                .toList();
        if (sheets.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("print", String.valueOf(run)));
        }
        return sheets;
    }

    /** The file of all that was put on paper together, for somebody to read. */
    @Transactional(readOnly = true)
    public byte[] file(long run, Person reader) {
        var on = queries.printedAt(run)
                .map(at -> LocalDate.ofInstant(at, company.zone()))
                .orElse(company.today());
        var sheets = sheets(run);
        sheets.forEach(sheet -> sheet.paper().requireReader(reader.role()));
        return file(sheets, on);
    }

    /** Documents as they would be on paper; nothing is noted. */
    @Transactional(readOnly = true)
    public byte[] look(CommandContext context, Paper paper, List<String> numbers) {
        paper.requireReader(context.person().role());
        return file(
                numbers.stream()
                        .map(number -> new Sheet(paper, number, Papers.FOR_INSPECTION))
                        .toList(),
                context.today());
    }

    private byte[] file(List<Sheet> sheets, LocalDate on) {
        var title = sheets.size() == 1
                ? sheets.get(0).paper().title() + " " + sheets.get(0).number()
                : sheets.get(0).paper().title() + ", " + sheets.size() + " documents";
        return pdf.of(
                title,
                sheets.stream()
                        .map(sheet -> papers.of(sheet.paper(), sheet.number(), sheet.copy(), on))
                        .toList());
    }

    /** Sends a document to its customer as an attached file. */
    @Transactional(propagation = Propagation.MANDATORY)
    public long mail(CommandContext context, Paper paper, String number, String to) {
        var customer = customerOf(paper, number);
        paper.requireReader(context.person().role());
        var address = to.isBlank() ? address(customer) : to;
        if (!to.isBlank() && !kept(customer).equalsIgnoreCase(to)) {
            toAnother(context, paper, number, address);
        }
        var sender = company.facts().name();
        var shown = paper == Paper.STATEMENT ? "of " + customer : number;
        return send(
                context,
                paper,
                number,
                address,
                "%s %s of %s".formatted(paper.title(), shown, sender),
                "Please find attached our %s.\n\n%s".formatted(paper.title().toLowerCase(Locale.ROOT), sender),
                customer);
    }

    private long send(
            CommandContext context,
            Paper paper,
            String number,
            String address,
            String subject,
            String body,
            String customer) {
        var run = print(context, paper, List.of(number));
        var kind = documentOf(paper).map(Enum::name).orElse("CUSTOMER");
        var about = kind.equals("CUSTOMER") ? customer : number;
        return outbox.send(
                context.person().username(),
                address,
                subject,
                body,
                kind,
                about,
                paper.name().toLowerCase(Locale.ROOT).replace('_', '-') + "-" + about + ".pdf",
                file(run, context.person()));
    }

    /** An address that the customer's record does not hold. */
    private void toAnother(CommandContext context, Paper paper, String number, String address) {
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "mail to an address that is not in the customer's record",
                    context.person().role(),
                    List.of(Role.CONTROLLER, Role.LEAD)));
        }
        documentOf(paper)
                .ifPresent(kind -> history.note(
                        context,
                        documentOrders.of(kind, number),
                        kind,
                        number,
                        "mailed",
                        "%s %s was mailed to %s".formatted(paper.title().toLowerCase(Locale.ROOT), number, address)));
    }

    /** What a paper is of; empty where it is of a customer. */
    private static Optional<DocumentKind> documentOf(Paper paper) {
        return switch (paper) {
            case ORDER_CONFIRMATION -> Optional.of(DocumentKind.ORDER);
            case PACKING_SLIP -> Optional.of(DocumentKind.DISPATCH);
            case INVOICE -> Optional.of(DocumentKind.INVOICE);
            case CREDIT_NOTE -> Optional.of(DocumentKind.CREDIT_NOTE);
            case RETURN_SLIP -> Optional.of(DocumentKind.RETURN);
            case STATEMENT, REMINDER -> Optional.empty();
        };
    }

    private String kept(String customer) {
        return queries.address(customer);
    }

    private String address(String customer) {
        var address = kept(customer);
        if (address.isBlank()) {
            throw new RefusedException(new NoAddress(customer));
        }
        return address;
    }

    /** Reminds a customer of goods that are expected back, with the slip for the parcel. */
    @Transactional(propagation = Propagation.MANDATORY)
    void remind(CommandContext context, Return goods) {
        var sender = company.facts().name();
        send(
                context,
                Paper.RETURN_SLIP,
                goods.number(),
                address(goods.customer()),
                "Return still expected: %s to %s".formatted(goods.number(), sender),
                "On %s we authorised a return, and we have not received all the goods yet. The return slip is attached.\n\n%s"
                        .formatted(Figures.day(goods.on()), sender),
                goods.customer());
    }

    private String customerOf(Paper paper, String number) {
        var name = number.split("\\|", -1)[0];
        var customer = switch (paper) {
            case ORDER_CONFIRMATION -> queries.customerOfOrder(name);
            case PACKING_SLIP -> queries.customerOfDispatch(name);
            case INVOICE -> queries.customerOfInvoice(name);
            case RETURN_SLIP -> queries.customerOfReturn(name);
            case CREDIT_NOTE -> queries.customerOfCreditNote(name);
            case REMINDER ->
                name.matches("\\d{1,18}") ? queries.customerReminded(Long.parseLong(name)) : Optional.<String>empty();
            case STATEMENT -> queries.customer(name);
        };
        return customer.orElseThrow(() -> new RefusedException(
                new CommonRefusal.NotFound(paper.title().toLowerCase(Locale.ROOT) + " of", number)));
    }

    /** A customer that is to be reminded, as one of many. */
    record AskedReminder(String customer) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.REMINDERS;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var customer = Records.read(request, AskedReminder.class).customer();
        var written = reminders.write(context, customer);
        var address = address(customer);
        var reminder = written.reminder();
        var message = send(
                context,
                Paper.REMINDER,
                String.valueOf(written.id()),
                address,
                Papers.titleOf(reminder.step()) + ": " + Papers.sum(reminder.open()) + " open",
                Papers.words(reminder.step()),
                customer);
        reminders.sent(written.id(), message);
        return new Done(
                (DocumentRef) null,
                "%s over %s, %s"
                        .formatted(
                                Papers.titleOf(reminder.step()),
                                reminder.open(),
                                reminder.invoices().size() == 1
                                        ? "one invoice"
                                        : reminder.invoices().size() + " invoices"));
    }
}
