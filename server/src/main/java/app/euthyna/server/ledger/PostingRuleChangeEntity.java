package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "posting_rule_change")
public class PostingRuleChangeEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    Instant changedAt;
    String changedBy;
    String sentence;
    String reason;
}
