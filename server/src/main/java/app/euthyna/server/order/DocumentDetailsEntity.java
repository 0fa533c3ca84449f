package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(DocumentDetailsEntity.Key.class)
@Table(name = "document_details")
public class DocumentDetailsEntity {
    @Id
    String documentKind;

    @Id
    String documentNumber;

    @Id
    long orderId;

    String details;

    public record Key(String documentKind, String documentNumber, long orderId) {}
}
