package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Disputes over HTTP. */
@RestController
@RequestMapping("/api")
class DisputeController {

    private final Disputes disputes;
    private final DisputeQueries queries;
    private final Commands commands;
    private final Company company;

    DisputeController(Disputes disputes, DisputeQueries queries, Commands commands, Company company) {
        this.disputes = disputes;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    /**
     * What a customer does not agree with.
     *
     * @param version of the invoice that the user saw
     * @param amount of the invoice; all that is open where it is left out
     * @param owner whoever marks it where it is left out
     * @param lookOn when it is looked at again
     */
    record DisputeIn(
            @NotNull Long version,
            BigDecimal amount,
            @Size(max = 60) String owner,
            @NotNull LocalDate lookOn,
            @Size(max = 2000) String reason) {}

    record DisputeChange(
            @NotNull Long version,
            @NotBlank @Size(max = 60) String owner,
            @NotNull LocalDate lookOn,
            @Size(max = 2000) String reason) {}

    record DisputeEnd(
            @NotNull Long version, @Size(max = 2000) String reason) {}

    /**
     * A dispute.
     *
     * @param amount null for all that is open
     * @param disputed what of the open amount that is now
     * @param open of the invoice
     */
    record DisputeView(
            long id,
            String invoice,
            String customer,
            String customerName,
            @Nullable BigDecimal amount,
            BigDecimal disputed,
            BigDecimal open,
            LocalDate dueOn,
            String reason,
            String owner,
            LocalDate lookOn,
            LocalDate openedOn,
            String openedBy,
            Disputing.State state,
            @Nullable LocalDate endedOn,
            @Nullable String endedBy,
            @Nullable String endedWhy,
            long version) {}

    record DisputePage(List<DisputeView> rows, @Nullable String next) {}

    @Permissions.Bill
    @PostMapping("/invoices/{number}/disputes")
    DisputeView open(@PathVariable String number, @Valid @RequestBody DisputeIn request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                DisputeView.class,
                context -> dispute(disputes.open(
                        context.because(Texts.given(request.reason())),
                        number,
                        request.version(),
                        Optional.ofNullable(request.amount()).map(amount -> company.given("amount", amount)),
                        Texts.given(request.owner()),
                        request.lookOn())));
    }

    @Permissions.Bill
    @PutMapping("/disputes/{id}")
    DisputeView change(@PathVariable long id, @Valid @RequestBody DisputeChange request, HttpServletRequest http) {
        return commands.run(http, request, DisputeView.class, context -> {
            disputes.change(
                    context.because(Texts.given(request.reason())),
                    id,
                    request.version(),
                    request.owner(),
                    request.lookOn());
            return dispute(id);
        });
    }

    /** Settles a dispute by hand; it ends by itself where nothing of its invoice is open any more. */
    @Permissions.Bill
    @PostMapping("/disputes/{id}/endings")
    DisputeView end(@PathVariable long id, @Valid @RequestBody DisputeEnd request, HttpServletRequest http) {
        return commands.run(http, request, DisputeView.class, context -> {
            disputes.end(context.because(Texts.given(request.reason())), id, request.version());
            return dispute(id);
        });
    }

    @GetMapping("/disputes/{id}")
    DisputeView dispute(@PathVariable long id) {
        return queries.of(null, id).stream()
                .findFirst()
                .map(this::view)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispute", String.valueOf(id))));
    }

    /** All disputes of an invoice, newest first. */
    @GetMapping("/invoices/{number}/disputes")
    List<DisputeView> ofInvoice(@PathVariable String number) {
        return queries.of(number, null).stream().map(this::view).toList();
    }

    /**
     * Open disputes, those to look at longest first.
     *
     * @param toLookAt only those whose day has come
     */
    @GetMapping("/disputes")
    DisputePage disputes(
            @RequestParam(required = false) String owner,
            @RequestParam(defaultValue = "false") boolean toLookAt,
            @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var page = Pages.of(
                queries.open(
                        owner,
                        toLookAt ? company.today() : null,
                        key == null ? null : LocalDate.ofEpochDay(key.number(0)),
                        key == null ? null : key.number(1)),
                row -> List.of(String.valueOf(row.lookOn().toEpochDay()), String.valueOf(row.id())));
        return new DisputePage(page.rows().stream().map(this::view).toList(), page.next());
    }

    private DisputeView view(DisputeQueries.DisputeRow row) {
        var open = company.money(row.open());
        var dispute = new Disputing.Dispute(
                row.invoice(),
                Optional.ofNullable(row.amount()).map(company::money),
                row.reason(),
                row.owner(),
                row.lookOn());
        return new DisputeView(
                row.id(),
                row.invoice(),
                row.customer(),
                row.customerName(),
                dispute.amount().map(amount -> amount.amount()).orElse(null),
                row.state() == Disputing.State.OPEN
                        ? dispute.of(open).amount()
                        : open.minus(open).amount(),
                open.amount(),
                row.dueOn(),
                row.reason(),
                row.owner(),
                row.lookOn(),
                row.openedOn(),
                row.openedBy(),
                row.state(),
                row.endedOn(),
                row.endedBy(),
                row.endedWhy(),
                row.version());
    }
}
