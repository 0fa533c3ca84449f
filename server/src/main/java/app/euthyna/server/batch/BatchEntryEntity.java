package app.euthyna.server.batch;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(BatchEntryEntity.Key.class)
@Table(name = "batch_entry")
public class BatchEntryEntity {
    @Id
    long batchId;

    @Id
    int no;

    String subjectKind;
    String subject;
    String request;
    String state;
    String code;
    String sentence;
    String resultKind;
    String result;

    public record Key(long batchId, int no) {}
}
