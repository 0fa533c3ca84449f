package app.euthyna.server.masterdata;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;

@Entity
@Table(name = "item")
class ItemEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String code;
    String name;

    @Column(name = "search_key")
    String searchKey;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    @Column(name = "item_class")
    String itemClass;

    String unit;
    BigDecimal price;

    @Column(name = "floor_price")
    BigDecimal floorPrice;

    @Enumerated(EnumType.STRING)
    @Column(name = "vat_category")
    Vat.Category vatCategory;

    @Column(name = "vat_rate")
    BigDecimal vatRate;

    @Column(name = "min_stock")
    BigDecimal minStock;

    @Column(name = "lead_days")
    int leadDays;

    String regulated;

    @Version
    Long version;
}
