package app.euthyna.server.goods;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Shelves over HTTP: what comes in, what was counted, who waits for it. */
@RestController
@RequestMapping("/api")
class StockController {

    private final StockService stock;
    private final GoodsService goods;
    private final DispatchQueries queries;
    private final Commands commands;
    private final Company company;

    StockController(
            StockService stock, GoodsService goods, DispatchQueries queries, Commands commands, Company company) {
        this.stock = stock;
        this.goods = goods;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    record StockReceipt(
            String site,
            @NotBlank String item,
            @NotNull BigDecimal quantity,
            @NotNull @PositiveOrZero BigDecimal unitCost,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** What was counted on a shelf; the cost only where the books said that it was empty. */
    record Count(
            String site,
            @NotBlank String item,
            @NotNull @PositiveOrZero BigDecimal counted,
            @PositiveOrZero BigDecimal unitCost,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /** Reserved goods of one order line for another; {@code version} is that of the order that takes them. */
    record ReservationTransfer(
            @NotBlank String from,
            int fromLine,
            @NotBlank String to,
            int toLine,
            @NotNull Long version,
            @NotNull BigDecimal quantity,
            @Size(max = 2000) String reason) {}

    record ShelfView(
            String item,
            String site,
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal free,
            BigDecimal inspection,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value) {}

    /** An order line's place at a shelf: what it holds and what it waits for. */
    record ClaimView(
            String order,
            int line,
            String customerName,
            String site,
            LocalDate requestedOn,
            BigDecimal reserved,
            BigDecimal waiting,
            long version) {
        private static ClaimView of(DispatchQueries.QueueRow row) {
            return new ClaimView(
                    row.order(),
                    row.lineNo(),
                    row.customerName(),
                    row.site(),
                    row.requestedOn(),
                    new Quantity(row.reserved()).value(),
                    new Quantity(row.waiting()).value(),
                    row.version());
        }
    }

    @Permissions.MoveGoods
    @PostMapping("/stock-receipts")
    GoodsController.NumberView receive(@Valid @RequestBody StockReceipt request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                GoodsController.NumberView.class,
                context -> new GoodsController.NumberView(stock.receive(
                        context.given(request.date(), request.reason()),
                        request.site(),
                        request.item(),
                        quantity("quantity", request.quantity()),
                        request.unitCost())));
    }

    @Permissions.MoveGoods
    @PostMapping("/stock-counts")
    GoodsController.NumberView count(@Valid @RequestBody Count request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                GoodsController.NumberView.class,
                context -> new GoodsController.NumberView(stock.count(
                        context.given(request.date(), request.reason()),
                        request.site(),
                        request.item(),
                        quantity("counted", request.counted()),
                        Optional.ofNullable(request.unitCost()))));
    }

    @Permissions.Decide
    @PostMapping("/reservation-transfers")
    List<ClaimView> transfer(@Valid @RequestBody ReservationTransfer request, HttpServletRequest http) {
        return List.of(commands.run(http, request, ClaimView[].class, context -> {
            goods.transfer(
                    context.because(Texts.given(request.reason())),
                    new LineRef(request.from(), request.fromLine()),
                    new LineRef(request.to(), request.toLine()),
                    request.version(),
                    quantity("quantity", request.quantity()));
            return queries.placesOf(request.to(), request.toLine()).stream()
                    .map(ClaimView::of)
                    .toArray(ClaimView[]::new);
        }));
    }

    /** Who holds an item and who waits for it, in the order in which they are served. */
    @GetMapping("/stock/{item}/queue")
    List<ClaimView> queue(@PathVariable String item) {
        return queries.queue(item).stream().map(ClaimView::of).toList();
    }

    @GetMapping("/stock/{item}")
    List<ShelfView> stock(@PathVariable String item) {
        return queries.stock(item).stream()
                .map(row -> {
                    var onHand = new Quantity(row.onHand());
                    var reserved = new Quantity(row.reserved());
                    return new ShelfView(
                            row.item(),
                            row.site(),
                            onHand.value(),
                            reserved.value(),
                            onHand.minus(reserved).value(),
                            new Quantity(row.quantity()).value(),
                            company.money(row.stockValue()).amount());
                })
                .toList();
    }

    static Quantity quantity(String field, BigDecimal given) {
        if (given.stripTrailingZeros().scale() > Quantity.DECIMALS || given.precision() - given.scale() > 12) {
            throw new RefusedException(CommonRefusal.Incomplete.of(field, "a quantity with at most 3 decimals"));
        }
        return new Quantity(given);
    }
}
