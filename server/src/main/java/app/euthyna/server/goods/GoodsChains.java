package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainParts;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Reservations and dispatches, as parts of chains. */
@Component
class GoodsChains implements ChainParts.Moved {

    private final ShelfQueries queries;
    private final Company company;

    GoodsChains(ShelfQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    @Override
    public Map<Long, Map<Integer, Quantity>> reserved(Collection<Long> orders) {
        return queries.reserved(Many.ids(orders)).stream()
                .collect(Collectors.groupingBy(
                        claim -> claim.orderId,
                        Collectors.toMap(claim -> claim.lineNo, claim -> new Quantity(claim.reserved))));
    }

    @Override
    public Map<Long, List<Dispatch>> dispatches(Collection<Long> orders) {
        var rows = queries.dispatched(Many.ids(orders)).stream()
                .collect(Collectors.groupingBy(row -> row.dispatch().id, LinkedHashMap::new, Collectors.toList()));
        return rows.values().stream()
                .collect(Collectors.groupingBy(
                        of -> of.get(0).dispatch().orderId, Collectors.mapping(this::dispatch, Collectors.toList())));
    }

    private Dispatch dispatch(List<ShelfQueries.DispatchedRow> rows) {
        var first = rows.get(0);
        var lines = rows.stream()
                .map(row -> new Dispatch.Line(
                        row.line().lineNo,
                        row.line().orderLineNo,
                        row.item(),
                        new Quantity(row.line().quantity),
                        company.money(row.line().cost)))
                .toList();
        var dispatch = first.dispatch();
        return new Dispatch(
                dispatch.number,
                first.order(),
                first.site(),
                dispatch.state,
                dispatch.departedOn == null ? dispatch.stagedOn : dispatch.departedOn,
                lines);
    }
}
