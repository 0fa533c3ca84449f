package app.euthyna.server.order;

import app.euthyna.core.order.CompanyField;
import app.euthyna.core.order.Details;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Records;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What orders said of themselves when a dispatch of theirs was staged or an invoice of theirs posted. */
@Component
public class DocumentDetails {

    private final OrderQueries queries;
    private final CompanyRulesStore rules;

    DocumentDetails(OrderQueries queries, CompanyRulesStore rules) {
        this.queries = queries;
        this.rules = rules;
    }

    /** A field of the company with the value that it had. */
    public record FieldValue(String label, String value) {}

    /**
     * Details of one order on a document.
     *
     * @param shipTo on one line; empty where the goods go to the customer
     */
    public record CarriedDetails(
            String order, String externalReference, String revenueUnit, String shipTo, List<FieldValue> fields) {}

    /** Copies the details of the orders, by their ids, onto a document. */
    public void carry(String kind, String number, List<Long> orders) {
        if (!orders.isEmpty()) {
            for (var order : queries.withDetails(Many.ids(orders))) {
                var carried = new DocumentDetailsEntity();
                carried.documentKind = kind;
                carried.documentNumber = number;
                carried.orderId = order.id;
                carried.details = order.details;
                queries.session().insert(carried);
            }
        }
    }

    public List<CarriedDetails> of(String kind, String number) {
        var labels = rules.inForce().entry().fields().stream()
                .collect(Collectors.toMap(CompanyField::code, CompanyField::label));
        return queries.carried(kind, number).stream()
                .map(row -> {
                    var details = Records.read(row.details(), Details.class);
                    return new CarriedDetails(
                            row.order(),
                            details.externalReference(),
                            details.revenueUnit(),
                            details.shipTo().words(),
                            details.fields().entrySet().stream()
                                    .sorted(Map.Entry.comparingByKey())
                                    .map(f -> new FieldValue(labels.getOrDefault(f.getKey(), f.getKey()), f.getValue()))
                                    .toList());
                })
                .toList();
    }
}
