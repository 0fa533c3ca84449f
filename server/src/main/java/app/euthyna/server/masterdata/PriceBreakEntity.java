package app.euthyna.server.masterdata;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "price_break")
public class PriceBreakEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long itemId;
    Long customerId;
    BigDecimal fromQuantity;
    BigDecimal unitPrice;
}
