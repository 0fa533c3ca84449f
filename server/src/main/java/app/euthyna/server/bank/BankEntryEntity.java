package app.euthyna.server.bank;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "bank_entry")
public class BankEntryEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long statementId;
    int no;
    String reference;
    LocalDate bookedOn;
    BigDecimal amount;
    String currency;
    String payer;
    String payerAccount;
    String creditorReference;
    String remittance;
    String state;
    String why;
}
