package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "sales_agreement_change")
public class SalesAgreementChangeEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long agreementId;
    LocalDate changedOn;
    String changedBy;
    String sentence;
}
