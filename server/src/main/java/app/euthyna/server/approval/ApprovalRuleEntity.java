package app.euthyna.server.approval;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "approval_rule")
public class ApprovalRuleEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    Long customerId;
    String kind;
    BigDecimal figure;
    String orderKind;
    String level;
}
