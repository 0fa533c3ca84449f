package app.euthyna.server.masterdata;

import app.euthyna.core.order.PriceList;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Prices by customer and quantity. */
@Component
public class PriceBreaks {

    private final MasterDataQueries queries;
    private final Ids ids;

    PriceBreaks(MasterDataQueries queries, Ids ids) {
        this.ids = ids;
        this.queries = queries;
    }

    private static PriceList.Break entry(String customer, BigDecimal from, BigDecimal unit) {
        return new PriceList.Break(customer, new Quantity(from), unit);
    }

    /** What holds for a customer: its own prices and everybody's, by item. */
    public Map<String, List<PriceList.Break>> of(Collection<String> items, String customer) {
        return items.isEmpty()
                ? Map.of()
                : queries.breaks(Many.names(items), customer).stream()
                        .collect(Collectors.groupingBy(
                                MasterDataQueries.BreakRow::item,
                                Collectors.mapping(
                                        row -> entry(row.customer(), row.fromQuantity(), row.unitPrice()),
                                        Collectors.toList())));
    }

    /** All of an item: everybody's first, then customer by customer, each from the smallest quantity on. */
    public List<PriceList.Break> of(String item) {
        return queries.breaksOf(item).stream()
                .map(row -> entry(row.customer(), row.fromQuantity(), row.unitPrice()))
                .toList();
    }

    /** Sets the prices of an item in place of those before. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void set(String item, List<PriceList.Break> breaks) {
        var seen = new HashSet<String>();
        for (var one : breaks) {
            if (!seen.add(one.customer() + " " + one.from())) {
                throw new RefusedException(CommonRefusal.Incomplete.of("breaks", "each customer and quantity once"));
            }
        }
        var itemId = ids.item(item);
        queries.removeBreaks(itemId);
        for (var one : breaks) {
            var row = new PriceBreakEntity();
            row.itemId = itemId;
            row.customerId = one.customer().isEmpty() ? null : ids.customer(one.customer());
            row.fromQuantity = one.from().value();
            row.unitPrice = one.unit();
            queries.session().insert(row);
        }
    }
}
