package app.euthyna.server.paper;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "printing")
public class PrintingEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long runId;
    String paper;
    String documentNumber;
    int copyNo;
}
