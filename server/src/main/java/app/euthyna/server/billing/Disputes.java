package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Marks invoices that customers do not agree with, and settles that (section 16). */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class Disputes {

    private final DocumentChains documents;
    private final DisputeQueries queries;
    private final DisputeEnds ends;
    private final History history;
    private final EffectWriter writer;
    private final Parties parties;

    Disputes(
            DocumentChains documents,
            DisputeQueries queries,
            DisputeEnds ends,
            History history,
            EffectWriter writer,
            Parties parties) {
        this.documents = documents;
        this.queries = queries;
        this.ends = ends;
        this.history = history;
        this.writer = writer;
        this.parties = parties;
    }

    /** Who there is to look into something, and the company's own day and money. */
    @Component
    record Parties(People people, Company company) {

        /** Somebody who can sign in. */
        private String owner(String username) {
            return people.all().stream()
                    .map(People.Colleague::username)
                    .filter(username::equals)
                    .findFirst()
                    .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("user", username)));
        }
    }

    /**
     * Marks an invoice, or a part of it, as disputed.
     *
     * @param owner whoever marks it where it is empty
     * @return its id
     */
    public long open(
            CommandContext context,
            String number,
            long version,
            Optional<Money> amount,
            String owner,
            LocalDate lookOn) {
        var customer = locked(number);
        var invoice = queries.invoice(number);
        Payments.requireVersion("Invoice", number, version, invoice.version);
        var asked = RefusedException.orThrow(Disputing.open(
                new Disputing.Dispute(
                        number,
                        amount,
                        context.reason(),
                        owner.isEmpty() ? context.person().username() : parties.owner(owner),
                        lookOn),
                parties.company().money(invoice.openAmount),
                invoice.disputed,
                context.today()));
        var row = new DisputeEntity();
        row.invoiceId = invoice.id;
        row.amount = asked.amount().map(Money::amount).orElse(null);
        row.reason = asked.reason();
        row.owner = asked.owner();
        row.lookOn = asked.lookOn();
        row.openedOn = context.today();
        row.openedBy = context.person().username();
        queries.session().insert(row);
        invoice.disputed = true;
        queries.session().update(invoice);
        note(
                context,
                number,
                "disputed",
                "%s disputed: %s".formatted(asked.amount().map(Money::toString).orElse("all"), asked.reason()));
        writer.write(context, List.of(new Effect.CustomerChanged(customer)));
        return row.id;
    }

    /** Gives it to somebody else, or looks at it again on another day. */
    public void change(CommandContext context, long id, long version, String owner, LocalDate lookOn) {
        var dispute = dispute(id, version);
        var number = queries.invoice(dispute.invoiceId).number;
        locked(number);
        Disputing.change(number, dispute.state, lookOn, context.today()).ifPresent(refusal -> {
            throw new RefusedException(refusal);
        });
        dispute.owner = parties.owner(owner);
        dispute.lookOn = lookOn;
        queries.session().update(dispute);
        note(
                context,
                number,
                "dispute-changed",
                "dispute with %s, looked at again on %s%s"
                        .formatted(dispute.owner, lookOn, context.reason().isBlank() ? "" : ": " + context.reason()));
    }

    /** Settles it by hand: the invoice is dunned again. */
    public void end(CommandContext context, long id, long version) {
        var dispute = dispute(id, version);
        var customer = locked(queries.invoice(dispute.invoiceId).number);
        var invoice = queries.invoice(dispute.invoiceId);
        Disputing.end(invoice.number, dispute.state, context.reason()).ifPresent(refusal -> {
            throw new RefusedException(refusal);
        });
        ends.end(context, dispute, invoice, Disputing.State.WITHDRAWN, context.reason());
        writer.write(context, List.of(new Effect.CustomerChanged(customer)));
    }

    private DisputeEntity dispute(long id, long version) {
        var dispute = queries.dispute(id)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispute", String.valueOf(id))));
        Payments.requireVersion("Dispute", String.valueOf(id), version, dispute.version);
        return dispute;
    }

    /** Locks the orders of an invoice with their customer; answers its code. */
    private String locked(String invoice) {
        return documents.locked(DocumentKind.INVOICE, invoice).stream()
                .map(chain -> chain.order().customer())
                .findFirst()
                .orElseThrow();
    }

    private void note(CommandContext context, String invoice, String event, String sentence) {
        history.note(
                context,
                documents.orders(DocumentKind.INVOICE, invoice),
                DocumentKind.INVOICE,
                invoice,
                event,
                sentence);
    }
}
