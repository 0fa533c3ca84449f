package app.euthyna.server.goods;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "stock_movement")
public class StockMovementEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long itemId;
    long siteId;
    BigDecimal quantity;
    BigDecimal stockValue;
    String documentKind;
    String documentNumber;
    LocalDate movedOn;
}
