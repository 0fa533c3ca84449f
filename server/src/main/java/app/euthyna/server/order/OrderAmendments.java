package app.euthyna.server.order;

import app.euthyna.core.order.Amendment;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Dating;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.RefusedException;
import java.util.OptionalInt;
import org.springframework.stereotype.Component;

/** What becomes of an order that somebody writes anew. */
@Component
class OrderAmendments {

    private final MasterData masterData;
    private final Drafting drafting;
    private final CallOffs callOffs;
    private final OrderVersions versions;
    private final CommittedQuantities committed;
    private final CompanyRulesStore rules;

    OrderAmendments(
            MasterData masterData,
            Drafting drafting,
            CallOffs callOffs,
            OrderVersions versions,
            CommittedQuantities committed,
            CompanyRulesStore rules) {
        this.masterData = masterData;
        this.drafting = drafting;
        this.callOffs = callOffs;
        this.versions = versions;
        this.committed = committed;
        this.rules = rules;
    }

    /** Keeps what an order was before a change. */
    void keepVersion(CommandContext context, StoredOrder kept, Amendment.Change change) {
        versions.keep(context, kept.header.id, change.differences());
    }

    /** The order as it would be after the change; refused where it may not change so. */
    Amendment.Change decide(CommandContext context, StoredOrder kept, Order before, OrderDraft draft) {
        var customer = masterData.customer(before.customer());
        var after = new Order(
                before.number(),
                before.sequence(),
                before.kind(),
                before.state(),
                before.customer(),
                or(draft.po(), before.po()).strip(),
                before.site(),
                before.orderedOn(),
                or(draft.requestedOn(), before.requestedOn()),
                or(draft.remark(), before.remark()),
                before.author(),
                context.person().username(),
                before.writers(),
                before.currency(),
                drafting.details(draft.details(), before.details()),
                drafting.lines(draft, customer, before, OptionalInt.of(kept.lastLine())));
        after = after.withWriters(before.writersAfter(after, context.person().username()));
        callOffs.requireLeft(kept, after);
        if (context.date().isBefore(context.today())) {
            RefusedException.where(Dating.before(
                    context.date(), "the version before of order " + before.number(), versions.lastOf(kept.header)));
        }
        return RefusedException.orThrow(Amendment.decide(
                before,
                after,
                committed.of(before.number()),
                customer.rules().po().required(),
                rules.inForce().entry()));
    }

    private static <T> T or(T given, T otherwise) {
        return given == null ? otherwise : given;
    }
}
