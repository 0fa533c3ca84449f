package app.euthyna.server.approval;

import app.euthyna.core.approval.Approving;
import app.euthyna.core.approval.Level;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Decision;
import app.euthyna.server.approval.ApprovalStore.StoredRule;
import app.euthyna.server.check.Approver;
import app.euthyna.server.check.Checking;
import app.euthyna.server.check.FindingStore;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.order.OrderDecisions;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Takes the decisions of those who carry a level of approval. */
@Service
public class ApprovalService implements Approver {

    private final AskedApprovals asked;
    private final ApprovalStore store;
    private final ChainReader chains;
    private final FindingStore findings;
    private final Checking checking;
    private final OrderDecisions decisions;

    ApprovalService(
            AskedApprovals asked,
            ApprovalStore store,
            ChainReader chains,
            FindingStore findings,
            Checking checking,
            OrderDecisions decisions) {
        this.decisions = decisions;
        this.asked = asked;
        this.store = store;
        this.chains = chains;
        this.findings = findings;
        this.checking = checking;
    }

    /** Approves the level that is pending; the order is cleared with the last of them. */
    @Override
    @Transactional(propagation = Propagation.MANDATORY, noRollbackFor = RefusedException.class)
    public void approve(CommandContext context, String number, long version) {
        decisions.lock(number);
        var order = chains.chain(number).order();
        var asks = asked.of(order, findings.of(number));
        var approval = RefusedException.orThrow(Approving.approve(
                order, asks, store.approvals(number), context.person(), context.reason(), context.today()));
        decisions.requireVersion(number, version);
        // it stands on what is true now, or is refused
        checking.asSeen(context, number);
        store.add(number, approval);
        decisions.agreed(number);
        chains.readAgain(number);
        decisions.note(
                context,
                number,
                "approved",
                "approved for " + approval.level().words()
                        + (approval.level().roles().contains(context.person().role()) ? "" : ", as deputy")
                        + (context.reason().isBlank() ? "" : ": " + context.reason()));
        var pending = Approving.pending(order, asks, store.approvals(number));
        if (pending.isEmpty()) {
            decisions.write(context, List.of(new Effect.StateChanged(number, order.state(), OrderState.CLEARED)));
        } else {
            store.ask(context, number, asks, pending.get(0));
            decisions.moveVersion(number);
        }
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void sendBack(CommandContext context, String number, long version) {
        decisions.lock(number);
        back(
                context,
                number,
                version,
                "sent back",
                Approving.sendBack(chains.chain(number).order(), context.person(), context.reason()));
    }

    /** The order is a draft again, and its history says who wanted that. */
    private void back(CommandContext context, String number, long version, String word, Decision<Effect> decision) {
        var effect = RefusedException.orThrow(decision);
        decisions.requireVersion(number, version);
        decisions.note(context, number, word.replace(' ', '-'), word + ": " + context.reason());
        decisions.write(context, List.of(effect));
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void recall(CommandContext context, String number, long version) {
        decisions.lock(number);
        back(
                context,
                number,
                version,
                "recalled",
                Approving.recall(chains.chain(number).order(), context.person(), context.reason()));
    }

    /** Asks for a level from so much net amount on, for all customers without rules of their own. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void askAbove(Map<Level, BigDecimal> bands) {
        store.write(
                null,
                bands.entrySet().stream()
                        .sorted(Map.Entry.comparingByKey())
                        .map(band -> new StoredRule(StoredRule.Kind.NET_ABOVE, band.getValue(), null, band.getKey()))
                        .toList());
    }
}
