package app.euthyna.server.returns;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.ShipTo;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Invoices credited and rebilled, over HTTP. */
@RestController
@RequestMapping("/api/invoices/{number}/corrections")
class CorrectionController {

    private final Corrections corrections;
    private final Commands commands;

    CorrectionController(Corrections corrections, Commands commands) {
        this.corrections = corrections;
        this.commands = commands;
    }

    /** A line of the invoice that is rebilled; what is left out stays as it was. */
    record CorrectedLine(int line, BigDecimal quantity, BigDecimal price, BigDecimal discount) {}

    /** Where the goods of the new order are, for its papers. */
    record CorrectedAddress(
            @NotBlank @Size(max = 200) String name,
            @Size(max = 200) String street,
            @Size(max = 20) String postcode,
            @Size(max = 100) String town,
            @Size(max = 2) String country) {}

    /** Other data for what an invoice billed wrongly; what is left out stays as it was. */
    record AskedCorrection(
            @Size(max = 40) String customer,
            @Size(max = 60) String po,
            @Valid CorrectedAddress shipTo,
            @Size(max = 500) List<@Valid CorrectedLine> lines,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /**
     * What came of it, or would.
     *
     * @param credited gross
     * @param invoice null where the order is held or waits for approval, and is to be billed when it is cleared
     * @param billed gross amount of the order, and so of its invoice
     */
    record CorrectionView(
            String creditNote,
            BigDecimal credited,
            String order,
            OrderState state,
            @Nullable String invoice,
            BigDecimal billed) {}

    /** What it would come to; nothing is kept. */
    @Permissions.Bill
    @PostMapping("/previews")
    CorrectionView preview(@PathVariable String number, @Valid @RequestBody AskedCorrection request) {
        return commands.simulated(() -> view(corrections.correct(
                commands.context()
                        .given(request.date(), Texts.given(request.reason()).isEmpty() ? "preview" : request.reason()),
                number,
                asked(request))));
    }

    /** Credits all that is left of the invoice and bills it again. */
    @Permissions.Bill
    @PostMapping
    CorrectionView correct(
            @PathVariable String number, @Valid @RequestBody AskedCorrection request, HttpServletRequest http) {
        if (Texts.given(request.reason()).isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the correction"));
        }
        return commands.run(
                http,
                request,
                CorrectionView.class,
                context -> view(
                        corrections.correct(context.given(request.date(), request.reason()), number, asked(request))));
    }

    private static Corrections.Asked asked(AskedCorrection request) {
        var to = request.shipTo();
        return new Corrections.Asked(
                Optional.ofNullable(request.customer()).filter(code -> !code.isBlank()),
                Optional.ofNullable(request.po()).filter(po -> !po.isBlank()),
                Optional.ofNullable(to)
                        .map(a -> new ShipTo(
                                a.name(),
                                Texts.given(a.street()),
                                Texts.given(a.postcode()),
                                Texts.given(a.town()),
                                Texts.given(a.country()))),
                request.lines() == null
                        ? List.of()
                        : request.lines().stream()
                                .map(l -> new Corrections.Instead(
                                        l.line(),
                                        Optional.ofNullable(l.quantity()),
                                        Optional.ofNullable(l.price()),
                                        Optional.ofNullable(l.discount())))
                                .toList());
    }

    private CorrectionView view(Corrections.Corrected done) {
        return new CorrectionView(
                done.credit().number(),
                done.credit().totals().gross().amount(),
                done.order(),
                done.state(),
                done.invoice().orElse(null),
                done.billed());
    }
}
