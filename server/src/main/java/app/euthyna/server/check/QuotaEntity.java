package app.euthyna.server.check;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "quota")
public class QuotaEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long itemId;
    String scope;
    String scopeKey;
    LocalDate seasonFrom;
    LocalDate seasonTo;
    BigDecimal quantity;
}
