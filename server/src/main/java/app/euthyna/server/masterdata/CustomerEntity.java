package app.euthyna.server.masterdata;

import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.VatTreatment;
import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "customer")
class CustomerEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String code;
    String name;
    String town;

    @Column(name = "search_key")
    String searchKey;

    @Column(name = "customer_class")
    String customerClass;

    @Column(name = "credit_limit")
    BigDecimal creditLimit;

    @Column(name = "terms_days")
    int termsDays;

    @Enumerated(EnumType.STRING)
    @Column(name = "vat_treatment")
    VatTreatment vatTreatment;

    String region;
    /** Of an order's gross, asked for ahead. */
    @Column(name = "deposit_percent")
    BigDecimal depositPercent = BigDecimal.ZERO;

    String street = "";
    String postcode = "";
    String country = "";

    @Column(name = "vat_id")
    String vatId = "";

    String email = "";
    /** Unless it has its own, the company's PO policy holds. */
    @Column(name = "po_own")
    boolean poOwn;

    @Enumerated(EnumType.STRING)
    @Column(name = "po_barred")
    PoPolicy.Barred poBarred;

    @Column(name = "po_required")
    boolean poRequired;

    @Enumerated(EnumType.STRING)
    @Column(name = "po_same")
    Severity poSame;

    @Enumerated(EnumType.STRING)
    @Column(name = "po_alike")
    Severity poAlike;

    @Enumerated(EnumType.STRING)
    @Column(name = "po_near")
    Severity poNear;

    @Column(name = "po_ceiling")
    BigDecimal poCeiling;
    /** Rules of approval of its own take the place of the company's, also where there are none. */
    @Column(name = "own_approval")
    boolean ownApproval;

    @Column(name = "overdue_days")
    Integer overdueDays;

    @Column(name = "overdue_above")
    BigDecimal overdueAbove;

    @Column(name = "blocked_by")
    String blockedBy;

    @Column(name = "blocked_on")
    LocalDate blockedOn;

    @Column(name = "blocked_why")
    String blockedWhy;

    @ElementCollection
    @CollectionTable(name = "customer_licence", joinColumns = @JoinColumn(name = "customer_id"))
    List<LicenceNumber> licences = new ArrayList<>();

    @Version
    Long version;

    /** The number that a customer gave for a class of regulated goods. */
    @Embeddable
    record LicenceNumber(@Column(name = "licence_class") String licenceClass, String number) {}
}
