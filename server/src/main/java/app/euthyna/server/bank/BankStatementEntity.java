package app.euthyna.server.bank;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "bank_statement")
public class BankStatementEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String statementId;
    String account;
    String fileName;
    String fileHash;
    LocalDate fromDate;
    LocalDate toDate;
    BigDecimal opening;
    BigDecimal closing;
    Instant readAt;
    String readBy;
}
