package app.euthyna.server.goods;

import app.euthyna.core.goods.Shelf;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.util.Currency;

@Entity
@Table(name = "shelf")
public class ShelfEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long siteId;
    long itemId;
    BigDecimal onHand = BigDecimal.ZERO;
    BigDecimal reserved = BigDecimal.ZERO;
    BigDecimal stockValue = BigDecimal.ZERO;

    @Version
    Long version;

    Shelf toCore(String site, String item, Currency currency) {
        return new Shelf(site, item, new Quantity(onHand), new Quantity(reserved), new Money(stockValue, currency));
    }

    void write(Shelf shelf) {
        onHand = shelf.onHand().value();
        reserved = shelf.reserved().value();
        stockValue = shelf.value().amount();
    }
}
