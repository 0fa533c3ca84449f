package app.euthyna.server.check;

import app.euthyna.core.check.Quota;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Digits;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Quotas of rationed items. */
@RestController
@RequestMapping("/api/items/{code}/quotas")
class QuotaController {

    private final QuotaStore quotas;
    private final MasterData masterData;
    private final Rechecks rechecks;
    private final Locks locks;
    private final Commands commands;

    QuotaController(QuotaStore quotas, MasterData masterData, Rechecks rechecks, Locks locks, Commands commands) {
        this.locks = locks;
        this.rechecks = rechecks;
        this.quotas = quotas;
        this.masterData = masterData;
        this.commands = commands;
    }

    record QuotaView(
            Quota.Scope scope,
            String key,
            LocalDate from,
            LocalDate to,
            BigDecimal granted,
            BigDecimal used,
            BigDecimal left) {}

    /** What someone may have of an item in a season; no quantity takes the quota away. */
    record GivenQuota(
            @NotNull Quota.Scope scope,
            @NotBlank @Size(max = 60) String key,
            @NotNull LocalDate from,
            @NotNull LocalDate to,

            @PositiveOrZero @Digits(integer = 12, fraction = 3)
            BigDecimal granted) {}

    @GetMapping
    List<QuotaView> quotas(@PathVariable String code) {
        masterData.item(code);
        return quotas.ofItem(code).stream()
                .map(q -> new QuotaView(
                        q.scope(),
                        q.key(),
                        q.from(),
                        q.to(),
                        q.granted().value(),
                        q.used().value(),
                        q.left().value()))
                .toList();
    }

    record QuotaList(List<QuotaView> quotas) {}

    @Permissions.KeepMasterData
    @PutMapping
    QuotaList grant(@PathVariable String code, @Valid @RequestBody GivenQuota request, HttpServletRequest http) {
        if (request.to().isBefore(request.from())) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("to", "a date on or after the first day of the season"));
        }
        return commands.run(http, request, QuotaList.class, context -> {
            masterData.item(code);
            locks.quotas(List.of(code));
            quotas.set(
                    request.scope(),
                    request.key(),
                    code,
                    request.from(),
                    request.to(),
                    request.granted() == null ? null : new Quantity(request.granted()));
            rechecks.queueThoseWhoWant(context, code);
            return new QuotaList(quotas(code));
        });
    }
}
