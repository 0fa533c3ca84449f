package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Write-offs over HTTP. They are taken back like every other document: by a plan. */
@RestController
@RequestMapping("/api")
class WriteOffController {

    private final WriteOffs writeOffs;
    private final ReductionQueries queries;
    private final Commands commands;
    private final Batches batches;
    private final Company company;

    WriteOffController(
            WriteOffs writeOffs, ReductionQueries queries, Commands commands, Batches batches, Company company) {
        this.batches = batches;
        this.writeOffs = writeOffs;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    /** Why an invoice is written off. */
    enum Kind {
        SMALL_DIFFERENCE,
        BAD_DEBT;

        private Reduction.Kind core() {
            return this == BAD_DEBT ? Reduction.Kind.BAD_DEBT : Reduction.Kind.SMALL_DIFFERENCE;
        }
    }

    /** @param version of the invoice that the user saw */
    record WriteOffIn(
            @NotNull Long version,
            @NotNull Kind kind,
            @NotNull BigDecimal amount,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /**
     * A write-off.
     *
     * @param tax VAT that the company claims back with it
     * @param reversedOn when it was taken back
     */
    record WriteOffView(
            String number,
            Reduction.Kind kind,
            String customer,
            String customerName,
            String invoice,
            LocalDate on,
            BigDecimal amount,
            BigDecimal tax,
            String reason,
            @Nullable String by,
            @Nullable LocalDate reversedOn) {}

    record WriteOffPage(List<WriteOffView> rows, @Nullable String next) {}

    /** Writes a part of an invoice off, or all that is open of it. */
    @Permissions.Bill
    @PostMapping("/invoices/{number}/write-offs")
    WriteOffView write(@PathVariable String number, @Valid @RequestBody WriteOffIn request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                WriteOffView.class,
                context -> writeOff(writeOffs.write(
                        context.given(request.date(), request.reason()),
                        number,
                        request.version(),
                        request.kind().core(),
                        company.given("amount", request.amount()))));
    }

    record WriteOffTogether(
            @NotNull Kind kind, @NotEmpty @Size(max = 500) List<@NotBlank String> invoices) {}

    /**
     * What of an invoice would be written off.
     *
     * @param amount all that is open
     * @param why it can't be; null where it can
     */
    record ToWriteOff(
            String invoice,
            String customer,
            long version,
            BigDecimal amount,
            @Nullable String code,
            @Nullable String why) {}

    record ToWriteOffTogether(BigDecimal total, int possible, List<ToWriteOff> invoices) {}

    /** What writing off all that is open of these would come to, one after the other. A question: it keeps nothing. */
    @Permissions.Bill
    @PostMapping("/batches/write-offs/previews")
    ToWriteOffTogether preview(@Valid @RequestBody WriteOffTogether request) {
        var looked = writeOffs.look(
                commands.context().because("no reason given yet"),
                request.invoices(),
                request.kind().core());
        var possible = looked.stream().filter(one -> one.refusal().isEmpty()).toList();
        return new ToWriteOffTogether(
                possible.stream()
                        .map(WriteOffs.Looked::amount)
                        .reduce(Money.zero(company.currency()), Money::plus)
                        .amount(),
                possible.size(),
                looked.stream()
                        .map(one -> new ToWriteOff(
                                one.invoice(),
                                one.customer(),
                                one.version(),
                                one.amount().amount(),
                                one.refusal().map(Refusal::code).orElse(null),
                                one.refusal().map(Refusal::sentence).orElse(null)))
                        .toList());
    }

    /** @param amount what was looked at: all that was open */
    record PlannedWriteOff(
            @NotBlank String invoice,
            @NotNull Long version,
            @NotNull BigDecimal amount) {}

    record WriteOffsIn(
            @NotNull Kind kind,
            @NotEmpty @Size(max = 500) List<@Valid PlannedWriteOff> invoices,
            @NotBlank @Size(max = 2000) String reason) {}

    /** Writes off each, in a transaction of its own; the batch is the log. */
    @Permissions.Bill
    @PostMapping("/batches/write-offs")
    Batches.BatchView together(@Valid @RequestBody WriteOffsIn request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                context -> context.because(request.reason()),
                Batches.Kind.WRITING_OFF,
                () -> request.invoices().stream()
                        .map(one -> new Batches.Asked(
                                DocumentKind.INVOICE,
                                one.invoice(),
                                new WriteOffWork.Asked(
                                        one.invoice(),
                                        one.version(),
                                        request.kind().core(),
                                        one.amount())))
                        .toList());
    }

    @GetMapping("/write-offs/{number}")
    WriteOffView writeOff(@PathVariable String number) {
        return queries.writeOffs(number, null, null, null, null, null).stream()
                .findFirst()
                .map(this::view)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("write-off", number)));
    }

    /** Write-offs, newest first; those taken back too. */
    @GetMapping("/write-offs")
    WriteOffPage writeOffs(
            @RequestParam(required = false) Kind kind,
            @RequestParam(required = false) String invoice,
            @RequestParam(required = false) LocalDate since,
            @RequestParam(required = false) LocalDate until,
            @RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.writeOffs(
                        null,
                        kind == null ? null : kind.core(),
                        invoice,
                        since,
                        until,
                        after == null ? null : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new WriteOffPage(page.rows().stream().map(this::view).toList(), page.next());
    }

    private WriteOffView view(ReductionQueries.WriteOffRow row) {
        return new WriteOffView(
                row.number(),
                row.kind(),
                row.customer(),
                row.customerName(),
                row.invoice(),
                row.reducedOn(),
                company.money(row.amount()).amount(),
                company.money(row.tax()).amount(),
                row.reason(),
                row.byUser(),
                row.reversedOn());
    }
}
