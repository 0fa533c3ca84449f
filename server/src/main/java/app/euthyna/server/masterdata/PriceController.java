package app.euthyna.server.masterdata;

import app.euthyna.core.order.PriceList;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Digits;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Prices of an item by customer and quantity. */
@RestController
@RequestMapping("/api/items/{code}/prices")
class PriceController {

    private final PriceBreaks prices;
    private final MasterData masterData;
    private final Commands commands;

    PriceController(PriceBreaks prices, MasterData masterData, Commands commands) {
        this.prices = prices;
        this.masterData = masterData;
        this.commands = commands;
    }

    /**
     * A price from a quantity on.
     *
     * @param customer empty for everybody's
     */
    record PriceBreak(
            @Size(max = 40) String customer,

            @NotNull @PositiveOrZero @Digits(integer = 12, fraction = 3)
            BigDecimal from,

            @NotNull @PositiveOrZero @Digits(integer = 12, fraction = 4)
            BigDecimal price) {}

    record PriceBreaksView(@NotNull @Size(max = 500) List<@Valid PriceBreak> breaks) {}

    @GetMapping
    PriceBreaksView breaks(@PathVariable String code) {
        masterData.item(code);
        return new PriceBreaksView(prices.of(code).stream()
                .map(b -> new PriceBreak(b.customer(), b.from().value(), b.unit()))
                .toList());
    }

    @Permissions.KeepMasterData
    @PutMapping
    PriceBreaksView set(
            @PathVariable String code, @Valid @RequestBody PriceBreaksView request, HttpServletRequest http) {
        return commands.run(http, request, PriceBreaksView.class, context -> {
            masterData.item(code);
            prices.set(
                    code,
                    request.breaks().stream()
                            .map(b -> new PriceList.Break(
                                    b.customer() == null ? "" : b.customer().strip(),
                                    new Quantity(b.from()),
                                    b.price()))
                            .toList());
            return breaks(code);
        });
    }
}
