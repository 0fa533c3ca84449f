package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.LocalDate;

@Entity
@Table(name = "dispatch")
public class DispatchEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long orderId;
    long siteId;

    @Enumerated(EnumType.STRING)
    Dispatch.State state;

    LocalDate stagedOn;
    LocalDate departedOn;

    @Version
    Long version;

    String carrier;
    String carrierReference;
    String carrierFailure;
    LocalDate reversedOn;
    Long reversedMoment;
}
