package app.euthyna.server.goods;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "offer_queue")
public class OfferQueueEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long itemId;
    long siteId;
    Instant queuedAt;
    String queuedBy;
}
