package app.euthyna.server.goods;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@IdClass(StockClaimEntity.Key.class)
@Table(name = "stock_claim")
public class StockClaimEntity {
    @Id
    long orderId;

    @Id
    int lineNo;

    long itemId;
    long siteId;
    LocalDate requestedOn;
    long clearing;
    BigDecimal reserved;
    BigDecimal waiting;
    boolean waits;

    public record Key(long orderId, int lineNo) {}
}
