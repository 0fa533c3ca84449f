package app.euthyna.server.goods;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Texts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Many staged, or sent off, each on its own. */
@RestController
@RequestMapping("/api")
class GoodsBatchController {

    private final Batches batches;

    GoodsBatchController(Batches batches) {
        this.batches = batches;
    }

    /** One of many orders to stage. */
    record StagedOne(@NotBlank String order, @NotNull Long version, GoodsService.ShortageChoice whenShort) {}

    record StagingBatch(
            @NotEmpty @Size(max = 500) List<@Valid StagedOne> orders,
            @Size(max = 2000) String reason) {}

    /** One of many notes to send off. */
    record SentOne(@NotBlank String dispatch, @NotNull Long version) {}

    record DepartureBatch(
            @NotEmpty @Size(max = 500) List<@Valid SentOne> dispatches,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** Stages many orders, each on its own; the answer is the log, which goes on where it is long. */
    @Permissions.MoveGoods
    @PostMapping("/batches/stagings")
    Batches.BatchView stageMany(@Valid @RequestBody StagingBatch request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                context -> context.because(Texts.given(request.reason())),
                Batches.Kind.STAGING,
                () -> request.orders().stream()
                        .map(one -> new Batches.Asked(DocumentKind.ORDER, one.order(), one))
                        .toList());
    }

    @Permissions.MoveGoods
    @PostMapping("/batches/departures")
    Batches.BatchView departMany(@Valid @RequestBody DepartureBatch request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                context -> context.given(request.date(), request.reason()),
                Batches.Kind.DEPARTURE,
                () -> request.dispatches().stream()
                        .map(one -> new Batches.Asked(DocumentKind.DISPATCH, one.dispatch(), one))
                        .toList());
    }
}
