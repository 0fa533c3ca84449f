package app.euthyna.server.goods;

import app.euthyna.core.goods.Shelf;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.util.Currency;

@Entity
@Table(name = "shelf")
class ShelfEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @Column(name = "site_id")
    Long siteId;

    @Column(name = "item_id")
    Long itemId;

    @Column(name = "on_hand")
    BigDecimal onHand = BigDecimal.ZERO;

    BigDecimal reserved = BigDecimal.ZERO;

    @Column(name = "stock_value")
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
