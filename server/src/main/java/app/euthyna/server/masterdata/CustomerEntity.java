package app.euthyna.server.masterdata;

import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.VatTreatment;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "customer")
public class CustomerEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String code;
    String name;
    String town;
    String searchKey;
    String customerClass;
    BigDecimal creditLimit;
    int termsDays;

    @Enumerated(EnumType.STRING)
    VatTreatment vatTreatment;

    boolean poRequired;

    @Enumerated(EnumType.STRING)
    Severity poSame;

    @Enumerated(EnumType.STRING)
    Severity poAlike;

    @Enumerated(EnumType.STRING)
    Severity poNear;

    BigDecimal poCeiling;

    /** Rules of approval of its own take the place of the company's, also where there are none. */
    boolean ownApproval;

    Integer overdueDays;
    BigDecimal overdueAbove;
    String blockedBy;
    LocalDate blockedOn;
    String blockedWhy;

    @Version
    Long version;

    String region = "";

    /** Unless it has its own, the company's PO policy holds. */
    boolean poOwn = true;

    @Enumerated(EnumType.STRING)
    PoPolicy.Barred poBarred = PoPolicy.Barred.HOLD;

    /** Of an order's gross, asked for ahead. */
    BigDecimal depositPercent = BigDecimal.ZERO;

    /** A discount for paying early; null where none is agreed. */
    BigDecimal earlyPercent;

    Integer earlyDays;

    String street = "";
    String postcode = "";
    String country = "";
    String vatId = "";
    String email = "";

    /** Whom to call, and at what number. */
    String contact = "";

    String phone = "";
}
