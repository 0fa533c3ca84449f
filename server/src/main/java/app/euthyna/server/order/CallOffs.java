package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.RefusedException;
import java.util.HashMap;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What is called off a blanket order. */
@Component
class CallOffs {

    private final SalesAgreementStore agreements;

    CallOffs(SalesAgreementStore agreements) {
        this.agreements = agreements;
    }

    /** An order that was called off takes no more of its blanket order than is left without it. */
    void requireLeft(StoredOrder kept, Order after) {
        var agreement = Optional.ofNullable(kept.header.agreementId)
                .flatMap(agreements::byId)
                .filter(one -> one.kind() == SalesAgreement.Kind.BLANKET_ORDER);
        if (agreement.isEmpty()) {
            return;
        }
        var asked = new HashMap<Integer, Quantity>();
        kept.lines().stream()
                .filter(line -> line.sourceLine != null
                        && after.hasLine(line.lineNo)
                        && after.line(line.lineNo).quantity().isPositive())
                .forEach(line ->
                        asked.merge(line.sourceLine, after.line(line.lineNo).quantity(), Quantity::plus));
        var refusals = agreement.get().unfit(asked, agreements.taken(kept.header.agreementId, kept.number()));
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
    }
}
