package app.euthyna.server.order;

import app.euthyna.core.order.Committed;
import java.util.Map;

/** What of an order's lines can't be changed away any more. Answered by whoever follows the goods. */
public interface CommittedQuantities {

    Map<Integer, Committed> of(String order);
}
