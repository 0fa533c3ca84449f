package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "sales_agreement")
public class SalesAgreementEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    String kind;
    String state;
    long customerId;
    String po;
    LocalDate validFrom;
    LocalDate validUntil;
    BigDecimal ceiling;
    Integer everyCount;
    String everyUnit;
    int made;
    LocalDate nextDue;
    BigDecimal net;
    String remark;
    String details;
    String author;
    LocalDate writtenOn;

    @Version
    Long version;
}
