package app.euthyna.server.bank;

import app.euthyna.core.billing.Matching;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Bank statements over HTTP. */
@RestController
@RequestMapping("/api")
class BankController {

    /** A month of a busy account; more is refused before it is read. */
    private static final long LARGEST = 20L * 1024 * 1024;

    private final BankStatements statements;
    private final Batches batches;
    private final Commands commands;
    private final Company company;
    private final BankQueries queries;

    BankController(
            BankStatements statements, Batches batches, Commands commands, Company company, BankQueries queries) {
        this.statements = statements;
        this.batches = batches;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
    }

    record ReadStatementView(long id, String statementId, String account, boolean readBefore, int entries, int open) {}

    /** A statement; of its days and balances what the bank told. */
    record BankStatementRow(
            long id,
            String statementId,
            String account,
            @Nullable LocalDate from,
            @Nullable LocalDate to,
            @Nullable BigDecimal opening,
            @Nullable BigDecimal closing,
            Instant readAt,
            String readBy,
            long entries,
            long open) {}

    record BankStatementPage(
            List<BankStatementRow> rows, @Nullable String next) {}

    /**
     * What of an entry, or of a credit note, settles an invoice.
     *
     * @param discount with the discount for paying early, which settles the rest
     * @param of the credit note; null where it is the money
     */
    record SettledShare(
            @NotBlank String invoice,
            @NotNull BigDecimal amount,
            boolean discount,
            @Nullable String of) {}

    /**
     * What of an entry is one customer's.
     *
     * @param writtenOff what of an invoice is written off as a small difference
     */
    record EntryPart(
            @NotBlank String customer,
            @NotNull @Size(max = 200) List<@Valid SettledShare> allocate,
            @Valid @Nullable WrittenOffShare writtenOff) {}

    record WrittenOffShare(
            @NotBlank String invoice, @NotNull BigDecimal amount) {}

    /** What an entry could settle, and what speaks for it. */
    record ProposalView(List<EntryPart> parts, Matching.Sureness sureness, String reason) {}

    record BankEntryView(
            long id,
            int no,
            String reference,
            LocalDate bookedOn,
            BigDecimal amount,
            String currency,
            String payer,
            String payerAccount,
            String creditorReference,
            String remittance,
            BankStatements.EntryState state,
            String why,
            List<String> payments,
            List<ProposalView> proposals) {}

    record BankEntryPage(List<BankEntryView> rows, @Nullable String next) {}

    /** Reads a camt.053 file. The same file, or the same statement in another file, does nothing twice. */
    @Permissions.Bill
    @PostMapping(path = "/bank-statements", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
    List<ReadStatementView> read(@RequestPart("file") MultipartFile file, HttpServletRequest http) throws IOException {
        if (file.getSize() > LARGEST) {
            throw new RefusedException(CommonRefusal.Incomplete.of("file", "at most 20 MB"));
        }
        var content = file.getBytes();
        var name = file.getOriginalFilename() == null ? "" : file.getOriginalFilename();
        return List.of(commands.run(
                http,
                Hashes.sha256(content),
                ReadStatementView[].class,
                context -> statements.take(context, name, content).stream()
                        .map(s -> new ReadStatementView(
                                s.id(), s.statementId(), s.account(), s.readBefore(), s.entries(), s.open()))
                        .toArray(ReadStatementView[]::new)));
    }

    /** Statements that were read, newest first. */
    @GetMapping("/bank-statements")
    BankStatementPage statements(@RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.statements(
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new BankStatementPage(
                page.rows().stream().map(BankController::row).toList(), page.next());
    }

    @GetMapping("/bank-statements/{id}")
    BankStatementRow statement(@PathVariable long id) {
        return queries.statement(id)
                .map(BankController::row)
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("bank statement", String.valueOf(id))));
    }

    private static BankStatementRow row(BankQueries.StatementRow s) {
        return new BankStatementRow(
                s.id(),
                s.statementId(),
                s.account(),
                s.from(),
                s.to(),
                s.opening(),
                s.closing(),
                s.readAt(),
                s.readBy(),
                s.entries(),
                s.open());
    }

    /** Entries of a statement in its own order, each with what it could settle. */
    @GetMapping("/bank-statements/{id}/entries")
    BankEntryPage entries(@PathVariable long id, @RequestParam(required = false) String after) {
        var found = statements.entries(
                id, after == null ? 0 : Math.toIntExact(Pages.key(after).number(0)));
        var page = Pages.of(found, entry -> List.of(String.valueOf(entry.no())));
        return new BankEntryPage(views(page.rows()), page.next());
    }

    private List<BankEntryView> views(List<BankStatements.Entry> entries) {
        var proposals = statements.proposals(entries);
        return entries.stream()
                .map(entry -> view(entry, proposals.getOrDefault(entry.id(), List.of())))
                .toList();
    }

    private BankEntryView view(BankStatements.Entry e, List<Matching.Proposal> proposals) {
        return new BankEntryView(
                e.id(),
                e.no(),
                e.reference(),
                e.bookedOn(),
                e.currency().equals(company.currency().getCurrencyCode())
                                && e.amount().stripTrailingZeros().scale()
                                        <= company.currency().getDefaultFractionDigits()
                        ? company.money(e.amount()).amount()
                        : e.amount(),
                e.currency(),
                e.payer(),
                e.payerAccount(),
                e.creditorReference(),
                e.remittance(),
                e.state(),
                e.why(),
                e.payments(),
                proposals.stream()
                        .map(p -> new ProposalView(
                                p.parts().stream().map(BankController::part).toList(), p.sureness(), p.reason()))
                        .toList());
    }

    private static EntryPart part(Matching.Part part) {
        var shares = new ArrayList<SettledShare>();
        part.settlements()
                .forEach(one -> shares.add(new SettledShare(
                        one.invoice(), one.amount().amount(), part.discounted().contains(one.invoice()), null)));
        part.credits()
                .forEach((credit, settled) -> settled.forEach(one ->
                        shares.add(new SettledShare(one.invoice(), one.amount().amount(), false, credit))));
        return new EntryPart(
                part.customer(),
                shares,
                part.writtenOff()
                        .map(cents -> new WrittenOffShare(
                                cents.invoice(), cents.amount().amount()))
                        .orElse(null));
    }

    private Matching.Part part(EntryPart given) {
        var money =
                given.allocate().stream().filter(share -> share.of() == null).toList();
        var credits = new LinkedHashMap<String, List<Settlement>>();
        given.allocate().stream()
                .filter(share -> share.of() != null)
                .forEach(share -> credits.computeIfAbsent(share.of(), of -> new ArrayList<>())
                        .add(settlement(share)));
        return new Matching.Part(
                given.customer(),
                money.stream().map(this::settlement).toList(),
                money.stream()
                        .filter(SettledShare::discount)
                        .map(SettledShare::invoice)
                        .collect(Collectors.toSet()),
                credits,
                Optional.ofNullable(given.writtenOff())
                        .map(cents ->
                                new Settlement(cents.invoice(), company.given("writtenOff.amount", cents.amount()))));
    }

    private Settlement settlement(SettledShare share) {
        return new Settlement(
                share.invoice(), company.given("allocate[" + share.invoice() + "].amount", share.amount()));
    }

    /** What an entry is to settle, customer by customer; what is more stays on account of the first. */
    record AcceptedEntry(
            @NotEmpty @Size(max = 50) List<@Valid EntryPart> parts,
            @Size(max = 2000) String reason) {}

    /** Makes a payment of an entry, dated as the bank booked it. */
    @Permissions.Bill
    @PostMapping("/bank-entries/{id}/payments")
    BankEntryView accept(@PathVariable long id, @Valid @RequestBody AcceptedEntry request, HttpServletRequest http) {
        return commands.run(http, request, BankEntryView.class, context -> {
            statements.settle(
                    context.because(Texts.given(request.reason())),
                    id,
                    request.parts().stream().map(this::part).toList());
            return views(List.of(statements.entry(id))).get(0);
        });
    }

    record SetAside(@Size(max = 900) String reason) {}

    @Permissions.Bill
    @PostMapping("/bank-entries/{id}/settings-aside")
    BankEntryView setAside(@PathVariable long id, @Valid @RequestBody SetAside request, HttpServletRequest http) {
        return commands.run(http, request, BankEntryView.class, context -> {
            statements.setAside(context.because(Texts.given(request.reason())), id);
            return views(List.of(statements.entry(id))).get(0);
        });
    }

    /** Settles all entries of a statement whose best proposal is certain; the answer is the log. */
    @Permissions.Bill
    @PostMapping("/bank-statements/{id}/payments")
    Batches.BatchView acceptCertain(@PathVariable long id, HttpServletRequest http) {
        statement(id);
        return batches.run(
                http,
                "certain matches of statement " + id,
                UnaryOperator.identity(),
                Batches.Kind.MATCHING,
                () -> statements.certain(id).stream()
                        .map(entry -> new Batches.Asked(
                                DocumentKind.PAYMENT,
                                "entry %d, %s".formatted(entry.no(), entry.payer()),
                                new BankStatements.CertainEntry(entry.id())))
                        .toList());
    }
}
