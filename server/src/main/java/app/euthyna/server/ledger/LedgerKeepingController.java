package app.euthyna.server.ledger;

import app.euthyna.core.flow.Effect.ManualLine;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Periods, manual entries, accounts and the posting map over HTTP. */
@RestController
@RequestMapping("/api/ledger")
class LedgerKeepingController {

    private final LedgerKeeping keeping;
    private final LedgerController ledger;
    private final Accounts accounts;
    private final Commands commands;
    private final Company company;
    private final LedgerQueries queries;

    LedgerKeepingController(
            LedgerKeeping keeping,
            LedgerController ledger,
            Accounts accounts,
            Commands commands,
            Company company,
            LedgerQueries queries) {
        this.keeping = keeping;
        this.ledger = ledger;
        this.accounts = accounts;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
    }

    record Closing(
            @NotNull LocalDate through, @Size(max = 2000) String remark) {}

    record Reopening(@Size(max = 2000) String reason) {}

    /** A closing, and its reopening where it was opened again. */
    record ClosingView(
            LocalDate through,
            Instant closedAt,
            String closedBy,
            String remark,
            @Nullable Instant reopenedAt,
            @Nullable String reopenedBy,
            @Nullable String reason) {}

    /**
     * Through which day the books are closed (null where they are open), and how it came to that.
     *
     * @param next the last day of the period that is closed next
     */
    record PeriodsView(@Nullable LocalDate closedThrough, LocalDate next, List<ClosingView> closings) {}

    @GetMapping("/periods")
    PeriodsView periods() {
        return new PeriodsView(
                accounts.closedThrough().orElse(null),
                Periods.next(commands.today(), accounts.closedThrough()),
                queries.periods().stream()
                        .map(row -> new ClosingView(
                                row.through(),
                                row.closedAt(),
                                row.closedBy(),
                                row.remark(),
                                row.reopenedAt(),
                                row.reopenedBy(),
                                row.reopening()))
                        .toList());
    }

    @Permissions.KeepBooks
    @PostMapping("/periods/closings")
    PeriodsView close(@Valid @RequestBody Closing request, HttpServletRequest http) {
        return commands.run(http, request, PeriodsView.class, context -> {
            keeping.close(context.because(Texts.given(request.remark())), request.through());
            return periods();
        });
    }

    @Permissions.KeepBooks
    @PostMapping("/periods/reopenings")
    PeriodsView reopen(@Valid @RequestBody Reopening request, HttpServletRequest http) {
        return commands.run(http, request, PeriodsView.class, context -> {
            keeping.reopen(context.because(Texts.given(request.reason())));
            return periods();
        });
    }

    /** One side of a manual entry; either a debit or a credit. */
    record WrittenSide(@NotBlank @Size(max = 20) String account, BigDecimal debit, BigDecimal credit) {}

    record ManualEntry(
            @NotEmpty @Size(max = 200) List<@Valid WrittenSide> lines,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    @Permissions.KeepBooks
    @PostMapping("/manual-entries")
    LedgerController.EntryView post(@Valid @RequestBody ManualEntry request, HttpServletRequest http) {
        return commands.run(http, request, LedgerController.EntryView.class, context -> {
            var lines = request.lines().stream()
                    .map(side -> new ManualLine(
                            side.account(),
                            company.given("debit", or(side.debit())).minus(company.given("credit", or(side.credit())))))
                    .toList();
            var number = keeping.post(context.given(request.date(), request.reason()), lines);
            return ledger.entries(number, null, null, null, null).rows().get(0);
        });
    }

    private static BigDecimal or(BigDecimal given) {
        return given == null ? BigDecimal.ZERO : given;
    }

    /**
     * An account.
     *
     * @param roles that the posting map gives it
     * @param control documents account for it, so nothing is posted there manually
     */
    record LedgerAccountView(String code, String name, List<String> roles, boolean control) {}

    record NewAccount(
            @NotBlank @Size(max = 20) @Pattern(regexp = "[A-Za-z0-9-]+")
            String code,

            @NotBlank @Size(max = 120) String name) {}

    @GetMapping("/accounts")
    List<LedgerAccountView> accounts() {
        var roles = accounts.roles();
        return queries.accounts().stream()
                .map(row -> new LedgerAccountView(
                        row.code(),
                        row.name(),
                        roles.get(row.code()).stream().map(AccountRole::code).toList(),
                        roles.get(row.code()).stream().anyMatch(AccountRole::isControl)))
                .toList();
    }

    @Permissions.KeepBooks
    @PostMapping("/accounts")
    NewAccount add(@Valid @RequestBody NewAccount request, HttpServletRequest http) {
        return commands.run(http, request, NewAccount.class, context -> {
            keeping.addAccount(context, request.code(), request.name().strip());
            return request;
        });
    }

    /** A row of the posting map; an empty key fits everything, and no account takes the row out. */
    record WrittenRow(
            @NotBlank String role,
            @Size(max = 40) String customerClass,
            @Size(max = 40) String itemClass,
            @Size(max = 40) String site,

            @Size(max = 20) @Pattern(regexp = "|[A-Z]{1,2} [0-9.]+", message = "a category and rate, such as S 21")
            String vat,

            @Size(max = 20) String account,
            @Size(max = 2000) String reason) {}

    /** A change of the posting map. */
    record MapChangeView(Instant at, String by, String sentence, String reason) {}

    @Permissions.KeepBooks
    @PutMapping("/posting-map")
    List<LedgerController.PostingRuleView> setRow(@Valid @RequestBody WrittenRow request, HttpServletRequest http) {
        return List.of(commands.run(http, request, LedgerController.PostingRuleView[].class, context -> {
            keeping.setRow(
                    context.because(Texts.given(request.reason())),
                    new PostingMap.Row(
                            role(request.role()),
                            Texts.given(request.customerClass()),
                            Texts.given(request.itemClass()),
                            Texts.given(request.site()),
                            Texts.given(request.vat()),
                            Texts.given(request.account())));
            return ledger.postingMap().toArray(LedgerController.PostingRuleView[]::new);
        }));
    }

    @GetMapping("/posting-map/changes")
    List<MapChangeView> changes() {
        return queries.changes().stream()
                .map(row -> new MapChangeView(row.changedAt(), row.changedBy(), row.sentence(), row.reason()))
                .toList();
    }

    private static AccountRole role(String code) {
        try {
            return Accounts.role(code);
        } catch (IllegalArgumentException none) {
            return AccountRole.OTHER;
        }
    }
}
