package app.euthyna.server.paper;

import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.outbox.Outbox;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Papers that are mailed to customers, as attached files. */
@Service
public class Mailing {

    private final Printing printing;
    private final PaperQueries queries;
    private final Outbox outbox;
    private final History history;
    private final DocumentOrders documentOrders;
    private final Company company;

    Mailing(
            Printing printing,
            PaperQueries queries,
            Outbox outbox,
            History history,
            DocumentOrders documentOrders,
            Company company) {
        this.printing = printing;
        this.queries = queries;
        this.outbox = outbox;
        this.history = history;
        this.documentOrders = documentOrders;
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

    /** Prints it and sends it; answers the number of the message. */
    long send(
            CommandContext context,
            Paper paper,
            String number,
            String address,
            String subject,
            String body,
            String customer) {
        var run = printing.print(context, paper, List.of(number));
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
                printing.file(run, context.person()));
    }

    /** An address that the customer's record does not hold. */
    private void toAnother(CommandContext context, Paper paper, String number, String address) {
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "mail to an address that is not in the customer's record",
                    context.person().role(),
                    Person.DECIDING));
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

    /** Where the customer has papers sent. */
    String address(String customer) {
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
}
