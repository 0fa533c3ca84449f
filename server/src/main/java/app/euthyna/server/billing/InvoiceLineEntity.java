package app.euthyna.server.billing;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.FetchType;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "invoice_line")
class InvoiceLineEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @ManyToOne(fetch = FetchType.LAZY)
    @JoinColumn(name = "invoice_id")
    InvoiceEntity invoice;

    @Column(name = "line_no")
    int lineNo;

    @Column(name = "root_order_id")
    Long rootOrderId;

    @Column(name = "order_line_no")
    int orderLineNo;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    @Column(name = "item_code")
    String itemCode;

    String description;
    BigDecimal quantity;

    @Column(name = "unit_price")
    BigDecimal unitPrice;

    @Column(name = "discount_percent")
    BigDecimal discountPercent;

    BigDecimal net;
    BigDecimal deferred;

    @Enumerated(EnumType.STRING)
    @Column(name = "vat_category")
    Vat.Category vatCategory;

    @Column(name = "vat_rate")
    BigDecimal vatRate;

    @ElementCollection
    @CollectionTable(name = "invoice_line_source", joinColumns = @JoinColumn(name = "invoice_line_id"))
    List<Source> sources = new ArrayList<>();

    @Embeddable
    record Source(
            @Column(name = "root_order_id") Long rootOrderId,
            @Column(name = "dispatch_id") Long dispatchId,
            @Column(name = "dispatch_line_no") int dispatchLineNo,
            BigDecimal quantity,
            BigDecimal cost,
            boolean ahead,
            BigDecimal earned) {}
}
