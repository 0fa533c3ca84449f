package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "ledger_head")
public class LedgerHeadEntity {
    @Id
    int id;

    long lastNumber;
    String lastHash;
}
