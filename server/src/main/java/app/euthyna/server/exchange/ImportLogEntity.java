package app.euthyna.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "import_log")
public class ImportLogEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String fileName;
    String fileHash;
    boolean whole;
    int rowsRead;
    int ordersFound;
    int ordersDone;
    Instant takenAt;
    Instant touchedAt;
    String takenBy;
    String result;
}
