package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "goods_return")
public class ReturnEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;
    LocalDate authorisedOn;
    String reasonCode;
    String remark;
    boolean withdrawn;
    boolean expects;
    boolean inspecting;
    LocalDate receivedOn;

    @Version
    Long version;

    BigDecimal creditDue = BigDecimal.ZERO;
    BigDecimal creditedAhead = BigDecimal.ZERO;
    int reminders;
    LocalDate remindedOn;
}
