package app.euthyna.server.unwind;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.unwind.Intent;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
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
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * Many documents of a kind unwound at once: each is looked at, then each is carried out in a transaction of its own. No
 * choice is made: a document that needs one, or other steps by other people, is undone on its own.
 */
@RestController
@RequestMapping("/api/unwind/together")
class TogetherController {

    private static final String CANCEL_REST = "cancel-rest";

    private final UnwindService unwind;
    private final Commands commands;
    private final Batches batches;
    private final Company company;

    TogetherController(UnwindService unwind, Commands commands, Batches batches, Company company) {
        this.unwind = unwind;
        this.commands = commands;
        this.batches = batches;
        this.company = company;
    }

    /**
     * Documents that should be undone alike.
     *
     * @param intent cancel-rest of orders, or what takes back a document of the kind
     */
    record UndoTogether(
            @NotNull DocumentKind kind,
            @NotBlank String intent,
            @NotEmpty @Size(max = 1000) List<@NotBlank String> numbers) {}

    /**
     * What would become of a document.
     *
     * @param amount what the plan is about: net of a rest that is cancelled, gross of an invoice, an amount of money
     * @param why it can't be; null where it can
     */
    record LookedAt(
            String number,
            BigDecimal amount,
            List<String> steps,
            @Nullable String code,
            @Nullable String why,
            @Nullable String fingerprint) {}

    record LookedAtTogether(BigDecimal total, int possible, List<LookedAt> documents) {}

    record PlannedDocument(
            @NotBlank String number, @NotBlank String fingerprint) {}

    record CarryOutTogether(
            @NotNull DocumentKind kind,
            @NotBlank String intent,
            @NotEmpty @Size(max = 1000) List<@Valid PlannedDocument> documents,
            @NotBlank @Size(max = 60) String reasonCode,
            @NotBlank @Size(max = 2000) String reason) {}

    /** What undoing these would come to, one by one and together. A question: it keeps nothing. */
    @Permissions.Propose
    @PostMapping("/previews")
    LookedAtTogether preview(@Valid @RequestBody UndoTogether request) {
        requireAlike(request.intent());
        var context = commands.context().because("no reason given yet");
        var documents = request.numbers().stream()
                .distinct()
                .map(number -> lookedAt(context, AskedUnwind.of(request.kind(), number, request.intent())))
                .toList();
        var total = documents.stream()
                .map(one -> company.money(one.amount()))
                .reduce(Money.zero(company.currency()), Money::plus);
        return new LookedAtTogether(
                total.amount(),
                (int) documents.stream()
                        .filter(one -> one.fingerprint() != null)
                        .count(),
                documents);
    }

    private LookedAt lookedAt(CommandContext context, AskedUnwind asked) {
        UnwindService.Looked looked;
        try {
            looked = unwind.look(context, asked);
        } catch (RefusedException notThere) {
            return cannot(asked, notThere.refusals().get(0));
        }
        var planned = looked.planned();
        return planned.isRefused()
                ? cannot(asked, planned.refusals().get(0))
                : new LookedAt(
                        asked.number(),
                        planned.get().value().amount(),
                        planned.get().steps().stream()
                                .map(step -> step.kind().code())
                                .toList(),
                        null,
                        null,
                        looked.fingerprint());
    }

    private static LookedAt cannot(AskedUnwind asked, Refusal why) {
        return new LookedAt(asked.number(), BigDecimal.ZERO, List.of(), why.code(), why.sentence(), null);
    }

    /** Undoes each, in a transaction of its own; the batch is the log. */
    @Permissions.Propose
    @PostMapping("/executions")
    Batches.BatchView carryOut(@Valid @RequestBody CarryOutTogether request, HttpServletRequest http) {
        requireAlike(request.intent());
        var cancels = request.intent().equals(CANCEL_REST);
        return batches.run(
                http,
                request,
                context -> context.because(request.reason()),
                cancels ? Batches.Kind.CANCELLING : Batches.Kind.UNWINDING,
                () -> request.documents().stream()
                        .map(one -> new Batches.Asked(
                                request.kind(),
                                one.number(),
                                cancels
                                        ? new CancellingWork.Request(
                                                one.number(), one.fingerprint(), request.reasonCode())
                                        : new UnwindingWork.Request(
                                                request.kind(),
                                                one.number(),
                                                request.intent(),
                                                one.fingerprint(),
                                                request.reasonCode())))
                        .toList());
    }

    private static void requireAlike(String intent) {
        if (!List.of(CANCEL_REST, "take-back-invoice", "take-back-dispatch").contains(intent)
                && Intent.TakeBack.kindOf(intent).isEmpty()) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("intent", "cancel-rest, or what takes a document back"));
        }
    }
}
