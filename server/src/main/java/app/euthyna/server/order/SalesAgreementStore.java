package app.euthyna.server.order;

import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Quotes, blanket orders and recurring orders as they are kept, and what orders took of them. */
@Component
class SalesAgreementStore {

    private final AgreementQueries queries;
    private final Company company;
    private final Ids ids;

    SalesAgreementStore(AgreementQueries queries, Company company, Ids ids) {
        this.ids = ids;
        this.queries = queries;
        this.company = company;
    }

    /** An agreement with what is kept beside it. */
    record Kept(
            long id,
            SalesAgreement agreement,
            String po,
            String remark,
            String details,
            String author,
            LocalDate writtenOn,
            long version) {}

    Kept find(String number) {
        return queries.byNumber(number)
                .map(this::kept)
                .orElseThrow(() ->
                        new RefusedException(new CommonRefusal.NotFound("quote, blanket or recurring order", number)));
    }

    Optional<SalesAgreement> byId(long id) {
        return queries.byId(id).map(this::kept).map(Kept::agreement);
    }

    private Kept kept(SalesAgreementEntity row) {
        return new Kept(
                row.id,
                new SalesAgreement(
                        row.number,
                        SalesAgreement.Kind.valueOf(row.kind),
                        SalesAgreement.State.valueOf(row.state),
                        ids.customerCode(row.customerId),
                        row.validFrom,
                        row.validUntil,
                        Optional.ofNullable(row.ceiling).map(company::money),
                        Optional.ofNullable(row.everyUnit)
                                .map(unit -> new Recurrence(row.everyCount, Recurrence.Unit.valueOf(unit))),
                        row.made,
                        company.currency(),
                        lines(row.id),
                        schedule(row.id)),
                row.po,
                row.remark,
                row.details,
                row.author,
                row.writtenOn,
                row.version);
    }

    private List<SalesAgreement.Line> lines(long id) {
        return queries.lines(id).stream()
                .map(row -> new SalesAgreement.Line(
                        row.lineNo(),
                        row.itemCode(),
                        row.description(),
                        new Quantity(row.quantity()),
                        new Price(row.unitPrice(), row.discountPercent())))
                .toList();
    }

    private List<SalesAgreement.Call> schedule(long id) {
        return queries.schedule(id).stream()
                .map(row -> new SalesAgreement.Call(row.dueOn(), row.lineNo(), new Quantity(row.quantity())))
                .toList();
    }

    private record Part(int line, BigDecimal quantity, BigDecimal price, BigDecimal discount) {}

    /**
     * What orders took of it, less what was cancelled of them; declined ones take nothing.
     *
     * @param without an order that is left out of the count, or empty
     */
    SalesAgreement.Taken taken(long id, String without) {
        var parts = queries.taken(id, without).stream()
                .map(row -> new Part(row.sourceLine(), row.quantity(), row.unitPrice(), row.discountPercent()))
                .toList();
        var quantities = new HashMap<Integer, Quantity>();
        var net = Money.zero(company.currency());
        for (var part : parts) {
            var quantity = new Quantity(part.quantity());
            quantities.merge(part.line(), quantity, Quantity::plus);
            net = net.plus(new Price(part.price(), part.discount()).net(quantity, company.currency()));
        }
        return new SalesAgreement.Taken(quantities, net);
    }
}
