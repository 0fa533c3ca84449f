package app.euthyna.server.masterdata;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "customer_licence")
public class CustomerLicenceEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long customerId;
    String licenceClass;
    String number;
}
