package app.euthyna.server.masterdata;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;

@Entity
@Table(name = "item")
public class ItemEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String code;
    String name;
    String searchKey;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    String itemClass;
    String unit;
    BigDecimal price;
    BigDecimal floorPrice;

    @Enumerated(EnumType.STRING)
    Vat.Category vatCategory;

    BigDecimal vatRate;
    BigDecimal minStock;
    String regulated;

    @Version
    Long version;

    int leadDays;

    /** Of a unit, in kilograms; null where nobody has said so. */
    BigDecimal weight;

    /** The same in cubic metres. */
    BigDecimal volume;
}
