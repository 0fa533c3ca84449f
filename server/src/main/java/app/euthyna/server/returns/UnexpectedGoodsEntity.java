package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "unexpected_goods")
public class UnexpectedGoodsEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    Long customerId;
    String sender;
    Long returnId;
    long itemId;
    BigDecimal quantity;
    BigDecimal leftOver;
    long siteId;
    LocalDate cameOn;
    String takenBy;
    String remark;

    @Version
    Long version;
}
