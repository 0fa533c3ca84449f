package app.euthyna.server.returns;

import app.euthyna.core.returns.InvoiceActions;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Person;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Right;
import jakarta.annotation.Nullable;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What can be done with an invoice, over HTTP. */
@RestController
@RequestMapping("/api/invoices/{number}/actions")
class InvoiceActionsController {

    private final CreditService credits;
    private final Commands commands;

    InvoiceActionsController(CreditService credits, Commands commands) {
        this.credits = credits;
        this.commands = commands;
    }

    /**
     * Something that an invoice is there for.
     *
     * @param refused why whoever asks can't do it; null where they can
     */
    record InvoiceActionView(
            InvoiceActions.Action action, @Nullable String refused) {}

    /** What the invoice is there for as it stands. */
    record OfferedOfInvoice(List<InvoiceActionView> actions) {}

    @GetMapping
    OfferedOfInvoice actions(@PathVariable String number) {
        var person = commands.context().person();
        return new OfferedOfInvoice(credits.actions(number).stream()
                .map(offered -> view(offered, person))
                .toList());
    }

    private static InvoiceActionView view(Offered<InvoiceActions.Action> offered, Person person) {
        var deed = switch (offered.action()) {
            case CREDIT -> "credit an invoice";
            case CREDIT_AND_REBILL -> "credit and rebill";
            case PAY -> "record payments";
            case DISPUTE -> "mark invoices as disputed";
            case WRITE_OFF -> "write off invoices";
        };
        return new InvoiceActionView(offered.action(), Right.BILL.refused(person, deed, offered));
    }
}
