package app.euthyna.server.masterdata;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "company_rules")
public class CompanyRulesEntity {
    @Id
    long versionNo;

    LocalDate changedOn;
    String changedBy;
    String reason;
    String rules;
}
