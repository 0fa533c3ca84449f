package app.euthyna.server.goods;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "stock_count")
public class StockCountEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long itemId;
    long siteId;
    BigDecimal counted;
    BigDecimal quantity;
    BigDecimal stockValue;
    LocalDate countedOn;
    String reason;
}
