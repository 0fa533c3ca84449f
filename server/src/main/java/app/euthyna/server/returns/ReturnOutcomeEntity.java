package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "return_outcome")
public class ReturnOutcomeEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long partId;
    String kind;
    LocalDate decidedOn;
    BigDecimal quantity;
    BigDecimal cost;
    String site;
    String remark;
    long moment;
}
