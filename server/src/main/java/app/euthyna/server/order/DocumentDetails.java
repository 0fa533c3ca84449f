package app.euthyna.server.order;

import app.euthyna.core.order.CompanyField;
import app.euthyna.core.order.Details;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Records;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What orders said of themselves when a dispatch of theirs was staged or an invoice of theirs posted. */
@Component
public class DocumentDetails {

    private final JdbcClient jdbc;
    private final CompanyRulesStore rules;

    DocumentDetails(JdbcClient jdbc, CompanyRulesStore rules) {
        this.jdbc = jdbc;
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
            jdbc.sql("""
                insert into document_details (document_kind, document_number, order_id, details)
                select cast(:kind as varchar(20)), cast(:number as varchar(40)), o.id, o.details from sales_order o
                where o.id in (:orders) and o.details is not null\
                """)
                    .param("kind", kind)
                    .param("number", number)
                    .param("orders", orders)
                    .update();
        }
    }

    public List<CarriedDetails> of(String kind, String number) {
        var labels = rules.inForce().entry().fields().stream()
                .collect(Collectors.toMap(CompanyField::code, CompanyField::label));
        return jdbc.sql("""
            select o.number, d.details from document_details d join sales_order o on o.id = d.order_id
            where d.document_kind = ? and d.document_number = ? order by o.id\
            """)
                .params(kind, number)
                .query((r, n) -> {
                    var details = Records.read(r.getString(2), Details.class);
                    return new CarriedDetails(
                            r.getString(1),
                            details.externalReference(),
                            details.revenueUnit(),
                            details.shipTo().words(),
                            details.fields().entrySet().stream()
                                    .sorted(Map.Entry.comparingByKey())
                                    .map(f -> new FieldValue(labels.getOrDefault(f.getKey(), f.getKey()), f.getValue()))
                                    .toList());
                })
                .list();
    }
}
