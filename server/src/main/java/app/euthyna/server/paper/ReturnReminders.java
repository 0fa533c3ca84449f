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
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.returns.ReturnsService;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Optional;
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
    private final Locks locks;
    private final PaperQueries queries;
    private final ReturnsService returns;

    ReturnReminders(
            Printing printing,
            ChainReader chains,
            Batches batches,
            Commands commands,
            Locks locks,
            PaperQueries queries,
            ReturnsService returns) {
        this.printing = printing;
        this.chains = chains;
        this.batches = batches;
        this.commands = commands;
        this.locks = locks;
        this.queries = queries;
        this.returns = returns;
    }

    record RemindedReturns(@NotEmpty @Size(max = 500) List<@NotBlank String> returns) {}

    /** A return whose customer is to be reminded, as one of many. */
    record AskedReturn(String number) {}

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
        var order = queries.firstOrderOfReturn(number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("return", number)));
        // locked by its order: who reminds of it at the same time waits here
        locks.customerAndOrder(order);
        var last = queries.remindersOf(number);
        var goods = Chain.returnOf(chains.chains(List.of(order)).values(), number);
        RefusedException.orThrow(Returning.remind(goods, Optional.ofNullable(last.remindedOn()), context.date()));
        printing.remind(context, goods);
        returns.reminded(context, number);
        return new Done(
                (DocumentRef) null,
                "reminded of the return authorised on %s, reminder %d"
                        .formatted(Figures.day(goods.on()), last.reminders() + 1));
    }
}
