package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "posting_rule")
public class PostingRuleEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String role;
    String customerClass;
    String itemClass;
    String site;
    String vat;
    String account;
}
