package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(AttachmentPartEntity.Key.class)
@Table(name = "attachment_part")
public class AttachmentPartEntity {
    @Id
    long attachmentId;

    @Id
    int partNo;

    byte[] content;

    public record Key(long attachmentId, int partNo) {}
}
