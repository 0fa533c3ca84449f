package app.euthyna.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "stock_file")
public class StockFileEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String fileHash;
    String fileName;
    Instant takenAt;
    String takenBy;
}
