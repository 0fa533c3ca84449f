package app.euthyna.server.goods;

import app.euthyna.core.flow.Effect;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Offers stock to an order whose content has changed, once the checks have had their say. */
@Component
@Order(80)
class OfferAfterChange implements EffectSink {

    private final Offering offering;

    OfferAfterChange(Offering offering) {
        this.offering = offering;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        offering.offer(
                context,
                batch.stream()
                        .filter(effect -> effect instanceof Effect.OrderChanged)
                        .toList(),
                further);
    }
}
