package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.goods.DispatchActions;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Right;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Goods over HTTP. */
@RestController
@RequestMapping("/api")
class GoodsController {

    private final DocumentDetails details;
    private final GoodsService goods;
    private final Commands commands;
    private final Company company;
    private final DispatchQueries queries;
    private final Carriers carriers;

    GoodsController(
            GoodsService goods,
            Commands commands,
            Company company,
            DispatchQueries queries,
            DocumentDetails details,
            Carriers carriers) {
        this.carriers = carriers;
        this.details = details;
        this.goods = goods;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
    }

    /** So many notes at once. */
    private static final int MOST = 1_000;

    private static final Map<DispatchActions.Action, String> DEEDS = Map.of(
            DispatchActions.Action.DEPART, "send goods off",
            DispatchActions.Action.VOID, "void a dispatch",
            DispatchActions.Action.BOOK_CARRIER, "book a carrier");

    record NumberView(String number) {}

    record PickedLine(int line, @NotNull BigDecimal quantity) {}

    /** What to stage of an order; without lines, all that is reserved. */
    record Staging(@NotBlank String order, @NotNull Long version, List<@Valid PickedLine> lines) {}

    record Seen(@NotNull Long version) {}

    record Departing(
            @NotNull Long version,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * Something that a dispatch is there for.
     *
     * @param refused why whoever asks can't do it; null where they can
     */
    record DispatchActionView(
            DispatchActions.Action action, @Nullable String refused) {}

    private static List<DispatchActionView> actions(
            Person person, Dispatch.State state, String order, OrderState orderState) {
        return DispatchActions.of(state, order, orderState).stream()
                .map(offered -> new DispatchActionView(
                        offered.action(), Right.MOVE_GOODS.refused(person, DEEDS.get(offered.action()), offered)))
                .toList();
    }

    record DispatchLineView(
            int no,
            int orderLine,
            String item,
            String description,
            BigDecimal quantity,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal cost) {}

    record DispatchView(
            String number,
            String order,
            String customerName,
            String site,
            String state,
            LocalDate stagedOn,
            @Nullable LocalDate departedOn,
            @Nullable String carrier,
            @Nullable String carrierReference,
            @Nullable String carrierFailure,
            long version,
            List<DispatchActionView> actions,
            List<GoodsService.Falls> fallsUnderMinimum,
            List<DocumentDetails.CarriedDetails> details,
            List<DispatchLineView> lines) {}

    /**
     * What can be done to a staged note.
     *
     * @param fallsUnderMinimum in words, what its departure brings under its minimum
     */
    record OfferedDispatch(String number, List<DispatchActionView> actions, List<String> fallsUnderMinimum) {}

    /** By note, what each of them alone brings under its minimum. */
    private Map<String, List<String>> falls(List<String> numbers) {
        var falls = new HashMap<String, List<String>>();
        queries.falls(Many.names(numbers))
                .forEach(row -> falls.computeIfAbsent(row.number(), note -> new ArrayList<>())
                        .add("%s falls to %s, under its minimum of %s"
                                .formatted(row.item(), new Quantity(row.onHand()), new Quantity(row.minStock()))));
        return falls;
    }

    record Booking(
            @NotNull Long version, @NotBlank @Size(max = 60) String carrier) {}

    /** Has a note booked with a carrier. Where that gives no answer the note says so, and can be booked again. */
    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/carrier")
    DispatchView book(@PathVariable String number, @Valid @RequestBody Booking request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            carriers.book(number, request.version(), request.carrier().strip());
            return dispatch(number, context.person());
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches")
    DispatchView stage(@Valid @RequestBody Staging request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            var picks = request.lines() == null
                    ? List.<Pick>of()
                    : request.lines().stream()
                            .map(l -> new Pick(
                                    l.line(),
                                    StockController.quantity("lines[" + l.line() + "].quantity", l.quantity())))
                            .toList();
            return dispatch(goods.stage(context, request.order(), request.version(), picks), context.person());
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/departure")
    DispatchView depart(@PathVariable String number, @Valid @RequestBody Departing request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            goods.depart(context.given(request.date(), request.reason()), number, request.version());
            return dispatch(number, context.person());
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/voiding")
    DispatchView voidStaged(@PathVariable String number, @Valid @RequestBody Seen request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            goods.voidStaged(context, number, request.version());
            return dispatch(number, context.person());
        });
    }

    @GetMapping("/dispatches/{number}")
    DispatchView dispatch(@PathVariable String number) {
        return dispatch(number, commands.context().person());
    }

    private DispatchView dispatch(String number, Person person) {
        var lines = queries.lines(number).stream()
                .map(row -> new DispatchLineView(
                        row.lineNo(),
                        row.orderLineNo(),
                        row.item(),
                        row.itemName(),
                        new Quantity(row.quantity()).value(),
                        company.money(row.cost()).amount()))
                .toList();
        return queries.header(number)
                .map(row -> new DispatchView(
                        row.number(),
                        row.order(),
                        row.customerName(),
                        row.siteName(),
                        row.state().name(),
                        row.stagedOn(),
                        row.departedOn(),
                        row.carrier(),
                        row.carrierReference(),
                        row.carrierFailure(),
                        row.version(),
                        actions(person, row.state(), row.order(), row.orderState()),
                        goods.falls(number),
                        details.of("DISPATCH", number),
                        lines))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", number)));
    }

    /** What can be done to some notes, by the keys of their rows in the list. */
    @GetMapping("/goods/offered")
    List<OfferedDispatch> offered(@RequestParam @Size(max = MOST) List<Long> keys) {
        var notes = queries.notes(Many.ids(keys));
        var falls = notes.isEmpty()
                ? Map.<String, List<String>>of()
                : falls(notes.stream().map(DispatchQueries.NoteRow::number).toList());
        var person = commands.context().person();
        return notes.stream()
                .map(note -> new OfferedDispatch(
                        note.number(),
                        actions(person, note.state(), note.order(), note.orderState()),
                        falls.getOrDefault(note.number(), List.of())))
                .toList();
    }
}
