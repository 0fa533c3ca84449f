package app.euthyna.server.paper;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.returns.ReturnsService;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Reminds of one return among many. */
@Component
class ReturnReminding implements BatchWork {

    private final Mailing mailing;
    private final ChainReader chains;
    private final Locks locks;
    private final PaperQueries queries;
    private final ReturnsService returns;

    ReturnReminding(Mailing mailing, ChainReader chains, Locks locks, PaperQueries queries, ReturnsService returns) {
        this.mailing = mailing;
        this.chains = chains;
        this.locks = locks;
        this.queries = queries;
        this.returns = returns;
    }

    /** A return whose customer is to be reminded, as one of many. */
    record AskedReturn(String number) {}

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
        mailing.remind(context, goods);
        returns.reminded(context, number);
        return new Done(
                (DocumentRef) null,
                "reminded of the return authorised on %s, reminder %d"
                        .formatted(Figures.day(goods.on()), last.reminders() + 1));
    }
}
