package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderEntry;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import org.springframework.stereotype.Component;

/** Submits orders: from here on the checks hold or clear them. */
@Component
class OrderSubmission {

    private final OrderStore stored;
    private final Replacements replacements;
    private final MasterData masterData;
    private final CompanyRulesStore rules;
    private final History history;
    private final EffectWriter writer;

    OrderSubmission(
            OrderStore stored,
            Replacements replacements,
            MasterData masterData,
            CompanyRulesStore rules,
            History history,
            EffectWriter writer) {
        this.stored = stored;
        this.replacements = replacements;
        this.masterData = masterData;
        this.rules = rules;
        this.history = history;
        this.writer = writer;
    }

    /** The order that the goods of a return were first sent on. */
    String firstOrder(DocumentRef document) {
        return replacements.firstOrder(document);
    }

    void submit(CommandContext context, StoredOrder kept) {
        var order = stored.core(kept);
        var refusals = OrderEntry.refusals(
                order,
                masterData.customer(order.customer()).rules().po().required(),
                rules.inForce().entry());
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        kept.header.state = OrderState.SUBMITTED;
        kept.wantAtOnce(context.today());
        stored.save(kept);
        replaces(context, kept, order);
        writer.write(context, List.of(new Effect.OrderSubmitted(stored.core(kept))));
    }

    /** A replacement is part of what the customer ordered when the goods that it replaces were sent. */
    void replaces(CommandContext context, StoredOrder kept, Order order) {
        if (order.kind() == OrderKind.REPLACEMENT) {
            var root = replacements.keep(kept.header.id, order);
            if (kept.header.splitOf == null) {
                ofOneOrder(kept, root);
                stored.save(kept);
                history.note(
                        context,
                        root,
                        "replaced",
                        "replacement order %s replaces goods of %s"
                                .formatted(order.number(), order.details().replaces()));
            }
        }
    }

    /** The customer ordered once, so their PO may stand on both. */
    void ofOneOrder(StoredOrder kept, String root) {
        kept.header.splitOf = stored.find(root).family();
    }
}
