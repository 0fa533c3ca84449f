package app.euthyna.server.paper;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Letters that ask for goods which were allowed back and have not come; they go to the Outbox. */
@RestController
class ReturnReminders implements BatchWork {

    private final Printing printing;
    private final ChainReader chains;
    private final Batches batches;
    private final Commands commands;
    private final JdbcClient jdbc;

    ReturnReminders(Printing printing, ChainReader chains, Batches batches, Commands commands, JdbcClient jdbc) {
        this.printing = printing;
        this.chains = chains;
        this.batches = batches;
        this.commands = commands;
        this.jdbc = jdbc;
    }

    record RemindedReturns(@NotEmpty @Size(max = 500) List<@NotBlank String> returns) {}

    /** A return whose customer is to be reminded, as one of many. */
    record AskedReturn(String number) {}

    private record Last(String order, LocalDate remindedOn, int times) {}

    @Permissions.Propose
    @PostMapping("/api/batches/return-reminders")
    Batches.BatchView remind(@Valid @RequestBody RemindedReturns request, HttpServletRequest http) {
        return batches.carryOut(commands.run(
                http,
                request,
                Long.class,
                context -> batches.begin(
                        context,
                        Batches.Kind.RETURN_REMINDERS,
                        request.returns().stream()
                                .map(number -> new Batches.Asked(DocumentKind.RETURN, number, new AskedReturn(number)))
                                .toList())));
    }

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.RETURN_REMINDERS;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var number = Records.read(request, AskedReturn.class).number();
        var last = jdbc.sql(
                        "select (select o.number from return_line l join sales_order o on o.id = l.root_order_id where"
                                + " l.return_id = g.id order by l.line_no fetch first 1 rows only), g.reminded_on,"
                                + " g.reminders from goods_return g where g.number = ? for update")
                .param(number)
                .query((r, n) -> new Last(r.getString(1), r.getObject(2, LocalDate.class), r.getInt(3)))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("return", number)));
        var goods = Chain.returnOf(chains.chains(List.of(last.order())).values(), number);
        RefusedException.orThrow(Returning.remind(goods, Optional.ofNullable(last.remindedOn()), context.date()));
        printing.remind(context, goods);
        jdbc.sql("update goods_return set reminders = reminders + 1, reminded_on = ? where number = ?")
                .params(context.date(), number)
                .update();
        return new Done(
                (DocumentRef) null,
                "reminded of the return authorised on %s, reminder %d"
                        .formatted(Figures.day(goods.on()), last.times() + 1));
    }
}
