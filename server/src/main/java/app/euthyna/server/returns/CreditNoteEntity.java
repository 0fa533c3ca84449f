package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "credit_note")
public class CreditNoteEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;
    long invoiceId;
    LocalDate creditedOn;
    String reason;
    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    LocalDate reversedOn;
    Long reversedMoment;

    @Version
    Long version;

    String wish = "";
}
