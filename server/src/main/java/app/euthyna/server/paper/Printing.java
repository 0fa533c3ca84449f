package app.euthyna.server.paper;

import app.euthyna.core.flow.Return;
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
import app.euthyna.server.paper.Papers.Paper;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts documents on paper, one file for a selection, and sends them; whatever was on paper before is marked as a copy.
 */
@Service
class Printing implements BatchWork {

    private final JdbcClient jdbc;
    private final Papers papers;
    private final Pdf pdf;
    private final Outbox outbox;
    private final InvoiceReminders reminders;
    private final Company company;
    private final Clock clock;
    private final History history;
    private final DocumentOrders documentOrders;

    Printing(
            JdbcClient jdbc,
            Papers papers,
            Pdf pdf,
            Outbox outbox,
            InvoiceReminders reminders,
            Company company,
            Clock clock,
            History history,
            DocumentOrders documentOrders) {
        this.history = history;
        this.documentOrders = documentOrders;
        this.jdbc = jdbc;
        this.papers = papers;
        this.pdf = pdf;
        this.outbox = outbox;
        this.reminders = reminders;
        this.company = company;
        this.clock = clock;
    }

    /** Nobody knows where to send it. */
    record NoAddress(String customer) implements Refusal {
        @Override
        public String code() {
            return "incomplete";
        }

        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }

        @Override
        public String sentence() {
            return "Customer %s has no mail address.".formatted(customer);
        }

        @Override
        public String instead() {
            return "Give an address, or print it.";
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
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into print_run (paper, printed_at, printed_by) values (?, ?, ?)")
                .params(
                        paper.name(),
                        Timestamp.from(clock.instant()),
                        context.person().username())
                .update(key, "id");
        var run = key.getKeyAs(Long.class);
        for (var number : numbers) {
            // whatever can't be put on paper is found before it is noted
            papers.of(paper, number, 0, context.date());
            var before = jdbc.sql("select count(*) from printing where paper = ? and document_number = ?")
                    .params(paper.name(), number)
                    .query(Integer.class)
                    .single();
            jdbc.sql("insert into printing (run_id, paper, document_number, copy_no) values (?, ?, ?, ?)")
                    .params(run, paper.name(), number, before)
                    .update();
        }
        return run;
    }

    List<Sheet> sheets(long run) {
        var sheets = jdbc.sql("select paper, document_number, copy_no from printing where run_id = ? order by id")
                .param(run)
                .query((r, n) -> new Sheet(Paper.valueOf(r.getString(1)), r.getString(2), r.getInt(3)))
                .list();
        if (sheets.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("print", String.valueOf(run)));
        }
        return sheets;
    }

    /** The file of all that was put on paper together, for somebody to read. */
    @Transactional(readOnly = true)
    public byte[] file(long run, Person reader) {
        var on = jdbc.sql("select printed_at from print_run where id = ?")
                .param(run)
                .query(Timestamp.class)
                .optional()
                .map(at -> LocalDate.ofInstant(at.toInstant(), clock.getZone()))
                .orElse(LocalDate.now(clock));
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
        return jdbc.sql("select email from customer where code = ?")
                .param(customer)
                .query(String.class)
                .single();
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
        var sql = switch (paper) {
            case ORDER_CONFIRMATION ->
                "select c.code from sales_order o join customer c on c.id = o.customer_id where o.number = ?";
            case PACKING_SLIP ->
                "select c.code from dispatch d join sales_order o on o.id = d.order_id join customer c on c.id ="
                        + " o.customer_id where d.number = ?";
            case INVOICE -> "select c.code from invoice i join customer c on c.id = i.customer_id where i.number = ?";
            case RETURN_SLIP ->
                "select c.code from goods_return g join customer c on c.id = g.customer_id where g.number = ?";
            case CREDIT_NOTE ->
                "select c.code from credit_note k join customer c on c.id = k.customer_id where k.number = ?";
            case REMINDER ->
                "select c.code from reminder m join customer c on c.id = m.customer_id where cast(m.id as varchar(20))"
                        + " = ?";
            case STATEMENT -> "select code from customer where code = ?";
        };
        return jdbc.sql(sql)
                .param(number.split("\\|", -1)[0])
                .query(String.class)
                .optional()
                .orElseThrow(() -> new RefusedException(
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
        jdbc.sql("update reminder set message_id = ? where id = ?")
                .params(message, written.id())
                .update();
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
