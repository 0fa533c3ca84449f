package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import java.util.List;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** The orders that the lines of a document began at. */
@Component
public class DocumentOrders {

    private final IdQueries queries;
    private final Ids ids;

    DocumentOrders(IdQueries queries, Ids ids) {
        this.queries = queries;
        this.ids = ids;
    }

    /** Numbers of the orders, sorted; refused where there is no such document. */
    public List<String> of(DocumentKind kind, String number) {
        var orders =
                ids.orderNumbers(rows(kind, number)).values().stream().sorted().toList();
        if (orders.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound(kind.word().toLowerCase(Locale.ROOT), number));
        }
        return orders;
    }

    private List<Long> rows(DocumentKind kind, String number) {
        return switch (kind) {
            case ORDER -> queries.order(number).stream().toList();
            case DISPATCH -> queries.ordersOfDispatch(number);
            case DEPOSIT -> queries.ordersOfDeposit(number);
            case INVOICE -> queries.ordersOfInvoice(number);
            case RETURN -> queries.ordersOfReturn(number);
            case CREDIT_NOTE -> queries.ordersOfCreditNote(number);
            case WRITE_OFF -> queries.ordersOfWriteOff(number);
            default -> throw new IllegalArgumentException("lines of a " + kind);
        };
    }
}
