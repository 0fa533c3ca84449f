package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.Replacing;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What replacements stand for: the return or dispatch that each names, and what others took of it. */
@Component
class Replacements {

    private final OrderQueries queries;
    private final DocumentOrders documentOrders;

    Replacements(OrderQueries queries, DocumentOrders documentOrders) {
        this.documentOrders = documentOrders;
        this.queries = queries;
    }

    private record Named(DocumentRef document, String customer) {}

    /**
     * Keeps what a submitted replacement stands for, or refuses it; its customer is locked.
     *
     * @return the order that the goods were first sent with
     */
    String keep(long orderId, Order order) {
        var number = order.details().replaces();
        var named = named(number);
        var refusals = Replacing.refusals(
                order,
                new Replacing.Replaced(
                        named.document(), named.customer(), quantities(named.document()), taken(number, orderId)));
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        var row = new ReplacementEntity();
        row.orderId = orderId;
        row.documentKind = named.document().kind().name();
        row.documentNumber = number;
        queries.session().upsert(row);
        return firstOrder(named.document());
    }

    private Named named(String number) {
        return queries.customerOfReturn(number)
                .map(customer -> new Named(new DocumentRef(DocumentKind.RETURN, number), customer))
                .or(() -> queries.customerOfDeparted(number)
                        .map(customer -> new Named(new DocumentRef(DocumentKind.DISPATCH, number), customer)))
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("return or departed dispatch", number)));
    }

    /** Of a return what came and is not sent back, or is authorised to come; of a dispatch what departed. */
    private Map<String, Quantity> quantities(DocumentRef document) {
        return byItem(
                document.kind() == DocumentKind.RETURN
                        ? queries.ofReturn(document.number())
                        : queries.ofDispatch(document.number()));
    }

    private Map<String, Quantity> taken(String number, long except) {
        return byItem(queries.replaced(number, except));
    }

    private static Map<String, Quantity> byItem(List<OrderQueries.ItemQuantity> rows) {
        return rows.stream()
                .collect(Collectors.toMap(OrderQueries.ItemQuantity::item, row -> new Quantity(row.quantity())));
    }

    /** The order that goods of a document were first sent with: of a return, that of its first line. */
    String firstOrder(DocumentRef document) {
        return document.kind() == DocumentKind.RETURN
                ? queries.firstOrderOf(document.number())
                : documentOrders.of(document.kind(), document.number()).get(0);
    }
}
