package app.euthyna.server.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Crediting.Share;
import app.euthyna.core.returns.ReturnActions;
import app.euthyna.core.returns.Returning.Came;
import app.euthyna.core.returns.Returning.InspectionLine;
import app.euthyna.core.returns.Returning.OfDispatch;
import app.euthyna.core.returns.Returning.OfInvoice;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Quantities;
import app.euthyna.server.platform.Right;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Returns over HTTP: allowed, received, inspected, withdrawn. */
@RestController
@RequestMapping("/api/returns")
class ReturnsController {

    private final ReturnsService returns;
    private final Commands commands;
    private final CompanyRulesStore rules;
    private final DocumentChains documents;
    private final ReturnQueries queries;

    ReturnsController(
            ReturnsService returns,
            Commands commands,
            CompanyRulesStore rules,
            DocumentChains documents,
            ReturnQueries queries) {
        this.documents = documents;
        this.returns = returns;
        this.commands = commands;
        this.rules = rules;
        this.queries = queries;
    }

    /** Goods of a line of a dispatch or an invoice; one of the two is named. */
    record ReturnedShare(
            String dispatch,
            String invoice,
            int line,
            @NotNull BigDecimal quantity) {}

    /** Goods to be sent back; the exception says why they may come although it is too late. */
    record Authorisation(
            @NotEmpty @Size(max = 500) List<@Valid ReturnedShare> lines,
            @NotBlank @Size(max = 60) String reason,
            @Size(max = 2000) String remark,
            @Size(max = 2000) String exception) {}

    record ArrivedLine(int line, @NotNull BigDecimal quantity) {}

    /** What came; all that is expected without lines. */
    record Arrived(
            @Size(max = 500) List<@Valid ArrivedLine> lines,
            Long version,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * What becomes of a line's goods.
     *
     * @param site where they are restocked; where they left from, unless given
     */
    record InspectedLine(
            int line,
            BigDecimal restock,
            BigDecimal scrap,
            BigDecimal sendBack,
            String site,
            @Size(max = 2000) String remark) {}

    record Inspected(
            @NotEmpty @Size(max = 500) List<@Valid InspectedLine> lines,
            Long version,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record Withdrawal(@NotNull @Size(max = 2000) String reason, Long version) {}

    /**
     * A line of a return.
     *
     * @param awaited what may still come
     * @param creditable billed, here and not credited
     * @param creditedAhead credited and not here
     * @param creditableAhead may still come and is not credited
     */
    record ReturnLineView(
            int no,
            String order,
            int orderLine,
            String dispatch,
            int dispatchLine,
            @Nullable String invoice,
            @Nullable Integer invoiceLine,
            String item,
            String description,
            String site,
            BigDecimal authorised,
            BigDecimal received,
            BigDecimal inInspection,
            BigDecimal awaited,
            BigDecimal creditable,
            BigDecimal creditedAhead,
            BigDecimal creditableAhead,
            BigDecimal restocked,
            BigDecimal scrapped,
            BigDecimal sentBack,
            List<OutcomeView> outcomes) {}

    /** What became of goods. */
    record OutcomeView(Return.Outcome.Kind kind, BigDecimal quantity, String site, String remark, LocalDate on) {}

    /** What happened to a return. */
    record StoryLine(LocalDate on, String by, String event, String sentence) {}

    /**
     * Something that a return is there for.
     *
     * @param refused why whoever asks can't do it; null where they can
     */
    record ReturnActionView(
            ReturnActions.Action action, @Nullable String refused) {}

    private static ReturnActionView view(Offered<ReturnActions.Action> offered, Person person) {
        var refused = switch (offered.action()) {
            case RECEIVE -> Right.MOVE_GOODS.refused(person, "receive goods", offered);
            case INSPECT -> Right.MOVE_GOODS.refused(person, "inspect goods", offered);
            case CREDIT, CREDIT_AHEAD -> Right.BILL.refused(person, "credit goods", offered);
            case WITHDRAW -> Right.PROPOSE.refused(person, "withdraw a return", offered);
        };
        return new ReturnActionView(offered.action(), refused);
    }

    /**
     * A return.
     *
     * @param ahead whether the company credits goods before they are here for this reason
     * @param replacements orders that were started from it
     */
    record ReturnView(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            String reason,
            String reasonWords,
            String remark,
            boolean withdrawn,
            boolean expects,
            boolean inspecting,
            boolean ahead,
            long version,
            List<ReturnLineView> lines,
            List<String> credits,
            List<String> replacements,
            List<ReturnActionView> actions,
            int reminders,
            @Nullable LocalDate remindedOn,
            List<StoryLine> story) {}

    @Permissions.Propose
    @PostMapping
    ReturnView authorise(@Valid @RequestBody Authorisation request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            var dispatched = request.lines().stream()
                    .filter(l -> l.dispatch() != null)
                    .map(l -> new OfDispatch(
                            new LineRef(l.dispatch(), l.line()), Quantities.given("quantity", l.quantity())))
                    .toList();
            var invoiced = request.lines().stream()
                    .filter(l -> l.dispatch() == null && l.invoice() != null)
                    .map(l -> new OfInvoice(
                            new LineRef(l.invoice(), l.line()), Quantities.given("quantity", l.quantity())))
                    .toList();
            return view(
                    returns.authorise(
                            context.because(Texts.given(request.remark())),
                            dispatched,
                            invoiced,
                            request.reason(),
                            Texts.given(request.exception())),
                    context.person());
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/{number}/receipts")
    ReturnView receive(@PathVariable String number, @Valid @RequestBody Arrived request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            returns.receive(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    request.lines() == null
                            ? List.of()
                            : request.lines().stream()
                                    .map(l -> new Came(l.line(), Quantities.given("quantity", l.quantity())))
                                    .toList());
            return view(number, context.person());
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/{number}/inspections")
    ReturnView inspect(@PathVariable String number, @Valid @RequestBody Inspected request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            var results = new ArrayList<InspectionLine>();
            request.lines().forEach(line -> {
                add(results, line, Return.Outcome.Kind.RESTOCK, line.restock());
                add(results, line, Return.Outcome.Kind.SCRAP, line.scrap());
                add(results, line, Return.Outcome.Kind.SEND_BACK, line.sendBack());
            });
            returns.inspect(context.given(request.date(), request.reason()), number, request.version(), results);
            return view(number, context.person());
        });
    }

    private static void add(
            List<InspectionLine> results, InspectedLine line, Return.Outcome.Kind kind, BigDecimal quantity) {
        if (quantity != null && quantity.signum() != 0) {
            results.add(new InspectionLine(
                    line.line(),
                    kind,
                    Quantities.given("quantity", quantity),
                    line.site(),
                    Texts.given(line.remark())));
        }
    }

    @Permissions.Propose
    @PostMapping("/{number}/withdrawals")
    ReturnView withdraw(@PathVariable String number, @Valid @RequestBody Withdrawal request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            returns.withdraw(context.because(request.reason()), number, request.version());
            return view(number, context.person());
        });
    }

    record ReturnNote(@NotBlank @Size(max = 2000) String text) {}

    /** Keeps a note with a return. */
    @Permissions.Propose
    @PostMapping("/{number}/notes")
    ReturnView note(@PathVariable String number, @Valid @RequestBody ReturnNote request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            returns.note(context, number, request.text().strip());
            return view(number, context.person());
        });
    }

    @GetMapping("/{number}")
    ReturnView view(@PathVariable String number) {
        return view(number, commands.context().person());
    }

    private ReturnView view(String number, Person person) {
        var found = documents.of(DocumentKind.RETURN, number);
        var goods = Chain.returnOf(found, number);
        var due = Crediting.due(goods, found);
        var credits = Chain.credits(found);
        var lines = goods.lines().stream()
                .map(line -> line(goods, line, found, due, credits))
                .toList();
        var own = credits.stream()
                .filter(c -> c.isFor(number))
                .map(CreditNote::number)
                .toList();
        var story = queries.story(number).stream()
                .map(row -> new StoryLine(row.happenedOn(), row.byUser(), row.event(), row.sentence()))
                .distinct()
                .toList();
        var replacements = queries.replacements(number);
        var reason = rules.inForce().returns().reason(goods.reason());
        var row = queries.header(number);
        return new ReturnView(
                number,
                row.customer(),
                row.customerName(),
                goods.on(),
                goods.reason(),
                reason.words(),
                row.remark(),
                goods.withdrawn(),
                row.expects(),
                row.inspecting(),
                reason.ahead(),
                row.version(),
                lines,
                own,
                replacements,
                ReturnActions.of(goods, found, rules.inForce().returns()).stream()
                        .map(offered -> view(offered, person))
                        .toList(),
                row.reminders(),
                row.remindedOn(),
                story);
    }

    private static ReturnLineView line(
            Return goods,
            Return.Line line,
            Collection<Chain> found,
            Map<String, List<Share>> due,
            List<CreditNote> credits) {
        return new ReturnLineView(
                line.no(),
                line.orderLine().number(),
                line.orderLine().line(),
                line.dispatchLine().number(),
                line.dispatchLine().line(),
                line.invoiceLine().map(LineRef::number).orElse(null),
                line.invoiceLine().map(LineRef::line).orElse(null),
                line.item(),
                Chain.ofOrder(found, line.orderLine().number())
                        .order()
                        .line(line.orderLine().line())
                        .description(),
                line.site(),
                line.authorised().value(),
                line.received().value(),
                line.inInspection().value(),
                goods.expected(line).value(),
                creditable(goods, line, due),
                Crediting.ahead(goods, line, credits).value(),
                ReturnActions.creditableAhead(goods, line, credits).value(),
                outcome(line, Return.Outcome.Kind.RESTOCK),
                outcome(line, Return.Outcome.Kind.SCRAP),
                outcome(line, Return.Outcome.Kind.SEND_BACK),
                line.parts().stream()
                        .flatMap(part -> part.outcomes().stream())
                        .map(o -> new OutcomeView(o.kind(), o.quantity().value(), o.site(), o.remark(), o.on()))
                        .toList());
    }

    private static BigDecimal creditable(Return goods, Return.Line line, Map<String, List<Share>> due) {
        var ref = new LineRef(goods.number(), line.no());
        return Quantity.sum(due.values().stream()
                        .flatMap(List::stream)
                        .filter(share -> share.returnLine().filter(ref::equals).isPresent())
                        .map(Share::quantity)
                        .toList())
                .value();
    }

    private static BigDecimal outcome(Return.Line line, Return.Outcome.Kind kind) {
        return Quantity.sum(line.parts().stream()
                        .flatMap(p -> p.outcomes().stream())
                        .filter(o -> o.kind() == kind)
                        .map(Return.Outcome::quantity)
                        .toList())
                .value();
    }
}
