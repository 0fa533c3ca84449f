package app.euthyna.server.platform;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "company")
public class CompanyEntity {
    @Id
    int id;

    String name;
    String currency;
    boolean demo;
    String street = "";
    String postcode = "";
    String town = "";
    String country = "";
    String vatId = "";
    String iban = "";
    String timeZone;
}
