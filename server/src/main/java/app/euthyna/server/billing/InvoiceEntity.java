package app.euthyna.server.billing;

import jakarta.persistence.CascadeType;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.OneToMany;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "invoice")
class InvoiceEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "customer_id")
    Long customerId;

    @Column(name = "invoiced_on")
    LocalDate invoicedOn;

    @Column(name = "due_on")
    LocalDate dueOn;

    String text;
    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;

    @Column(name = "open_amount")
    BigDecimal openAmount;

    @Column(name = "reversed_on")
    LocalDate reversedOn;

    @Column(name = "reversed_moment")
    Long reversedMoment;

    @OneToMany(mappedBy = "invoice", cascade = CascadeType.ALL)
    List<InvoiceLineEntity> lines = new ArrayList<>();

    @Version
    Long version;
}
