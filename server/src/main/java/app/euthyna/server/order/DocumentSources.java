package app.euthyna.server.order;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Documents that an order can be started from, with the lines that it begins with. */
@Component
class DocumentSources {

    private final SourceQueries queries;

    DocumentSources(SourceQueries queries) {
        this.queries = queries;
    }

    /** A document: whose it is, under which PO, and the kind of order that is started from it. */
    record Source(String customer, String po, OrderKind kind, LocalDate on) {}

    /** A line of a document. */
    record SourceLine(
            String item,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            int line,
            LineKind kind,
            String text) {}

    /** The document; refused where there is none. */
    Source source(OrderController.StartKind kind, String number) {
        return found(kind, number)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(words(kind), number)));
    }

    /** A kind as it is called in a sentence. */
    static String words(OrderController.StartKind kind) {
        return kind.name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    private Optional<Source> found(OrderController.StartKind kind, String number) {
        return switch (kind) {
            case ORDER -> queries.order(number);
            case DISPATCH -> queries.dispatch(number);
            case RETURN -> queries.goodsReturn(number).map(head -> head.as(OrderKind.REPLACEMENT));
            case QUOTE, BLANKET_ORDER, RECURRING_ORDER ->
                queries.agreement(number).map(head -> head.as(OrderKind.STANDARD));
            case INVOICE -> queries.invoice(number).map(head -> head.as(OrderKind.STANDARD));
        };
    }

    /** Its lines. */
    List<SourceLine> lines(OrderController.StartKind kind, String number) {
        return switch (kind) {
            case ORDER -> queries.orderLines(number);
            case DISPATCH -> queries.dispatchLines(number);
            case RETURN ->
                queries.returnLines(number).stream()
                        .map(line -> line.as(BigDecimal.ZERO, BigDecimal.ZERO))
                        .toList();
            case QUOTE, BLANKET_ORDER, RECURRING_ORDER ->
                queries.agreementLines(number).stream()
                        .map(line -> line.as(LineKind.STOCK))
                        .toList();
            case INVOICE ->
                queries.invoiceLines(number).stream()
                        .map(line -> line.as(LineKind.STOCK))
                        .toList();
        };
    }
}
