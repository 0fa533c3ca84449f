package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.Returnable;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What of a customer's goods may come back, line by line. */
@RestController
@RequestMapping("/api/returnable")
class ReturnableController {

    private static final int DISPATCHES = 25;

    private final ReturnQueries queries;
    private final ChainReader chains;
    private final CompanyRulesStore rules;
    private final Commands commands;

    ReturnableController(ReturnQueries queries, ChainReader chains, CompanyRulesStore rules, Commands commands) {
        this.queries = queries;
        this.chains = chains;
        this.rules = rules;
        this.commands = commands;
    }

    /** An invoice line that billed some of the goods. */
    record BilledWith(String invoice, int line, BigDecimal quantity) {}

    /**
     * Goods of a dispatch line.
     *
     * @param returnable still out and not allowed back; of goods that an invoice billed where one was asked for
     * @param daysLate past the company's limit; zero where they are in time
     */
    record ReturnableLine(
            String dispatch,
            int line,
            LocalDate left,
            long daysLate,
            String order,
            @Nullable @ReadBy(ReadBy.Group.SELLING) String po,
            int orderLine,
            String item,
            String description,
            BigDecimal dispatched,
            BigDecimal returnable,
            List<BilledWith> billed) {}

    /** The customer whose goods they are, with lines of their newest dispatches first. */
    record ReturnablePage(
            String customer,
            String customerName,
            @Nullable Integer days,
            List<ReturnableLine> rows,
            @Nullable String next) {}

    /** Goods that left for a customer, or on one document, and may come back. */
    @GetMapping
    ReturnablePage returnable(
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String order,
            @RequestParam(required = false) String dispatch,
            @RequestParam(required = false) String invoice,
            @RequestParam(defaultValue = "") String item,
            @RequestParam(required = false) String after) {
        var who = who(customer, order, dispatch, invoice);
        var like = item.isBlank()
                ? null
                : "%" + item.strip().toLowerCase(Locale.ROOT).replace("%", "").replace("_", "") + "%";
        var notes = queries.departed(
                who.id(),
                order,
                dispatch,
                invoice,
                like,
                after == null ? null : Pages.key(after).number(0),
                DISPATCHES + 1);
        var page = Pages.of(notes, DISPATCHES, note -> List.of(String.valueOf(note.id())));
        var found = chains.chains(page.rows().stream()
                .map(ReturnQueries.NoteRow::order)
                .distinct()
                .toList());
        var policy = rules.inForce().returns();
        var today = commands.context().date();
        var rows = page.rows().stream()
                .flatMap(note ->
                        lines(found.get(note.order()), note.number(), item, Optional.ofNullable(invoice), policy, today)
                                .stream())
                .toList();
        return new ReturnablePage(
                who.customer(), who.customerName(), policy.days().orElse(null), rows, page.next());
    }

    private ReturnQueries.OwnerRow who(String customer, String order, String dispatch, String invoice) {
        if (order != null) {
            return found("order", order, queries.ownerOfOrder(order));
        }
        if (dispatch != null) {
            return found("dispatch", dispatch, queries.ownerOfDispatch(dispatch));
        }
        if (invoice != null) {
            return found("invoice", invoice, queries.ownerOfInvoice(invoice));
        }
        var code = Texts.given(customer);
        return found("customer", code, queries.owner(code));
    }

    private static ReturnQueries.OwnerRow found(String what, String number, Optional<ReturnQueries.OwnerRow> owner) {
        return owner.orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(what, number)));
    }

    private static List<ReturnableLine> lines(
            Chain chain, String number, String item, Optional<String> invoice, ReturnPolicy policy, LocalDate today) {
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var returnable = new Returnable(chain);
        var wanted = item.strip().toLowerCase(Locale.ROOT);
        return dispatch.lines().stream()
                .filter(line -> (line.item() + " "
                                + chain.order().line(line.orderLine()).description())
                        .toLowerCase(Locale.ROOT)
                        .contains(wanted))
                .map(line -> line(chain, dispatch, line, returnable, invoice, policy, today))
                .filter(line -> line.returnable().signum() > 0)
                .toList();
    }

    private static ReturnableLine line(
            Chain chain,
            Dispatch dispatch,
            Dispatch.Line line,
            Returnable returnable,
            Optional<String> of,
            ReturnPolicy policy,
            LocalDate today) {
        var ref = new LineRef(dispatch.number(), line.no());
        var billed = chain.inForce()
                .filter(invoice -> of.isEmpty() || of.get().equals(invoice.number()))
                .flatMap(invoice -> invoice.lines().stream()
                        .filter(l -> Returnable.dispatchLines(l).contains(ref))
                        .map(l -> billed(invoice, l, ref)))
                .toList();
        var most = of.isEmpty()
                ? returnable.of(ref)
                : Quantity.sum(billed.stream()
                        .map(b -> returnable.of(new LineRef(b.invoice(), b.line()), ref))
                        .toList());
        return new ReturnableLine(
                dispatch.number(),
                line.no(),
                dispatch.date(),
                policy.daysLate(dispatch.date(), today),
                chain.order().number(),
                chain.order().po(),
                line.orderLine(),
                line.item(),
                chain.order().line(line.orderLine()).description(),
                line.quantity().value(),
                most.value(),
                billed);
    }

    private static BilledWith billed(Invoice invoice, Invoice.Line line, LineRef dispatchLine) {
        return new BilledWith(
                invoice.number(),
                line.no(),
                Quantity.sum(line.sources().stream()
                                .filter(s -> s.dispatchLine().equals(dispatchLine))
                                .map(Invoice.Source::quantity)
                                .toList())
                        .value());
    }
}
